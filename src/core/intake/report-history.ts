import type { Instant } from "@/core/calendar/instant";
import { UNJUDGED, type ReportStanding, type ReportWay } from "./report";
import type { VerdictKind } from "./verdict";

/** Why a report stands in the queue again. */
export type ReturnReason =
  | "day reached"
  | "item ended"
  | "answered"
  | "taken apart"
  /** It could not be made to happen, and then something like it came, or its part changed. */
  | "one like it came"
  | "its part changed";

/** What brought a report back: the report or item that is new. */
export type BroughtBackBy = { kind: "report" | "item"; id: string };

/** How a report stands, without the words that a decline gave as its reason. */
export type Standing = Omit<ReportStanding, "declineReason">;

/** How a report stands, out of more that is known of it. */
export const standingOf = ({ status, itemId, parkedUntil, parkedItemId }: Standing): Standing => ({
  status,
  itemId,
  parkedUntil,
  parkedItemId,
});

/**
 * What happened to a report. Words that somebody wrote stand in its messages and verdicts, never
 * here.
 */
export type ReportChange =
  | { kind: "received"; new: { way: ReportWay; standing: Standing } }
  | {
      kind: "judged";
      verdictId: string;
      verdict: VerdictKind;
      old: Standing;
      new: Standing;
    }
  | { kind: "verdict undone"; verdictId: string; old: Standing; new: Standing }
  | { kind: "returned"; why: ReturnReason; by?: BroughtBackBy; old: Standing }
  /** The requester said something. */
  | { kind: "answered" }
  /** A question about the work that came of it was asked. */
  | { kind: "asked" }
  /** A question that nobody answered was asked once more. */
  | { kind: "reminded" }
  | { kind: "followed"; followerId: string }
  | { kind: "tried"; tryId: string }
  | { kind: "try taken back"; tryId: string }
  /** Somebody said which parts of the product it is about; null where nobody had, or that is taken back. */
  | { kind: "parts said"; old: string[] | null; new: string[] | null };

export type ReportEventKind = ReportChange["kind"];

/** One line of a report's append-only history. */
export type ReportEvent = ReportChange & {
  reportId: string;
  /** 1 for the first event of the report, then without gaps. */
  seq: number;
  at: Instant;
  /** Null when no signed-in person did it. */
  actorId: string | null;
};

/** What is known of a report now, as far as its history says. */
export interface ReportState {
  standing: Standing;
  /** When an answer, a day or an item's end brought it back to the queue. */
  returnedAt: Instant | null;
  /** Grows whenever it stands elsewhere: who judges it says which one they saw. */
  version: number;
  /** Number of the last event that is in this. */
  seq: number;
}

/**
 * What is known of a report after one more event.
 * @throws Error when the first event is not its receipt, or events are out of sequence
 */
export function applyReportEvent(before: ReportState | null, event: ReportEvent): ReportState {
  if (before === null) {
    if (event.kind !== "received" || event.seq !== 1)
      throw new Error(`report ${event.reportId} does not begin with its receipt`);
    return { standing: event.new.standing, returnedAt: null, version: 1, seq: 1 };
  }
  if (event.seq !== before.seq + 1)
    throw new Error(`report ${event.reportId}: event ${event.seq} after ${before.seq}`);
  const standing = standingAfter(event);
  return {
    standing: standing ?? before.standing,
    returnedAt: event.kind === "returned" ? event.at : before.returnedAt,
    version: before.version + (standing ? 1 : 0),
    seq: event.seq,
  };
}

/** How a report stands after an event that changes it; null where it stays as it is. */
function standingAfter(event: ReportEvent): Standing | null {
  switch (event.kind) {
    case "judged":
    case "verdict undone":
      return event.new;
    case "returned":
      return standingOf(UNJUDGED);
    case "received":
      throw new Error(`report ${event.reportId} is received twice`);
    case "answered":
    case "asked":
    case "reminded":
    case "followed":
    case "tried":
    case "try taken back":
    case "parts said":
      return null;
  }
}

/** Replays a whole history. @throws Error as `applyReportEvent` does, and for an empty history */
export function replayReport(events: readonly ReportEvent[]): ReportState {
  let state: ReportState | null = null;
  for (const event of events) state = applyReportEvent(state, event);
  if (state === null) throw new Error("a history without events");
  return state;
}
