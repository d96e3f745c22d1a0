"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CountedView } from "@/core/item/list/counted-values";
import type { FactName } from "@/core/condition/facts";
import type { BacklogLook } from "@/core/plan/backlog-look";
import { planContract } from "@/core/plan/contract";
import { Button } from "@/ui/kit/button";
import { Divided } from "@/ui/kit/divided";
import { queryOf } from "@/ui/kit/request";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { CountedValues } from "@/ui/view/counted-values";
import { useStanding } from "@/ui/view/use-counted";
import type { Backlog } from "./use-backlog";

/** What is counted where nobody has chosen yet. */
const USUAL: readonly FactName[] = ["priority", "assigneeId", "typeId"];

/** Left of the rows: the values of chosen fields, with how many of them have each. */
export function BacklogCounts({ backlog }: { backlog: Backlog }) {
  return backlog.look.counts.length === 0 ? null : (
    <Divided label="Width of the counted values" part="left" storedAs="counted-width" first={212}>
      <Counts backlog={backlog} />
    </Divided>
  );
}

function Counts({ backlog: { view, look, filter, changeLook } }: { backlog: Backlog }) {
  const [held, setHeld] = useState(false);
  const { data, error } = useQuery({
    ...queryOf(planContract.counts, {
      params: { key: view.project.key },
      query: { filter: filter.text, order: look.order, counts: look.counts.join(",") },
    }),
    placeholderData: (before: CountedView | undefined) => before,
  });
  return (
    <CountedValues
      look={{ filter: filter.filter, counts: look.counts, sum: "estimate" }}
      change={({ filter: narrowed, counts }) => {
        if (narrowed) filter.narrow(narrowed);
        if (counts) changeLook({ counts });
      }}
      vocabulary={view.vocabulary}
      zone={view.project.zone}
      counted={useStanding(data, held)}
      error={error}
      onHeld={setHeld}
    />
  );
}

/** Opens and closes the values with counts. */
export function BacklogCountsButton({
  look,
  changeLook,
}: {
  look: BacklogLook;
  changeLook: (parts: Partial<BacklogLook>) => void;
}) {
  const open = look.counts.length > 0;
  const [last, setLast] = useState<readonly FactName[]>(open ? look.counts : USUAL);
  const turn = () => {
    if (open) setLast(look.counts);
    changeLook({ counts: open ? [] : last });
  };
  useScreenKeys({ f: turn }, { part: "counts", words: { f: "Values with counts" } });
  return (
    <Button small look="quiet" aria-pressed={open} onClick={turn} title="Values with counts (f)">
      Counts <kbd>f</kbd>
    </Button>
  );
}
