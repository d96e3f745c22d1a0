"use client";
import { counted } from "@/core/formats/counted";
import type { Counted, SprintView } from "@/core/plan/sprint-view";
import { usePanel } from "@/ui/kit/panel-context";

/** What a sprint committed to and came to, each figure with its items behind it. */
export function SprintFigures({ view }: { view: SprintView }) {
  const { sprint, outcome } = view;
  const ended = sprint.standing === "ended";
  if (!outcome) return <Planned view={view} />;
  const { committed, added, takenOut, delivered, carriedOver, interruptions, unsized } = outcome;
  return (
    <section
      aria-label="What it comes to"
      className="flex flex-wrap items-baseline gap-x-6 gap-y-1"
    >
      <Figure title="Committed" of={committed} more={counted(committed.points, "point")} />
      <Figure title="Added" of={added} />
      <Figure title="Taken out" of={takenOut} />
      <Figure title="Finished" of={delivered} more={counted(outcome.velocity, "point")} />
      <Figure title={ended ? "Carried over" : "Open"} of={carriedOver} />
      {total(interruptions) > 0 && (
        <Figure title="Interruptions" of={interruptions} more="no points, yet time" />
      )}
      {total(unsized) > 0 && <Figure title="Finished without a size" of={unsized} />}
      {ended && <EndWords view={view} />}
    </section>
  );
}

const total = ({ ids, unseen }: Counted) => ids.length + unseen;

function Figure({ title, of, more }: { title: string; of: Counted; more?: string }) {
  const { openBehind } = usePanel();
  const n = total(of);
  return (
    <p className="text-[13px]" data-figure={title}>
      <span className="text-ink-soft">{title} </span>
      <button
        type="button"
        className="font-display text-[17px] font-semibold tabular-nums enabled:hover:underline"
        disabled={n === 0}
        onClick={() => openBehind({ title, ...of })}
      >
        {n}
      </button>
      {more && <span className="text-ink-soft"> {more}</span>}
    </p>
  );
}

/** What a sprint that has not begun holds so far. */
function Planned({ view: { open, openUnseen } }: { view: SprintView }) {
  const points = open.reduce((sum, { estimate }) => sum + (estimate ?? 0), 0);
  const unsized = open.filter(({ estimate }) => estimate === null).length;
  return (
    <section aria-label="What it comes to" className="flex flex-wrap items-baseline gap-x-6">
      <Figure
        title="Planned"
        of={{ ids: open.map(({ id }) => id), unseen: openUnseen }}
        more={`${counted(points, "point")}${unsized > 0 ? `, no size on ${unsized}` : ""}`}
      />
    </section>
  );
}

function EndWords({ view: { sprint } }: { view: SprintView }) {
  const { reached, words, endedBy } = sprint;
  return (
    <p className="basis-full text-[13px]">
      {reached !== null && (
        <b className={reached ? "text-accent" : "text-alarm"}>
          {reached ? "The goal was reached." : "The goal was not reached."}{" "}
        </b>
      )}
      {words}
      {endedBy && <span className="text-ink-soft"> {endedBy}</span>}
    </p>
  );
}
