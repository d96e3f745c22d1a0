"use client";
import { useEffect, useRef, useState, type RefObject } from "react";
import { v7 as newId } from "uuid";
import { changeState, connect, moveState, proposedVerb } from "@/core/workflow/edit";
import { counted } from "@/core/formats/counted";
import { mapOf, type Track } from "@/core/workflow/layout";
import { insertState, moveWithPath, takeOutState } from "@/core/workflow/path";
import { same } from "@/core/workflow/same";
import type { State } from "@/core/workflow/state";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import { tellDone } from "@/ui/kit/notice";
import { nameOf, type MapActs } from "./map-context";
import type { Inserted } from "./map-insert";
import type { Designer } from "./use-designer";

/** A state that stands elsewhere now, while its moves lead the old way. */
interface Displaced {
  stateId: string;
  by: number;
  /** The draft before it was moved, and after. */
  before: Workflow;
  after: Workflow;
}

/** What can be done on the map, and what it asks back. */
export function useMapActs(
  designer: Designer,
  counts: Record<string, number>,
  map: RefObject<HTMLElement | null>,
) {
  const { draft, edit, addAfter, selection, select, undo } = designer;
  const [from, setFrom] = useState<string | null>(null);
  const [renaming, setRenaming] = useState<string | null>(null);
  const [inserting, setInserting] = useState<Track | null>(null);
  const [displaced, setDisplaced] = useState<Displaced | null>(null);

  // Where the keys stand while a move is chosen.
  const [stood, setStood] = useState<string | null>(null);
  const stands = selection?.kind === "transition" ? stood : (selection?.id ?? null);
  if (stands !== stood) setStood(stands);

  const join = (source: string, target: string) => {
    const [a, b] = [source, target].map((id) => draft.states.find((s) => s.id === id));
    if (!a || !b || a === b) return;
    const known = draft.transitions.find((t) => t.to === b.id && t.from?.includes(a.id));
    const id = known?.id ?? newId();
    edit((w) => connect(w, { id, from: a.id, to: b.id, verb: proposedVerb(a, b) }));
    select({ kind: "transition", id });
  };
  const takeOut = (state: State) => {
    const states = statesInOrder(draft);
    const at = states.findIndex((s) => s.id === state.id);
    const after = takeOutState(draft, state.id, newId());
    const [left, right] = [states[at - 1], states[at + 1]];
    const joins = after.transitions.some(
      (t) => t.from?.includes(left?.id ?? "") && t.to === right?.id,
    );
    const here = counts[state.id] ?? 0;
    edit(() => after);
    select(null);
    tellDone(
      [
        `“${state.name}” is taken out.`,
        joins && `“${left.name}” leads to “${right.name}” now, with the rules of both.`,
        here > 0 &&
          `${counted(here, "item")} ${here === 1 ? "is" : "are"} there: where they go is asked before it is published.`,
      ]
        .filter(Boolean)
        .join(" "),
      undo ? async () => undo() : undefined,
    );
  };
  /** Puts a state elsewhere in the order, and offers to lead the path along. */
  const displace = (stateId: string, by: number, change: Partial<State> = {}) => {
    const follows = displaced?.stateId === stateId && displaced.after === draft;
    const whole = {
      before: follows ? displaced.before : draft,
      by: by + (follows ? displaced.by : 0),
    };
    const after = changeState(moveState(draft, stateId, by), stateId, change);
    edit(() => after);
    const led = moveWithPath(whole.before, stateId, whole.by, ["1", "2", "3"]);
    const leads = by !== 0 && !same(led, moveState(whole.before, stateId, whole.by));
    setDisplaced(leads ? { stateId, ...whole, after } : null);
  };
  const leadAlong = ({ stateId, by, before }: Displaced) => {
    const { kind } = draft.states.find((s) => s.id === stateId)!;
    edit(() =>
      changeState(moveWithPath(before, stateId, by, [newId(), newId(), newId()]), stateId, {
        kind,
      }),
    );
    setDisplaced(null);
  };
  /** What comes after a state comes into the move that leads on from there, if there is one. */
  const add = (state: State) => {
    const states = statesInOrder(draft);
    const next = states[states.findIndex((s) => s.id === state.id) + 1];
    const onward = mapOf(draft).tracks.find((t) => t.from === state.id && t.to === next?.id);
    if (onward) setInserting(onward);
    else setRenaming(addAfter(state));
  };
  const insert = (track: Track, { name, kind, between }: Inserted) => {
    const id = newId();
    const stage = draft.states.find((s) => s.id === track.to)?.stage ?? null;
    const at = { transitionId: track.transition.id, from: track.from, ...between };
    edit((w) => insertState(w, at, { id, name, kind, stage, moveIds: [newId(), newId()] }));
    setInserting(null);
    select({ kind: "state", id });
  };
  const acts: MapActs = {
    addAfter: add,
    connect: (state) => setFrom(state.id),
    rename: setRenaming,
    named: (state, name) => edit((w) => changeState(w, state.id, { name })),
    toOtherRail: (state) =>
      edit((w) =>
        changeState(w, state.id, { kind: state.kind === "working" ? "waiting" : "working" }),
      ),
    takeOut,
    insert: setInserting,
  };
  useKeysBack(map, inserting !== null || renaming !== null);
  return {
    acts,
    from,
    stood,
    setFrom,
    join,
    renaming,
    inserting,
    insert,
    leaveInserting: () => setInserting(null),
    displace,
    // Whatever else is changed makes the offer void.
    offer: displaced?.after === draft ? displaced : null,
    takeOffer: leadAlong,
    leaveOffer: () => setDisplaced(null),
    nameOf: (id: string) => nameOf(draft, id),
  };
}

/** What was asked in a field is answered: the keys are the map's again. */
function useKeysBack(map: RefObject<HTMLElement | null>, asks: boolean): void {
  const asked = useRef(asks);
  useEffect(() => {
    if (asked.current && !asks && document.activeElement === document.body) map.current?.focus();
    asked.current = asks;
  }, [asks, map]);
}

export type MapDoing = ReturnType<typeof useMapActs>;
