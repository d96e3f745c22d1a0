"use client";

import { URGENCIES, IMPACTS, type TriageRules } from "@/core/intake/triage-rules";
import { PRIORITIES, type Priority } from "@/core/item/fields";
import { Select, wordOptions } from "@/ui/kit/select";

/** The stronger the priority, the darker; the word stands in it. */
const SHADE: Record<Priority, string> = {
  low: "",
  normal: "bg-well",
  high: "bg-signal-soft text-signal-ink",
  urgent: "bg-alarm-soft text-alarm font-semibold",
};

/** Which priority is proposed for what it hits and how soon it is needed. */
export function PriorityGrid({
  draft,
  set,
}: {
  draft: TriageRules;
  set: (change: Partial<TriageRules>) => void;
}) {
  return (
    <section aria-label="Priority">
      <h2 className="text-[15px]">Priority from impact and urgency</h2>
      <p className="mb-2 text-[13px] text-ink-soft">
        At triage two plain questions are answered; this proposes the priority, which can still be
        changed.
      </p>
      <table className="w-full border-collapse text-[13px]">
        <thead>
          <tr>
            <th className="py-1 text-left font-semibold">hits ↓ and can wait →</th>
            {URGENCIES.map((u) => (
              <th key={u} scope="col" className="px-1 py-1 text-left font-semibold">
                {u}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {IMPACTS.map((impact) => (
            <tr key={impact}>
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {impact}
              </th>
              {URGENCIES.map((urgency) => (
                <td key={urgency} className="p-0.5">
                  <Select
                    label={`Priority when it hits ${impact} and ${urgency === "can wait" ? "can wait" : `is needed ${urgency}`}`}
                    className={SHADE[draft.grid[impact][urgency]]}
                    value={draft.grid[impact][urgency]}
                    options={wordOptions(PRIORITIES)}
                    onChange={(next) =>
                      set({
                        grid: {
                          ...draft.grid,
                          [impact]: {
                            ...draft.grid[impact],
                            [urgency]: next as Priority,
                          },
                        },
                      })
                    }
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
