import type { DayNumber, Instant } from "@/core/calendar/instant";
import { same } from "@/core/workflow/same";
import { isRefusal, refuse, type Refusal } from "@/core/workflow/refusal";
import type { ReportStanding } from "./report";
import {
  standingOf,
  type BroughtBackBy,
  type ReportChange,
  type ReportEvent,
  type ReportState,
  type ReturnReason,
} from "./report-history";
import { afterVerdict, type Verdict } from "./verdict";

/** A verdict that was given and stands. */
export interface GivenVerdict {
  id: string;
  before: ReportStanding;
  after: ReportStanding;
}

/** Everything that can be asked of a report that came in. */
export type ReportCommand =
  | {
      kind: "judge";
      verdictId: string;
      verdict: Verdict;
      /** The item that accepting makes, or merging points to. */
      itemId: string | null;
      today: DayNumber;
      /** The version that whoever judges has seen; null for a rule, which has just looked. */
      seenVersion: number | null;
    }
  | { kind: "undo verdict"; verdictId: string; last: GivenVerdict | null }
  | { kind: "take apart" }
  | { kind: "return"; why: Exclude<ReturnReason, "answered" | "taken apart">; by?: BroughtBackBy }
  | { kind: "answer" }
  | { kind: "ask" }
  | { kind: "remind" }
  | { kind: "follow"; followerId: string }
  | { kind: "try"; tryId: string }
  | { kind: "take back try"; tryId: string }
  | { kind: "say parts"; before: string[] | null; parts: string[] | null };

/** Who decides, and when. */
export interface ReportContext {
  reportId: string;
  at: Instant;
  actorId: string | null;
}

/** Somebody else was there first. */
export const dealtWith = (): Refusal =>
  refuse(
    "conflict",
    "Somebody else has dealt with this report meanwhile.",
    "Read it again before you judge.",
  );

/**
 * The one place where a command on a report becomes events or a refusal. Pure: the same report,
 * command and context always give the same answer.
 */
export function decideReport(
  before: ReportState,
  command: ReportCommand,
  context: ReportContext,
): ReportEvent[] | Refusal {
  const changes = changesFor(before, command);
  if (isRefusal(changes)) return changes;
  return changes.map((change, i) => ({ ...change, ...context, seq: before.seq + i + 1 }));
}

function changesFor(
  { standing, version }: ReportState,
  command: ReportCommand,
): ReportChange[] | Refusal {
  switch (command.kind) {
    case "judge": {
      const { verdictId, verdict, itemId, today, seenVersion } = command;
      if (seenVersion !== null && seenVersion !== version) return dealtWith();
      const after = afterVerdict({ ...standing, declineReason: null }, verdict, itemId, today);
      if (isRefusal(after)) return after;
      return [
        { kind: "judged", verdictId, verdict: verdict.kind, old: standing, new: standingOf(after) },
      ];
    }
    case "undo verdict": {
      const { verdictId, last } = command;
      if (!last || last.id !== verdictId)
        return refuse(
          "conflict",
          "This verdict is not the latest one any more.",
          "Look at the report as it is now.",
        );
      if (last.after.status !== standing.status)
        return refuse(
          "conflict",
          "The requester has answered meanwhile.",
          "The report is in the queue again; judge it anew.",
        );
      return [{ kind: "verdict undone", verdictId, old: standing, new: standingOf(last.before) }];
    }
    case "take apart":
      return standing.status === "merged"
        ? [{ kind: "returned", why: "taken apart", old: standing }]
        : refuse(
            "conflict",
            "This report is not merged into an item.",
            "Look at the report as it is now.",
          );
    case "return":
      return [
        {
          kind: "returned",
          why: command.why,
          ...(command.by ? { by: command.by } : {}),
          old: standing,
        },
      ];
    case "answer":
      return standing.status === "asked" || standing.status === "declined"
        ? [{ kind: "answered" }, { kind: "returned", why: "answered", old: standing }]
        : [{ kind: "answered" }];
    case "ask":
      return [{ kind: "asked" }];
    case "remind":
      return [{ kind: "reminded" }];
    case "follow":
      return [{ kind: "followed", followerId: command.followerId }];
    case "try":
      return [{ kind: "tried", tryId: command.tryId }];
    case "take back try":
      return [{ kind: "try taken back", tryId: command.tryId }];
    case "say parts": {
      const { before: old, parts } = command;
      return same(old, parts) ? [] : [{ kind: "parts said", old, new: parts }];
    }
  }
}
