"use client";
import { TextButton } from "@/ui/kit/button";
import { wordOptions, Select, namedOptions } from "@/ui/kit/select";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { CLASSES_OF_SERVICE } from "@/core/item/fields";
import { keyOf, problemOf, queryOf } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { ofDesign, useReadAgain } from "@/ui/kit/use-read-again";
import type { LearnView } from "@/core/flow/learn-view";
import { flowContract } from "@/core/flow/contract";
import { type FlowQuery, PERIODS } from "@/core/flow/request";
import { LearnFigures } from "./learn-figures";
import { LearnCharts } from "./learn-charts";

/** How work has flowed, from the history alone. */
export function LearnScreen({ initial }: { initial: LearnView }) {
  const client = useQueryClient();
  const [query, setQuery] = useState(initial.query);
  const params = { key: initial.project.key };
  const first = query === initial.query;
  const { data, error, isPlaceholderData } = useQuery({
    ...queryOf(flowContract.learn, { params, query }),
    initialData: first ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const view = data ?? initial;
  useReadAgain(ofDesign, () => client.invalidateQueries({ queryKey: keyOf(flowContract.learn) }));
  const change = (next: typeof query) => {
    setQuery(next);
    const params = new URLSearchParams(
      Object.entries(next).filter(([, v]) => v) as [string, string][],
    );
    window.history.replaceState(null, "", `?${params}`);
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">How {view.project.name.toLowerCase()} work flowed</h1>
        <div
          className="flex flex-wrap items-center gap-1.5 text-[13.5px] text-ink-soft"
          role="group"
          aria-label="What the charts show"
        >
          the last
          <Select
            label="Period"
            words
            value={query.period}
            options={wordOptions(Object.keys(PERIODS))}
            onChange={(next) => change({ ...query, period: next as FlowQuery["period"] })}
          />
          of
          <Select
            label="Item type"
            words
            value={query.type ?? ""}
            options={[{ value: "", label: "all types" }, ...namedOptions(view.types)]}
            onChange={(next) => change({ ...query, type: next || undefined })}
          />
          in
          <Select
            label="Class of service"
            words
            value={query.class ?? ""}
            options={[{ value: "", label: "all classes" }, ...wordOptions(CLASSES_OF_SERVICE)]}
            onChange={(next) =>
              change({ ...query, class: (next || undefined) as FlowQuery["class"] })
            }
          />
          {(query.type || query.class) && (
            <TextButton onClick={() => change({ period: query.period })}>clear</TextButton>
          )}
          <span>
            {shortDate(view.from)} to {shortDate(view.to)}
          </span>
          {isPlaceholderData && <span role="status">counting…</span>}
          {error && (
            <span role="alert" className="text-alarm">
              {problemOf(error).sentence}
            </span>
          )}
        </div>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <LearnFigures view={view} />
        <LearnCharts view={view} query={query} />
      </div>
    </div>
  );
}
