"use client";
import type { BrokenLimit } from "@/core/flow/broken-limit";
import { Popover } from "@/ui/kit/popover";

/** How many limits do not hold just now; it opens which, and by how much. */
export function BrokenLimits({ limits }: { limits: readonly BrokenLimit[] }) {
  const words = limits.length === 1 ? "limit" : "limits";
  if (limits.length === 0)
    return (
      <span>
        <b className="text-ink">0</b> {words} broken
      </span>
    );
  return (
    <span>
      <Popover
        label="Limits that do not hold"
        side="top"
        trigger={
          <button
            type="button"
            className="font-bold text-alarm underline-offset-4 hover:underline"
            aria-label={`${limits.length} ${words} broken: which`}
          >
            {limits.length}
          </button>
        }
      >
        <ul className="flex min-w-[260px] flex-col gap-1 text-[13px]">
          {limits.map(({ id, name, words: by }) => (
            <li key={id} className="flex justify-between gap-6">
              <span>{name}</span>
              <b className="text-alarm">{by}</b>
            </li>
          ))}
        </ul>
      </Popover>{" "}
      {words} broken
    </span>
  );
}
