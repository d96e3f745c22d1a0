"use client";
import { connect, disconnect, proposedVerb, removeTransition } from "@/core/workflow/edit";
import type { State } from "@/core/workflow/state";
import { leadsFrom, statesInOrder } from "@/core/workflow/workflow";
import { StationMark } from "./station-mark";
import type { Designer } from "./use-designer";
import { v7 as newId } from "uuid";

/** What a row begins from; without a state: anywhere. */
interface GridRow {
  id: string | null;
  name: string;
  state: State | null;
}

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
  const { draft, select, selection } = designer;
  const states = statesInOrder(draft);
  const rows: GridRow[] = [
    ...states.map((s) => ({ id: s.id, name: s.name, state: s })),
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
                    onClick={() => row.state && select({ kind: "state", id: row.state.id })}
                  >
                    <StationMark kind={row.state.kind} size={13} /> {row.name}
                    <span className="font-normal text-ink-soft">{counts[row.state.id] ?? 0}</span>
                  </button>
                ) : (
                  <em>{row.name}</em>
                )}
              </th>
              {states.map((to) =>
                row.id === to.id ? (
                  <td key={to.id} className="bg-well" aria-label="the state itself" />
                ) : (
                  <MoveCell key={to.id} designer={designer} row={row} to={to} mayEdit={mayEdit} />
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-[12px] text-ink-soft">
        A dot is a free move, a figure the number of its rules, a small ring a move from anywhere.
        Press an empty place to add a move
        {mayEdit ? ", Delete on a move to take it out" : ""}.
      </p>
    </div>
  );
}

/** The move from one state, or from anywhere, to another; or the place for it. */
function MoveCell({
  designer: { draft, edit, select },
  row,
  to,
  mayEdit,
}: {
  designer: Designer;
  row: GridRow;
  to: State;
  mayEdit: boolean;
}) {
  const leadsTo = draft.transitions.filter((t) => t.to === to.id);
  const fromAnywhere = leadsTo.find((t) => t.from === null);
  const { id: from } = row;
  const move = from === null ? fromAnywhere : leadsTo.find((t) => leadsFrom(t, from));
  // Where no move of its own leads there, one from anywhere may.
  const general = move ? undefined : fromAnywhere;
  const rules = move
    ? move.requirements.length + move.followUps.length + move.who.length + move.triggers.length
    : 0;
  const told = move?.verb ?? (general ? `${general.verb}, from anywhere` : "no move");
  const label = `${row.name} to ${to.name}: ${told}`;
  const press = () => {
    if (move) return select({ kind: "transition", id: move.id });
    const id = newId();
    edit((w) => connect(w, { id, from, to: to.id, verb: proposedVerb(row.state, to) }));
    select({ kind: "transition", id });
  };
  return (
    <td>
      <button
        type="button"
        aria-label={label}
        title={label}
        aria-pressed={move !== undefined}
        disabled={!mayEdit && !move}
        onClick={press}
        onKeyDown={(e) => {
          if (e.key !== "Delete" || !move || !mayEdit) return;
          edit((w) => (from === null ? removeTransition(w, move.id) : disconnect(w, from, to.id)));
        }}
      >
        {move && (rules > 0 ? rules : "•")}
        {general && <span className="text-ink-soft">∘</span>}
      </button>
    </td>
  );
}
