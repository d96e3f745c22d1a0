"use client";
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import type { BulkAct } from "@/core/item/bulk/act";
import { bulkContract, type BulkItems } from "@/core/item/bulk/contract";
import { forecastWords, type BulkForecast } from "@/core/item/bulk/job";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import { AskForm, type Answers } from "@/ui/item/ask-form";
import { Button } from "@/ui/kit/button";
import { FormProblem } from "@/ui/kit/note";
import { problemOf, queryOf } from "@/ui/kit/request";

export interface Given {
  projectKey: string;
  items: BulkItems;
  vocabulary: Vocabulary;
  start: (items: BulkItems, act: BulkAct) => Promise<void>;
  onDone: () => void;
}

/**
 * The end of every form about several items: what would happen, what could still be answered, and
 * the button that does it.
 */
export function BulkForm({
  given: { projectKey, items, vocabulary, start, onDone },
  act,
  verb,
  children,
}: {
  given: Given;
  /** Null while something is still to be chosen. */
  act: BulkAct | null;
  verb: string;
  children: ReactNode;
}) {
  const [answered, setAnswered] = useState<Answers | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const whole = act && answered ? withAnswers(act, answered) : act;
  const { data, error } = useQuery({
    ...queryOf(bulkContract.forecast, {
      params: { key: projectKey },
      body: { items, act: whole ?? { kind: "rank", end: "top" } },
    }),
    enabled: whole !== null,
    staleTime: 0,
  });
  const forecast = whole === null ? undefined : data;
  const failed = problem ?? (whole && error ? problemOf(error).sentence : null);
  const run = async () => {
    if (!whole) return;
    try {
      await start(items, whole);
      onDone();
    } catch (refused) {
      const { sentence, help } = problemOf(refused);
      setProblem(`${sentence} ${help}`);
    }
  };
  return (
    <div className="flex flex-col gap-3">
      {children}
      {whole && <Told forecast={forecast} />}
      {!answered && forecast && forecast.asks.length > 0 && (
        <AskForm
          asks={forecast.asks}
          names={vocabulary}
          verb="Say it for all"
          onAnswer={setAnswered}
          onCancel={onDone}
        />
      )}
      {failed && <FormProblem>{failed}</FormProblem>}
      <Button look="accent" disabled={!forecast || forecast.goes === 0} onClick={() => void run()}>
        {forecast ? `${verb} ${counted(goesOf(forecast), "item")}` : verb}
      </Button>
    </div>
  );
}

/** An act with what was still asked for, the same for all. */
function withAnswers(act: BulkAct, { answers, overrideReason }: Answers): BulkAct {
  if (act.kind === "move") return { ...act, answers, overrideReason };
  if (act.kind !== "set") return act;
  return { ...act, changes: { ...act.changes, ...answers } as typeof act.changes, overrideReason };
}

/** How many would go, were the rest like those that were tried. */
const goesOf = ({ goes, tried, total }: BulkForecast): number =>
  tried < total ? total - (tried - goes) : goes;

function Told({ forecast }: { forecast: BulkForecast | undefined }) {
  return (
    <div aria-live="polite" className="border-t border-line pt-2 text-[13px]">
      {forecast ? forecastWords(forecast) : "Asking what would happen…"}
      {forecast?.leftOut.map(({ sentence, keys }) => (
        <p key={sentence} className="key truncate" title={keys.join(", ")}>
          {keys.join(", ")}
        </p>
      ))}
    </div>
  );
}
