"use client";
import { connect, disconnect, proposedVerb, removeTransition } from "@/core/workflow/edit";
import { leadsFrom, statesInOrder } from "@/core/workflow/workflow";
import { StationMark } from "./station-mark";
import type { Designer } from "./use-designer";
import { v7 as newId } from "uuid";

/**
 * The same workflow as a table: a row for each state a move leads from, a column for each it leads
 * to.
 */
export function MoveGrid({
  designer,
  counts,
  mayEdit,
}: {
  designer: Designer;
  counts: Record<string, number>;
  mayEdit: boolean;
}) {
  const { draft, edit, select, selection } = designer;
  const states = statesInOrder(draft);
  const rows = [
    ...states.map((s) => ({ id: s.id as string | null, name: s.name, state: s })),
    { id: null, name: "anywhere", state: null },
  ];
  return (
    <div className="overflow-auto">
      <table className="move-grid text-[12.5px]" aria-label="Moves from state to state">
        <thead>
          <tr>
            <th className="text-left font-normal text-ink-soft">from ↓ to →</th>
            {states.map((s) => (
              <th key={s.id} scope="col">
                <button
                  type="button"
                  className="hover:underline"
                  onClick={() => select({ kind: "state", id: s.id })}
                >
                  {s.name}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.id ?? "anywhere"}
              data-chosen={selection?.kind === "state" && selection.id === row.id}
            >
              <th scope="row">
                {row.state ? (
                  <button
                    type="button"
                    className="flex items-center gap-1.5 hover:underline"
                    onClick={() => select({ kind: "state", id: row.state.id })}
                  >
                    <StationMark kind={row.state.kind} size={13} /> {row.name}
                    <span className="font-normal text-ink-soft">{counts[row.state.id] ?? 0}</span>
                  </button>
                ) : (
                  <em>{row.name}</em>
                )}
              </th>
              {states.map((to) => {
                if (row.id === to.id)
                  return <td key={to.id} className="bg-well" aria-label="the state itself" />;
                const t = draft.transitions.find(
                  (x) =>
                    x.to === to.id && (row.id === null ? x.from === null : leadsFrom(x, row.id)),
                );
                const rules = t
                  ? t.requirements.length + t.followUps.length + t.who.length + t.triggers.length
                  : 0;
                const label = `${row.name} to ${to.name}${t ? `: ${t.verb}` : ", no move"}`;
                return (
                  <td key={to.id}>
                    <button
                      type="button"
                      aria-label={label}
                      title={label}
                      aria-pressed={t !== undefined}
                      disabled={!mayEdit && !t}
                      onClick={() => {
                        if (t) return select({ kind: "transition", id: t.id });
                        const id = newId();
                        edit((w) =>
                          connect(w, {
                            id,
                            from: row.id,
                            to: to.id,
                            verb: proposedVerb(row.state, to),
                          }),
                        );
                        select({ kind: "transition", id });
                      }}
                      onKeyDown={(e) => {
                        if (e.key !== "Delete" || !t || !mayEdit) return;
                        edit((w) =>
                          row.id === null
                            ? removeTransition(w, t.id)
                            : disconnect(w, row.id, to.id),
                        );
                      }}
                    >
                      {t ? (rules > 0 ? rules : "•") : ""}
                    </button>
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-ink-soft">
        A dot is a free move, a figure the number of its rules. Press an empty place to add a move
        {mayEdit ? ", Delete on a move to take it out" : ""}.
      </p>
    </div>
  );
}
