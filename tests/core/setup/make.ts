import type { Age } from "@/core/flow/age";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { NEW_ITEM } from "@/core/item/new-item";
import type { FlowHistory } from "./flow-by-history";
import type { ItemCommand } from "@/core/item/command";
import { decide, type DecisionContext } from "@/core/item/decide";
import type { CreatedData, ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { applyEvent } from "@/core/item/snapshot";
import { isRefusal } from "@/core/workflow/refusal";
import { NO_FOLLOW_UP_CONTEXT } from "@/core/workflow/follow-ups/apply";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";
import type { Outcome, StateKind, StateLimit } from "@/core/workflow/state";

/** The demo's workflow with its states' names as ids, so that tests read well. */
export const workflow = (() => {
  let n = 0;
  const made = fromTemplate(BUILD_REVIEW_TEST_DEPLOY, () => `id-${n++}`);
  const nameOf = new Map(made.states.map((s) => [s.id, s.name]));
  return {
    ...made,
    states: made.states.map((s) => ({ ...s, id: s.name })),
    transitions: made.transitions.map((t) => ({
      ...t,
      from: t.from === null ? null : t.from.map((f) => nameOf.get(f)!),
      to: nameOf.get(t.to)!,
    })),
  };
})();

export const created: CreatedData = {
  ...NEW_ITEM,
  projectId: "tix",
  number: 1,
  stateId: "Backlog",
  stateKind: "unstarted",
  rank: "a0",
  title: "Ticket stays readable in bright sun",
  typeId: "story",
};

/** An item that was made at the beginning of time, and nothing more. */
export const plainItem: ItemSnapshot = applyEvent(null, {
  kind: "created",
  new: created,
  itemId: "i",
  seq: 1,
  at: 0,
  actorId: "noor",
  cause: "person",
  commandId: "c",
});

export function context(change: Partial<DecisionContext> = {}): DecisionContext {
  return {
    itemId: "item",
    at: 1_000,
    actorId: "noor",
    cause: "person",
    commandId: "command",
    changedSince: () => [],
    workflow,
    actor: { personId: change.actorId ?? "noor", role: "member", teamIds: [] },
    asker: { personId: "noor", teamIds: [], now: 1_000, zone: "UTC" },
    around: NOTHING_AROUND,
    vocabulary: EMPTY_VOCABULARY,
    ownFields: [],
    teamsOf: () => [],
    teamName: (id) => id,
    followUps: { ...NO_FOLLOW_UP_CONTEXT, newCommentId: () => "follow-up-comment" },
    nameOf: (id) => id[0].toUpperCase() + id.slice(1),
    inEndedSprint: false,
    ...change,
  };
}

/** An item with its history, that takes commands one after the other. */
export class Subject {
  events: ItemEvent[] = [];
  item: ItemSnapshot | null = null;
  private clock = 0;

  constructor(data: Partial<CreatedData> = {}) {
    this.do({ kind: "create", data: { ...created, ...data } });
  }

  /** @throws Error with the refusal's sentence */
  do(command: ItemCommand, change: Partial<DecisionContext> = {}): ItemEvent[] {
    this.clock += 1_000;
    const result = decide(
      this.item,
      command,
      context({ at: this.clock, commandId: `command-${this.clock}`, ...change }),
    );
    if (isRefusal(result)) throw new Error(`${result.sentence} ${result.help}`);
    this.events.push(...result);
    this.item = result.reduce(applyEvent, this.item);
    return result;
  }

  /** Takes back the last command. */
  undo(change: Partial<DecisionContext> = {}): this {
    this.do(
      { kind: "undo", undoneId: this.events.at(-1)!.commandId, history: this.events },
      change,
    );
    return this;
  }

  move(
    to: string,
    answers: Extract<ItemCommand, { kind: "move" }>["answers"] = {},
    change: Partial<DecisionContext> = {},
  ): this {
    this.do({ kind: "move", from: this.item!.stateId, to, answers }, change);
    return this;
  }
}

export const DAY = 86_400_000;

/**
 * A history from stays written as [state, kind, from day, to day] and, of finished ones, the
 * outcome.
 */
export function history(
  id: string,
  stays: [string, StateKind, number, number | null, Outcome?][],
  blocks: [number, number | null][] = [],
): FlowHistory {
  return {
    id,
    key: id,
    title: id,
    typeId: "story",
    classOfService: "standard",
    stays: stays.map(([stateId, kind, from, to, outcome = null]) => ({
      stateId,
      kind,
      outcome,
      from: from * DAY,
      to: to === null ? null : to * DAY,
    })),
    blocks: blocks.map(([from, to]) => ({ from: from * DAY, to: to === null ? null : to * DAY })),
  };
}

/** A state's limit with a maximum alone. */
export const atMost = (max: number, firm: boolean): StateLimit => ({
  max,
  firm,
  min: null,
  minFirm: false,
});

/** An age of whole days, begun at noon of the first. */
export const aged = (days: number): Age => ({ age: days, elapsed: days - 0.5 });
