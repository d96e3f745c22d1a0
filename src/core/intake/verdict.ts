import type { DayNumber } from "@/core/calendar/instant";
import { parseIsoDate } from "@/core/calendar/zone";
import { refuse, type Refusal } from "@/core/workflow/refusal";
import type { Acceptance } from "./acceptance";
import type { ReportStanding } from "./report";

/** What triage decides about a report. */
export type Verdict =
  | { kind: "accept"; acceptance: Acceptance }
  | { kind: "merge"; itemId: string }
  | { kind: "ask"; question: string }
  /**
   * Until a day, or until an item is finished.
   * `watched`: it could not be made to happen. It comes back when something like it arrives or its
   * part changes; if nothing does, it ends on its day.
   */
  | { kind: "park"; until: string | null; itemId: string | null; watched?: boolean }
  | { kind: "decline"; reason: string };
export type VerdictKind = Verdict["kind"];

/** How a verdict is told of in a sentence: "accepted as TIX-12". */
export const VERDICT_PAST: Record<VerdictKind, string> = {
  accept: "accepted",
  merge: "merged",
  ask: "asked",
  park: "parked",
  decline: "declined",
};

/**
 * What a verdict makes of a report. Only what is in the queue (unjudged), parked or waiting for an
 * answer can be judged; everything else has its verdict and must have it undone first.
 * @param itemId the item that accepting creates or merging points to
 */
export function afterVerdict(
  before: ReportStanding,
  verdict: Verdict,
  itemId: string | null,
  today: DayNumber,
): ReportStanding | Refusal {
  if (before.status === "accepted" || before.status === "merged" || before.status === "declined")
    return refuse(
      "conflict",
      `This report has been ${before.status} already.`,
      "Undo that verdict first if it is wrong.",
    );
  const blank = { itemId: null, parkedUntil: null, parkedItemId: null, declineReason: null };
  switch (verdict.kind) {
    case "accept":
      return { ...blank, status: "accepted", itemId };
    case "merge":
      return { ...blank, status: "merged", itemId };
    case "ask":
      if (!verdict.question.trim())
        return refuse("invalid", "The question is empty.", "Write what you need to know.");
      return { ...blank, status: "asked" };
    case "park": {
      if ((verdict.until === null) === (verdict.itemId === null))
        return refuse(
          "invalid",
          "A report is parked until a day, or until an item is finished.",
          "Choose one of the two.",
        );
      if (verdict.watched && verdict.until === null)
        return refuse(
          "invalid",
          "A report is watched for until a day.",
          "Choose the day on which it ends if nothing new comes.",
        );
      if (verdict.until === null)
        return { ...blank, status: "parked", parkedItemId: verdict.itemId };
      let until: DayNumber;
      try {
        until = parseIsoDate(verdict.until);
      } catch {
        return refuse(
          "invalid",
          "That is no date.",
          "Choose the day on which to look at it again.",
        );
      }
      if (until <= today)
        return refuse(
          "invalid",
          "A report is parked until a day to come.",
          "Choose tomorrow or later.",
        );
      return { ...blank, status: "parked", parkedUntil: verdict.until };
    }
    case "decline":
      if (!verdict.reason.trim())
        return refuse("invalid", "Declining says why.", "The requester reads this reason.");
      return { ...blank, status: "declined", declineReason: verdict.reason.trim() };
  }
}

export interface VerdictResult {
  verdictId: string;
  reference: string;
  status: ReportStanding["status"];
  itemId: string | null;
  itemKey: string | null;
}
