"use client";
import { heldWords, limitOfPerson, limitTitle } from "@/core/board/board-limits";
import { NO_LIMIT } from "@/core/board/limit";
import type { DesignView } from "@/core/workflow/design-view";
import { limitTone } from "@/ui/board/limit-tone";
import { useOptionNote } from "@/ui/kit/option-notes";
import { Select } from "@/ui/kit/select";
import { LimitBound } from "./limit-bound";
import type { LimitEdit } from "./use-limit-edit";

/** How much somebody without a limit has in their hands. */
const InHand = ({ personId }: { personId: string }) => <>{useOptionNote(personId)?.words}</>;

/** How much each person of a project may have in their hands, over all projects. */
export function PersonLimits({ view, onEdit }: { view: DesignView; onEdit: LimitEdit["person"] }) {
  const people = view.people.filter((p) => p.role !== "observer");
  if (people.length === 0) return null;
  return (
    <section aria-label="Limits of people">
      <h2 className="text-[15px]">In one pair of hands</h2>
      <p className="mb-2 max-w-[820px] text-[12.5px] text-ink-soft">
        What is in progress and theirs in any project: assigned to them, or theirs to review where
        the reviewer works; blocked items too.
      </p>
      <table className="w-full text-[13.5px]">
        <thead>
          <tr className="text-left text-[12.5px] text-ink-soft">
            <th className="font-normal">Who</th>
            <th className="font-normal">At most</th>
            <th className="font-normal">What counts</th>
            <th className="font-normal">Now</th>
          </tr>
        </thead>
        <tbody>
          {people.map(({ id, name }) => {
            const limit = limitOfPerson(view.limits, id);
            const held = limit && heldWords(limit);
            const { max, maxFirm } = limit ?? NO_LIMIT;
            return (
              <tr key={id} className="border-t border-line" data-person={name}>
                <td className="py-1.5 font-semibold">{name}</td>
                <td>
                  <LimitBound
                    label={`In the hands of ${name} at most`}
                    value={max}
                    firm={maxFirm}
                    mayEdit={view.mayEdit}
                    onStore={(next, firm) => onEdit(id, limit, { max: next, maxFirm: firm })}
                  />
                </td>
                <td>
                  {limit && (
                    <Select
                      plain
                      label={`What counts for ${name}`}
                      className="!w-52"
                      disabled={!view.mayEdit}
                      value={limit.workedOnly ? "worked" : "all"}
                      options={[
                        { value: "all", label: "all that is in progress" },
                        { value: "worked", label: "only what is worked on" },
                      ]}
                      onChange={(next) => void onEdit(id, limit, { workedOnly: next === "worked" })}
                    />
                  )}
                </td>
                <td
                  className={held ? limitTone(held.state) : "text-ink-soft"}
                  title={limit ? limitTitle(limit, view.defaultSize) : undefined}
                >
                  {held ? held.words : <InHand personId={id} />}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
