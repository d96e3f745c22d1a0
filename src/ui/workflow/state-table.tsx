"use client";
import { ArrowDown, ArrowUp, Plus } from "lucide-react";
import { useState, type FormEvent } from "react";
import type { WorkflowEdit } from "@/core/workflow/edit";
import { stateOf, statesInOrder, transitionsFrom, type State, type Workflow } from "@/core/workflow/workflow";
import { requirementWords } from "./requirement-words";

export type EditSent =
  | Exclude<WorkflowEdit, { kind: "add state" }>
  | { kind: "add state"; name: string; stateKind: "waiting" | "working"; stage: string | null; after: string; before: string; onBoard: boolean };

/** The states of a workflow in order: rename, reorder, add one between two others. */
export function StateTable({ workflow, counts, mayEdit, onEdit }: { workflow: Workflow; counts: Record<string, number>; mayEdit: boolean; onEdit: (edit: EditSent) => Promise<boolean> }) {
  const states = statesInOrder(workflow);
  const [adding, setAdding] = useState<string | null>(null);
  const swap = (i: number, by: -1 | 1) => {
    const order = states.map((s) => s.id);
    [order[i], order[i + by]] = [order[i + by], order[i]];
    void onEdit({ kind: "reorder states", order });
  };
  return (
    <ol aria-label={`States of ${workflow.name}`}>
      {states.map((state, i) => {
        const next = states[i + 1];
        const between = next && workflow.transitions.some((t) => t.from === state.id && t.to === next.id) && state.kind !== "finished" && next.kind !== "unstarted";
        return (
          <li key={state.id} className="border-b border-line py-1.5" data-state={state.name}>
            <div className="flex items-center gap-2">
              <KindMark kind={state.kind} />
              <Name state={state} mayEdit={mayEdit} onEdit={onEdit} />
              <span className="w-20 text-[12.5px] text-ink-soft">{state.kind}</span>
              <span className="w-16 text-right text-[12.5px] text-ink-soft">{counts[state.id] ?? 0} here</span>
              {mayEdit && (
                <span className="flex">
                  <button type="button" disabled={i === 0} aria-label={`${state.name} earlier`} title="Earlier" className="button button-small button-quiet !px-1" onClick={() => swap(i, -1)}>
                    <ArrowUp size={14} aria-hidden="true" />
                  </button>
                  <button type="button" disabled={i === states.length - 1} aria-label={`${state.name} later`} title="Later" className="button button-small button-quiet !px-1" onClick={() => swap(i, 1)}>
                    <ArrowDown size={14} aria-hidden="true" />
                  </button>
                </span>
              )}
            </div>
            <ul className="ml-6 text-[12.5px] text-ink-soft">
              {transitionsFrom(workflow, state.id).filter((t) => t.from !== null).map((t) => (
                <li key={t.id}>
                  <b className="font-semibold text-ink">{t.verb}</b> → {stateOf(workflow, t.to).name}
                  {t.requirements.length > 0 && <em>: {t.requirements.map(requirementWords).join("; ")}</em>}
                </li>
              ))}
            </ul>
            {mayEdit && between && (
              adding === state.id ? (
                <AddState after={state} before={next} onCancel={() => setAdding(null)} onAdd={async (edit) => { if (await onEdit(edit)) setAdding(null); }} />
              ) : (
                <button type="button" className="link ml-6 inline-flex items-center gap-1 text-[12.5px]" onClick={() => setAdding(state.id)}>
                  <Plus size={12} aria-hidden="true" /> Add a state between {state.name} and {next.name}
                </button>
              )
            )}
          </li>
        );
      })}
    </ol>
  );
}

function KindMark({ kind }: { kind: State["kind"] }) {
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" className="shrink-0">
      {kind === "working" && <rect x="2" y="2" width="12" height="12" fill="var(--accent)" />}
      {kind === "waiting" && <path d="M2 3h12l-6 10z" fill="none" stroke="var(--rest)" strokeWidth="1.6" />}
      {kind === "unstarted" && <circle cx="8" cy="8" r="5.5" fill="none" stroke="var(--ink)" strokeWidth="1.6" />}
      {kind === "finished" && <circle cx="8" cy="8" r="6" fill="var(--done)" />}
    </svg>
  );
}

function Name({ state, mayEdit, onEdit }: { state: State; mayEdit: boolean; onEdit: (edit: EditSent) => Promise<boolean> }) {
  const [draft, setDraft] = useState<string | null>(null);
  const store = async () => {
    if (draft === null || draft === state.name || (await onEdit({ kind: "rename state", stateId: state.id, name: draft }))) setDraft(null);
  };
  return (
    <input
      className="field field-plain min-w-0 flex-1 font-semibold"
      aria-label={`Name of the state ${state.name}`}
      disabled={!mayEdit}
      value={draft ?? state.name}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={() => void store()}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") setDraft(null);
      }}
    />
  );
}

function AddState({ after, before, onAdd, onCancel }: { after: State; before: State; onAdd: (edit: EditSent) => Promise<void>; onCancel: () => void }) {
  const [name, setName] = useState("");
  const [stateKind, setStateKind] = useState<"waiting" | "working">("waiting");
  const [stage, setStage] = useState(before.stage ?? after.stage ?? "");
  const [onBoard, setOnBoard] = useState(true);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void onAdd({ kind: "add state", name, stateKind, stage: stage.trim() || null, after: after.id, before: before.id, onBoard });
  };
  return (
    <form onSubmit={submit} className="ml-6 mt-1 grid grid-cols-[1fr_110px_1fr] items-end gap-2 bg-sheet p-2" aria-label={`New state between ${after.name} and ${before.name}`}>
      <label className="text-[12.5px] font-semibold">
        Name
        <input className="field" autoFocus required value={name} onChange={(e) => setName(e.target.value)} />
      </label>
      <label className="text-[12.5px] font-semibold">
        Kind
        <select className="field" value={stateKind} onChange={(e) => setStateKind(e.target.value as "waiting")}>
          <option value="waiting">waiting</option>
          <option value="working">working</option>
        </select>
      </label>
      <label className="text-[12.5px] font-semibold">
        Stage
        <input className="field" maxLength={60} value={stage} onChange={(e) => setStage(e.target.value)} />
      </label>
      <label className="col-span-2 flex items-center gap-2">
        <input type="checkbox" className="accent-(--accent)" checked={onBoard} onChange={(e) => setOnBoard(e.target.checked)} /> Put it on the board as a column
      </label>
      <span className="flex justify-end gap-2">
        <button type="button" className="button button-small button-quiet" onClick={onCancel}>
          Leave it out
        </button>
        <button type="submit" className="button button-small button-accent">
          Add state
        </button>
      </span>
    </form>
  );
}
