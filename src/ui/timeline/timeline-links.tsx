"use client";
import type { TimelineView } from "@/core/timeline/view";
import type { Drawn } from "./use-drawn";

/** What waits for what: from the end of the one to the beginning of the other. */
export function TimelineLinks({ view, drawn }: { view: TimelineView; drawn: Drawn }) {
  const { rows, height, at, conflicts, whole, range } = drawn;
  const [first, last] = [drawn.drawn.at(0)?.index ?? 0, drawn.drawn.at(-1)?.index ?? 0];
  const placeOf = new Map(
    rows.flatMap((row, i) => (row.kind === "item" ? [[row.item.id, { i, bar: row.bar }]] : [])),
  );
  const isBroken = new Set(conflicts.map(({ id, forId }) => `${id} ${forId}`));
  const shown = view.waits.flatMap(({ id, forId }) => {
    const [own, other] = [placeOf.get(id), placeOf.get(forId)];
    if (!own || !other) return [];
    const inSight = [own.i, other.i].some((i) => i >= first && i <= last);
    if (!inSight) return [];
    const from = { x: at(other.bar.to + 1), y: (other.i + 0.5) * height };
    const to = { x: at(own.bar.from), y: (own.i + 0.5) * height };
    return [{ key: `${id} ${forId}`, from, to, broken: isBroken.has(`${id} ${forId}`) }];
  });
  return (
    <svg
      className="tl-links"
      width={at(range.last + 1)}
      height={whole}
      role="presentation"
      aria-hidden="true"
    >
      {shown.map(({ key, from, to, broken }) => (
        <g key={key} data-broken={broken || undefined}>
          <path
            d={`M${from.x} ${from.y}C${from.x + 28} ${from.y} ${to.x - 28} ${to.y} ${to.x - 2} ${to.y}`}
          />
          <path
            className="tl-arrow"
            d={`M${to.x - 7} ${to.y - 4}L${to.x - 1} ${to.y}L${to.x - 7} ${to.y + 4}z`}
          />
        </g>
      ))}
    </svg>
  );
}
