"use client";
import { shortDate } from "@/core/calendar/day-words";
import { isoDate } from "@/core/calendar/zone";
import { movableParts, type Bar } from "@/core/timeline/bars";
import type { TimelineItem } from "@/core/timeline/view";
import type { BarMoves } from "./use-bar-moves";

const said = (day: number) => shortDate(isoDate(day));

/** What a bar says to who does not see it. */
export function barWords({ key, title, dueOn, below }: TimelineItem, bar: Bar): string {
  const parts = [
    `${key} ${title}: ${said(bar.from)} to ${said(bar.to)}`,
    ...(bar.by === "sprint" ? ["by its sprint"] : []),
    ...(below ? [`${below.done} of ${below.items} done`] : []),
    ...(bar.segments.some(({ kind }) => kind === "blocked") ? ["blocked"] : []),
    ...(bar.fade ? [`85 % sure by ${said(bar.fade.sure)}`] : []),
    ...(dueOn === null ? [] : [`due ${said(dueOn)}`]),
  ];
  return parts.join(", ");
}

/** What stands behind a bar. */
function wordsBehind(item: TimelineItem, bar: Bar, today: number): string {
  if (bar.fade) {
    if (bar.segments.some(({ kind }) => kind === "blocked"))
      return `blocked, 85 % by ${said(bar.fade.sure)}`;
    return `85 % by ${said(bar.fade.sure)}`;
  }
  if (bar.segments.some(({ kind }) => kind === "blocked")) return "blocked";
  return item.stateKind !== "finished" && bar.to < today ? `was to end ${said(bar.to)}` : "";
}

/** A bar with what is done, worked on, blocked and planned of it, what is foretold, and its promise. */
export function TimelineBar({
  item,
  bar,
  at,
  today,
  conflict,
  moves,
  onOpen,
}: {
  item: TimelineItem;
  bar: Bar;
  at: (day: number) => number;
  today: number;
  /** Whether it stands before something that it waits for. */
  conflict: boolean;
  moves: BarMoves;
  onOpen: () => void;
}) {
  const planned = moves.plannedOf(item, bar);
  const parts = movableParts(item);
  const left = at(bar.from);
  const width = at(bar.to + 1) - left;
  const fade = bar.fade;
  const words = wordsBehind(item, bar, today);
  return (
    <>
      {fade && <Fade fade={fade} at={at} />}
      <button
        type="button"
        className="tl-bar"
        data-large={item.below !== null || undefined}
        data-by={bar.by}
        data-conflict={conflict || undefined}
        data-moves={parts.includes("whole") || undefined}
        style={{ left, width }}
        aria-label={barWords(item, bar)}
        title={barWords(item, bar)}
        onClick={onOpen}
        onKeyDown={moves.onKey(item, bar)}
        onBlur={moves.onBlur}
        {...moves.heldBy(item, bar, "whole")}
      >
        {bar.segments.map(({ kind, from, to }) => (
          <i
            key={from}
            data-kind={kind}
            style={{ left: at(from) - left, width: at(to + 1) - at(from) }}
          />
        ))}
      </button>
      {parts.includes("begin") && (
        <span className="tl-end" style={{ left: left - 4 }} {...moves.heldBy(item, bar, "begin")} />
      )}
      {parts.includes("end") && (
        <span
          className="tl-end"
          style={{ left: left + width - 4 }}
          {...moves.heldBy(item, bar, "end")}
        />
      )}
      {planned && (planned.plannedFrom ?? planned.plannedTo) !== null && (
        <Ghost from={planned.plannedFrom ?? bar.from} to={planned.plannedTo ?? bar.to} at={at} />
      )}
      {item.dueOn !== null && (
        <span
          className="tl-due"
          data-late={
            (item.stateKind !== "finished" && item.dueOn < (fade?.sure ?? bar.to)) || undefined
          }
          data-fixed={item.fixedDate || undefined}
          style={{ left: at(item.dueOn + 1) }}
          title={`${item.fixedDate ? "fixed date" : "due"} ${said(item.dueOn)}`}
        />
      )}
      {words && !planned && (
        <span className="tl-words" style={{ left: placeOfWords(item, bar, at) }}>
          {words}
        </span>
      )}
    </>
  );
}

/** A promise within so many pixels behind a bar has the words behind it. */
const NEAR = 110;

function placeOfWords({ dueOn }: TimelineItem, bar: Bar, at: (day: number) => number): number {
  const end = at((bar.fade?.sure ?? bar.to) + 1);
  const due = dueOn === null ? end : at(dueOn + 1);
  return (due > end && due - end < NEAR ? due + 4 : end) + 6;
}

/** Full to the day of an even chance, then to a point on the day of 85 %. */
function Fade({ fade, at }: { fade: NonNullable<Bar["fade"]>; at: (day: number) => number }) {
  const left = at(fade.from);
  const width = at(fade.sure + 1) - left;
  const even = Math.min(width, Math.max(0, at(fade.even + 1) - left));
  const share = width === 0 ? 100 : (100 * even) / width;
  return (
    <span
      className="tl-fade"
      style={{
        left,
        width,
        clipPath: `polygon(0 0, ${share}% 0, 100% 50%, ${share}% 100%, 0 100%)`,
      }}
    />
  );
}

function Ghost({ from, to, at }: { from: number; to: number; at: (day: number) => number }) {
  return (
    <span className="tl-ghost" style={{ left: at(from), width: at(to + 1) - at(from) }}>
      <b>
        {said(from)} – {said(to)}
      </b>
    </span>
  );
}
