import type { KeyboardEvent } from "react";
import { changeState, moveState, removeState, removeTransition } from "@/core/workflow/edit";
import type { State } from "@/core/workflow/state";
import { statesInOrder } from "@/core/workflow/workflow";
import { takesKeys } from "@/ui/kit/takes-keys";
import type { Designer } from "./use-designer";

/** A move that is being drawn: from which state, and what ends it. */
interface Joining {
  from: string | null;
  setFrom: (stateId: string | null) => void;
  join: (source: string, target: string) => void;
}

const RAIL = { ArrowUp: "working", ArrowDown: "waiting" } as const;
const STEP: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1 };

/** The map by the keyboard: from state to state, and everything that can be done to the one chosen. */
export function mapKeys(
  { draft, edit, addAfter, selection, select }: Designer,
  mayEdit: boolean,
  { from, setFrom, join }: Joining,
) {
  const states = statesInOrder(draft);
  const at = selection?.kind === "state" ? states.findIndex((s) => s.id === selection.id) : -1;
  const state = states[at] as State | undefined;
  const edited = mayEdit ? state : undefined;
  const onRail = edited?.kind === "working" || edited?.kind === "waiting";

  const goTo = (step: number) => {
    const next = states[Math.min(states.length - 1, Math.max(0, at + step))];
    select({ kind: "state", id: next.id });
  };
  const takeOut = () => {
    if (selection?.kind === "state") edit((w) => removeState(w, selection.id));
    if (selection?.kind === "transition") edit((w) => removeTransition(w, selection.id));
    select(null);
  };
  const end = () => {
    if (from && state) join(from, state.id);
    setFrom(null);
  };
  const leave = () => {
    setFrom(null);
    select(null);
  };
  /** What a key does now; nothing where it can do nothing. */
  const actOf = (key: string, alt: boolean): (() => void) | false | undefined => {
    const step = STEP[key];
    if (step && alt && edited) return () => edit((w) => moveState(w, edited.id, step));
    if (step) return () => goTo(step);
    if (key === "ArrowUp" || key === "ArrowDown")
      return (
        onRail && edited && (() => edit((w) => changeState(w, edited.id, { kind: RAIL[key] })))
      );
    if (key === "a") return edited && (() => addAfter(edited));
    if (key === "c") return edited && (() => setFrom(edited.id));
    if (key === "Enter") return from !== null && state !== undefined && end;
    if (key === "Escape") return leave;
    if (key === "Delete") return mayEdit && selection !== null && takeOut;
  };
  return (event: KeyboardEvent) => {
    if (takesKeys(event.target)) return;
    const act = actOf(event.key, event.altKey);
    if (!act) return;
    act();
    event.preventDefault();
    event.stopPropagation();
  };
}
