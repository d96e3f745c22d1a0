"use client";
import { useState } from "react";
import { limitState, limitWords, NO_LIMIT } from "@/core/board/limit";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import {
  BACKLOG_ORDERS,
  isBacklogColumn,
  MOST_BACKLOG_COLUMNS,
  type BacklogColumn,
} from "@/core/plan/backlog-look";
import { REACH_WEEKS, USUAL_REACH_WEEKS } from "@/core/plan/reach-view";
import { InNoColumn } from "@/ui/board/in-no-column";
import { NewItem } from "@/ui/item/new-item";
import { ButtonLink } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { ColumnChooser } from "@/ui/table/column-chooser";
import { columnName } from "./backlog-columns";
import { BacklogCountsButton } from "./backlog-counts";
import { BacklogFilterButton } from "./backlog-filter";
import type { Backlog } from "./use-backlog";
import type { ReachHandle } from "./use-reach";

/** How much waits, how it is looked at, and whether there is room for it where it is pulled to. */
export function BacklogHead({ backlog, reach }: { backlog: Backlog; reach: ReachHandle }) {
  const { view, readAgain } = backlog;
  const [creating, setCreating] = useState(false);
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2">
      <h1 className="text-[18px]">Backlog</h1>
      <HowMuch backlog={backlog} />
      <LookedAt backlog={backlog} />
      <span className="flex-1" />
      <BacklogFilterButton filter={backlog.filter} vocabulary={view.vocabulary} />
      <ReachFrom reach={reach} brief={backlog.filter.narrows} />
      <InNoColumn
        astray={view.astray}
        projectKey={view.project.key}
        mayDesign={view.rights.design}
      />
      <ButtonLink small look="quiet" href={`/p/${view.project.key}/flow?as=timeline`}>
        Timeline
      </ButtonLink>
      {view.rights.edit && (
        <NewItem
          projectKey={view.project.key}
          types={view.types}
          ownFields={view.ownFields}
          people={view.people}
          open={creating}
          onOpenChange={setCreating}
          onCreated={() => void readAgain()}
        />
      )}
    </div>
  );
}

/** How many items wait, or are like what it is narrowed to, and the limit of what they are pulled into. */
function HowMuch({ backlog: { view, sections, look, filter } }: { backlog: Backlog }) {
  const { pulledInto } = view;
  const limit = pulledInto?.limit ?? NO_LIMIT;
  const state = pulledInto && limitState(pulledInto.holds, limit);
  const shown = sections.reduce((sum, { count }) => sum + (count ?? 0), 0);
  const whole = counted(view.total, "item");
  return (
    <p className="text-ink-soft">
      {!filter.narrows && whole}
      {filter.narrows &&
        (look.order === "one list" ? `${shown} of ${whole}` : counted(shown, "item"))}
      {pulledInto && state && look.order !== "by state" && (
        <>
          {" · "}
          {pulledInto.column.stage} holds{" "}
          <b className={state.kind === "over" ? "text-alarm" : "text-ink"}>
            {limitWords(state, limit)}
          </b>
        </>
      )}
    </p>
  );
}

/** In which parts it stands, and what its rows say. */
function LookedAt({ backlog: { view, look, changeLook } }: { backlog: Backlog }) {
  const { vocabulary, settings } = view;
  const orders = BACKLOG_ORDERS.filter((one) => one !== "by sprint" || settings.usesSprints);
  const offered: BacklogColumn[] = [
    "parent",
    ...factsOffered(vocabulary).filter((fact) => isBacklogColumn(fact)),
  ];
  return (
    <span className="flex items-center gap-2">
      <Select
        words
        label="In which parts it stands"
        value={look.order}
        options={orders.map((one) => ({ value: one, label: one }))}
        onChange={(order) => changeLook({ order })}
      />
      <ColumnChooser
        shown={look.columns}
        offered={offered}
        most={MOST_BACKLOG_COLUMNS}
        nameOf={(column) =>
          column === "parent" ? columnName(column, vocabulary) : factLabel(column, vocabulary)
        }
        onChange={(columns) => changeLook({ columns })}
      />
      <BacklogCountsButton look={look} changeLook={changeLook} />
    </span>
  );
}

/** From what the reach is drawn, or why none is. */
function ReachFrom({
  reach: { data, weeks, setWeeks, ranked },
  brief,
}: {
  reach: ReachHandle;
  /** Whether there is little room for words. */
  brief: boolean;
}) {
  const { reach, past } = data;
  if (!ranked)
    return (
      <span className="text-[13px] text-ink-soft">
        how far it reaches is drawn where it stands by rank
      </span>
    );
  return (
    <span className="flex items-center gap-1 text-[13px] text-ink-soft">
      {reach === null
        ? `${counted(past.weeks, "whole week")} with ${counted(past.finished, "finished item")}: too little to say how far it reaches`
        : brief
          ? "reach"
          : "reach from the last"}
      {(reach !== null || weeks !== USUAL_REACH_WEEKS) && (
        <Select
          plain
          label="From how many weeks the reach is drawn"
          className="!w-auto"
          value={String(weeks)}
          options={REACH_WEEKS.map((n) => ({ value: String(n), label: `${n} weeks` }))}
          onChange={(chosen) => setWeeks(Number(chosen))}
        />
      )}
    </span>
  );
}
