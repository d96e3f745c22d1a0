"use client";
import { ticksOf } from "@/core/timeline/scale";
import type { TimelineMark, TimelineView } from "@/core/timeline/view";
import type { Drawn } from "./use-drawn";

/** Narrower than this a sprint has no name. */
const NAMED_FROM = 44;

/** Months or weeks, the sprints as a line that turns from one to the next, and today. */
export function TimelineAxis({ view, drawn }: { view: TimelineView; drawn: Drawn }) {
  const { range, day, at } = drawn;
  const inRange = ({ from, to }: TimelineMark) => to >= range.first && from <= range.last;
  const sprints = view.sprints.filter(inRange);
  return (
    <>
      {ticksOf(range, day).map((tick) => (
        <span
          key={tick.day}
          className="tl-tick"
          data-strong={tick.strong || undefined}
          style={{ left: at(tick.day) }}
        >
          {tick.label}
        </span>
      ))}
      <svg className="tl-sprints" width={at(range.last + 1)} height={24} aria-hidden="true">
        <path d={stairs(sprints, at)} />
      </svg>
      {sprints.map((sprint, i) => {
        const width = at(sprint.to + 1) - at(sprint.from);
        return width < NAMED_FROM ? null : (
          <span
            key={sprint.id}
            className="tl-sprint"
            data-low={i % 2 === 1 || undefined}
            style={{ left: Math.max(0, at(sprint.from)) + 5, maxWidth: width - 8 }}
          >
            {sprint.name}
          </span>
        );
      })}
      <span className="tl-today-word" style={{ left: at(view.today) + 4 }}>
        today
      </span>
    </>
  );
}

/** Sprints one behind the other, high and low by turns. */
function stairs(sprints: readonly TimelineMark[], at: (day: number) => number): string {
  let before: number | null = null;
  return sprints
    .map(({ from, to }, i) => {
      const y = i % 2 === 0 ? 2 : 12;
      const begin = before === from - 1 ? `L${at(from)} ${y}` : `M${at(from)} ${y}`;
      before = to;
      return `${begin}L${at(to + 1)} ${y}`;
    })
    .join("");
}

/** The names of the releases, below all rows in sight. */
export function TimelineFlags({ view, drawn }: { view: TimelineView; drawn: Drawn }) {
  const { range, at } = drawn;
  return view.releases
    .filter(({ to }) => to >= range.first && to <= range.last)
    .map(({ id, name, to }) => (
      <span key={id} className="tl-flag" style={{ left: at(to + 1) }}>
        {name}
      </span>
    ));
}

/** What stands behind all rows: lines of the axis, releases and today. */
export function TimelineLines({ view, drawn }: { view: TimelineView; drawn: Drawn }) {
  const { range, day, at } = drawn;
  const releases = view.releases.filter(({ to }) => to >= range.first && to <= range.last);
  return (
    <div className="tl-lines" aria-hidden="true">
      {ticksOf(range, day).map((tick) => (
        <i key={tick.day} data-strong={tick.strong || undefined} style={{ left: at(tick.day) }} />
      ))}
      {releases.map((release) => (
        <i key={release.id} data-release style={{ left: at(release.to + 1) }} />
      ))}
      <i data-today style={{ left: at(view.today) }} />
    </div>
  );
}
