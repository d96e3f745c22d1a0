"use client";
import type { Card } from "@/core/board/card";
import type { WalkSection } from "@/core/walk/sections";

/** The stretches of a walk, with a mark for each item: seen or not, and where everybody is. */
export function WalkCourse({
  sections,
  seen,
  currentId,
  onGo,
}: {
  sections: readonly WalkSection[];
  seen: ReadonlySet<string>;
  currentId: string | null;
  /** Null where somebody only follows. */
  onGo: ((card: Card) => void) | null;
}) {
  return (
    <nav
      aria-label="The walk"
      className="w-[236px] shrink-0 overflow-y-auto border-r border-line bg-sheet px-4 py-4"
    >
      <ol className="flex flex-col gap-1">
        {sections.map(({ id, name, part, items }) => {
          const here = items.some((card) => card.id === currentId);
          const done = items.every((card) => seen.has(card.id)) && !here;
          return (
            <li
              key={id}
              aria-current={here ? "step" : undefined}
              data-section={name}
              className={`border-l-[3px] py-1.5 pl-2.5 ${part === "working" ? "ml-4 border-accent" : "border-rest"} ${here ? "bg-accent-soft" : ""}`}
            >
              <p
                className={`flex items-center gap-2 ${here ? "font-bold" : ""} ${done ? "text-ink-soft line-through" : ""}`}
              >
                <span className="min-w-0 flex-1 truncate" title={name}>
                  {name}
                </span>
                <span className="figures text-[12.5px] font-normal text-ink-soft">
                  {items.filter((card) => seen.has(card.id)).length} of {items.length}
                </span>
              </p>
              <div className="mt-1 flex flex-wrap gap-[3px]">
                {items.map((card) => (
                  <button
                    key={card.id}
                    type="button"
                    tabIndex={-1}
                    disabled={onGo === null}
                    className="walk-mark"
                    data-seen={seen.has(card.id)}
                    data-here={card.id === currentId}
                    data-blocked={card.openBlockers.length > 0}
                    title={`${card.key} ${card.title}`}
                    aria-label={`${card.key} ${card.title}${seen.has(card.id) ? ", seen" : ""}`}
                    onClick={() => onGo?.(card)}
                  />
                ))}
              </div>
            </li>
          );
        })}
      </ol>
      <p className="mt-4 text-[12.5px] text-ink-soft">
        Blocked and oldest first in each. What nothing is wrong with is passed by with one key.
      </p>
    </nav>
  );
}
