import type { Instant, Interval } from "@/core/calendar/instant";
import { isInProgress, type Outcome, type StateId, type StateKind } from "@/core/workflow/state";
import { metStill, type Criterion } from "./criterion";
import type { ItemEvent } from "./event";
import type { ItemSnapshot } from "./fields";
import { NEW_ITEM } from "./new-item";
import { NOTHING_OUTSIDE, outsideAfter } from "./outside";
import { standingEvents } from "./standing-events";
import {
  milestonesAfter,
  milestonesNaming,
  namesOutcome,
  NO_MILESTONES,
  passage,
  type Milestones,
} from "./start-finish";

/**
 * The snapshot after one more event. Replaying all events of an item from `null` gives what its row
 * stores; `bin/check` and a test hold the two against each other.
 * @throws Error when the first event is not `created`, when events are out of sequence, or when one
 *   is repeated
 */
export function applyEvent(before: ItemSnapshot | null, event: ItemEvent): ItemSnapshot {
  if (before === null) {
    if (event.kind !== "created" || event.seq !== 1)
      throw new Error(`item ${event.itemId} does not begin with its creation`);
    const { at } = event;
    return {
      // What a history that began before a field existed does not say.
      ...NEW_ITEM,
      ...event.new,
      outside: NOTHING_OUTSIDE,
      id: event.itemId,
      enteredStateAt: at,
      outcome: null,
      clock: isInProgress(event.new.stateKind) ? [{ from: at, to: null }] : [],
      ...milestonesAfter(NO_MILESTONES, {
        from: null,
        to: event.new.stateKind,
        outcome: null,
        at,
      }),
      returns: 0,
      spentMinutes: 0,
      blockedSince: null,
      openBlockers: [],
      readySince: null,
      met: [],
      ticks: [],
      approvals: [],
      withdrawnAt: null,
      createdAt: at,
      createdBy: event.actorId,
      updatedAt: at,
      version: 1,
    };
  }
  return { ...before, ...changesBy(before, event) };
}

/** What an event changes of the item before it. @throws Error where it is not the next one */
function changesBy(before: ItemSnapshot, event: ItemEvent): Partial<ItemSnapshot> {
  if (event.seq !== before.version + 1)
    throw new Error(`item ${event.itemId}: event ${event.seq} after ${before.version}`);
  return { ...consequences(before, event), updatedAt: event.at, version: event.seq };
}

function consequences(before: ItemSnapshot, event: ItemEvent): Partial<ItemSnapshot> {
  switch (event.kind) {
    case "changed":
      return {
        [event.field]: event.new,
        ...(event.field === "criteria"
          ? { met: metStill(before.met, before.criteria, event.new as Criterion[]) }
          : {}),
        ...(event.field === "outcome" ? named(before, event.new as Outcome | null, event.at) : {}),
      };
    case "moved":
      return {
        stateId: event.new.stateId,
        stateKind: event.new.kind,
        enteredStateAt: event.at,
        rank: event.new.rank ?? before.rank,
        readySince: null,
        returns: before.returns + (event.new.isReturn ? 1 : 0),
        clock: clockAfter(before.clock, before.stateKind, event.new.kind, event.at),
        ...milestonesAfter(before, {
          from: before.stateKind,
          to: event.new.kind,
          outcome: before.outcome,
          at: event.at,
        }),
        ...(before.ticks.length > 0 || event.new.ticks ? { ticks: event.new.ticks ?? [] } : {}),
        ...(before.approvals.length > 0 || event.new.approvals
          ? { approvals: event.new.approvals ?? [] }
          : {}),
      };
    case "own changed": {
      const { [event.field]: _, ...others } = before.own;
      return { own: event.new === null ? others : { ...others, [event.field]: event.new } };
    }
    case "reported":
      return { outside: outsideAfter(before.outside, event.new) };
    case "ticked":
      if (event.new.criterion)
        return {
          met: [
            ...before.met,
            { criterionId: event.new.policyId, byId: event.actorId, at: event.at },
          ],
        };
      return {
        ticks: [
          ...before.ticks,
          { policyId: event.new.policyId, byId: event.actorId, at: event.at },
        ],
      };
    case "unticked":
      if (event.old.criterion)
        return { met: before.met.filter((one) => one.criterionId !== event.old.policyId) };
      return { ticks: before.ticks.filter((t) => t.policyId !== event.old.policyId) };
    case "approved":
      return {
        approvals: [
          ...before.approvals,
          { byId: event.actorId!, role: event.new.role, at: event.at },
        ],
      };
    case "approval withdrawn":
      return { approvals: before.approvals.filter((a) => a.byId !== event.actorId) };
    case "put under":
      return { parentId: event.new?.parentId ?? null };
    case "changed project":
      return { projectId: event.new.projectId, number: event.new.number };
    case "ranked":
      return { rank: event.new };
    case "blocked":
      return {
        openBlockers: [
          ...before.openBlockers,
          {
            id: event.new.blockId,
            cause: event.new.cause,
            waitingFor: event.new.waitingFor,
            ...(event.new.dependency ? { dependencyId: event.new.dependency.itemId } : {}),
            since: event.at,
          },
        ],
        blockedSince: before.blockedSince ?? event.at,
        readySince: null,
      };
    case "lifted": {
      const openBlockers = before.openBlockers.filter(
        (blocker) => blocker.id !== event.old.blockId,
      );
      return { openBlockers, blockedSince: openBlockers.length > 0 ? before.blockedSince : null };
    }
    case "marked ready":
      return { readySince: event.at };
    case "ready taken back":
      return { readySince: null };
    case "withdrawn":
      return { withdrawnAt: event.at, readySince: null };
    case "brought back":
      return { withdrawnAt: null, enteredStateAt: event.at };
    case "emptied":
      return event.new;
    case "time recorded":
      return {
        spentMinutes: before.spentMinutes + (event.new?.minutes ?? 0) - (event.old?.minutes ?? 0),
      };
    case "undone":
      return { ...milestonesWithout(before, event.new), ...event.new };
    case "created":
      throw new Error(`item ${event.itemId} is created twice`);
    case "file added":
    case "file removed":
    case "overrode":
    case "held":
    case "commented":
    case "comment edited":
    case "comment taken back":
    case "talk closed":
    case "linked":
    case "unlinked":
      return {};
  }
}

/** The milestones when an outcome is named, which belongs to the state just entered or to none. */
const named = (before: ItemSnapshot, outcome: Outcome | null, at: Instant): Partial<Milestones> =>
  outcome !== null &&
  before.stateKind === "finished" &&
  namesOutcome(before.enteredStateAt, at, outcome)
    ? milestonesNaming(before, outcome, at)
    : {};

/**
 * The milestones without a step that was taken back before histories told of them: what its clock
 * and state say.
 */
function milestonesWithout(before: ItemSnapshot, was: Partial<ItemSnapshot>): Partial<Milestones> {
  if (!was.clock || "firstStartedAt" in was || "finishedAt" in was || "deliveredAt" in was)
    return {};
  const { clock, stateKind = before.stateKind } = was;
  const finishedAt = stateKind === "finished" ? (clock.at(-1)?.to ?? null) : null;
  return {
    firstStartedAt: clock[0]?.from ?? null,
    finishedAt,
    deliveredAt: before.deliveredAt === before.finishedAt ? finishedAt : before.deliveredAt,
  };
}

/**
 * The clock after a move: it runs from each start to the finish or to where the item is put back to
 * unstarted. Earlier intervals stay and count.
 */
export function clockAfter(
  clock: readonly Interval[],
  from: StateKind,
  to: StateKind,
  at: Instant,
): Interval[] {
  const step = passage(from, to);
  if (step === null) return [...clock];
  if (step === "start") return [...clock, { from: at, to: null }];
  return clock.map((interval) => (interval.to === null ? { ...interval, to: at } : interval));
}

/** Replays a whole history. @throws Error as `applyEvent` does, and for an empty history */
export function replay(events: readonly ItemEvent[]): ItemSnapshot {
  if (events.length === 0) throw new Error("a history without events");
  // Nobody sees what it was on the way: one snapshot is changed by each event after the other.
  const snapshot = applyEvent(null, events[0]);
  for (const event of events.slice(1)) Object.assign(snapshot, changesBy(snapshot, event));
  return snapshot;
}

/** An interval that an item spent in a state. */
export interface Stay extends Interval {
  stateId: StateId;
  kind: StateKind;
  /** Of a finished state: the outcome that was named on entering it. */
  outcome: Outcome | null;
}

/** A stay with the number of the event that began it. */
export interface RecordedStay extends Stay {
  enteredSeq: number;
  /** The project that the item was in then. */
  projectId: string;
}

/**
 * The stays that a history amounts to, oldest first; the last is open unless the item was
 * withdrawn. What was undone had none.
 */
export function staysOf(events: readonly ItemEvent[]): RecordedStay[] {
  const stays: RecordedStay[] = [];
  let outcome: Outcome | null = null;
  let projectId = "";
  for (const event of standingEvents(events)) {
    const last = stays.at(-1);
    const { seq: enteredSeq, at } = event;
    if (event.kind === "created" || event.kind === "changed project")
      projectId = event.new.projectId;
    if (event.kind === "created")
      stays.push({
        projectId,
        enteredSeq,
        stateId: event.new.stateId,
        kind: event.new.stateKind,
        outcome,
        from: at,
        to: null,
      });
    else if (event.kind === "moved" && last) {
      last.to = at;
      const { stateId, kind } = event.new;
      stays.push({
        projectId,
        enteredSeq,
        stateId,
        kind,
        outcome: kind === "finished" ? outcome : null,
        from: at,
        to: null,
      });
    } else if (event.kind === "changed" && event.field === "outcome") {
      outcome = event.new as Outcome | null;
      if (last?.kind === "finished" && namesOutcome(last.from, at, outcome)) last.outcome = outcome;
    } else if (event.kind === "withdrawn" && last) last.to = at;
    else if (event.kind === "brought back" && last)
      stays.push({ ...last, enteredSeq, from: at, to: null });
  }
  return stays;
}

/** What ends that an item is ready. */
const ENDS_READY: ReadonlySet<ItemEvent["kind"]> = new Set([
  "ready taken back",
  "moved",
  "blocked",
  "withdrawn",
]);

/** Whether an event ends that an item is ready, if it is. */
export const endsReady = ({ kind }: ItemEvent): boolean => ENDS_READY.has(kind);

/** The intervals in which an item was ready for its next step, oldest first. */
export function readiesOf(events: readonly ItemEvent[]): Interval[] {
  const readies: Interval[] = [];
  for (const event of standingEvents(events)) {
    const last = readies.at(-1);
    if (event.kind === "marked ready") readies.push({ from: event.at, to: null });
    else if (last?.to === null && endsReady(event)) last.to = event.at;
  }
  return readies;
}

/** A blocked interval, by its blocker. */
export interface BlockedInterval extends Interval {
  blockId: string;
  cause: string;
  waitingFor: string | null;
  /** The item that it waits for, where it comes from a dependency. */
  dependencyId: string | null;
  byId: string | null;
}

/** The blocked intervals that a history amounts to, by blocker. */
export function blocksOf(events: readonly ItemEvent[]): BlockedInterval[] {
  const blocks: BlockedInterval[] = [];
  for (const event of standingEvents(events)) {
    if (event.kind === "blocked")
      blocks.push({
        blockId: event.new.blockId,
        cause: event.new.cause,
        waitingFor: event.new.waitingFor,
        dependencyId: event.new.dependency?.itemId ?? null,
        byId: event.actorId,
        from: event.at,
        to: null,
      });
    if (event.kind === "lifted") {
      const block = blocks.find((b) => b.blockId === event.old.blockId);
      if (block) block.to = event.at;
    }
  }
  return blocks;
}
