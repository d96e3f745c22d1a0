import type { KeyboardEvent } from "react";
import { changeState, removeTransition } from "@/core/workflow/edit";
import type { State } from "@/core/workflow/state";
import { statesInOrder, transitionsFrom, type Transition } from "@/core/workflow/workflow";
import { takesKeys } from "@/ui/kit/takes-keys";
import type { Designer } from "./use-designer";
import type { MapDoing } from "./use-map-acts";

const RAIL = { ArrowUp: "working", ArrowDown: "waiting" } as const;
const STEP: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowLeft: -1 };

/** The map by the keyboard: from state to state, and everything that can be done to the one chosen. */
export function mapKeys(
  { draft, edit, selection, select }: Designer,
  mayEdit: boolean,
  { acts, from, setFrom, join, displace, stood }: MapDoing,
  onRules: () => void,
) {
  const states = statesInOrder(draft);
  const at = selection?.kind === "state" ? states.findIndex((s) => s.id === selection.id) : -1;
  const state = states[at] as State | undefined;
  const edited = mayEdit ? state : undefined;
  const onRail = edited?.kind === "working" || edited?.kind === "waiting";

  const goTo = (step: number) => {
    const here = at < 0 ? states.findIndex((s) => s.id === stood) : at;
    const next = states[Math.min(states.length - 1, Math.max(0, here + step))];
    select({ kind: "state", id: next.id });
  };
  /** One move out of the state that is or was chosen after another. */
  const goToMove = () => {
    const moves = transitionsFrom(draft, state?.id ?? stood ?? "");
    const now = moves.findIndex((t) => t.id === selection?.id);
    const next = moves[(now + 1) % moves.length] as Transition | undefined;
    if (next) select({ kind: "transition", id: next.id });
  };
  const takeOut = () => {
    if (edited) return acts.takeOut(edited);
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
    if (step && alt && edited) return () => displace(edited.id, step);
    if (step) return () => goTo(step);
    if (key === "ArrowUp" || key === "ArrowDown")
      return (
        onRail && edited && (() => edit((w) => changeState(w, edited.id, { kind: RAIL[key] })))
      );
    if (key === "a") return edited && (() => acts.addAfter(edited));
    if (key === "m") return goToMove;
    if (key === "c") return edited && (() => acts.connect(edited));
    if (key === "F2") return edited && (() => acts.rename(edited.id));
    if (key === "Enter")
      return from !== null && state !== undefined ? end : selection !== null && onRules;
    if (key === "Escape") return leave;
    if (key === "Delete") return mayEdit && selection !== null && takeOut;
  };
  return (event: KeyboardEvent) => {
    if (takesKeys(event.target) || isButton(event)) return;
    const act = actOf(event.key, event.altKey);
    if (!act) return;
    act();
    event.preventDefault();
    event.stopPropagation();
  };
}

/** Enter on a button that has the focus is for that button. */
const isButton = ({ key, target }: KeyboardEvent): boolean =>
  key === "Enter" && target instanceof Element && target.closest("button") !== null;
