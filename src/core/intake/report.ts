import { isDelivered } from "@/core/item/start-finish";
import type { StateKind, Outcome } from "@/core/workflow/state";

export const REPORT_STATUSES = [
  "unjudged",
  "asked",
  "parked",
  "accepted",
  "merged",
  "declined",
] as const;
export type ReportStatus = (typeof REPORT_STATUSES)[number];

/** How a report came in. */
export const REPORT_WAYS = ["form", "mail", "hand", "table", "event"] as const;
export type ReportWay = (typeof REPORT_WAYS)[number];

export const WAY_WORDS: Record<ReportWay, string> = {
  form: "by a form",
  mail: "by mail",
  hand: "from the team",
  table: "from a table",
  event: "from another program",
};

/** What a verdict changes on a report, and what undoing it brings back. */
export interface ReportStanding {
  status: ReportStatus;
  /** The item that came of it, or that it was merged into. */
  itemId: string | null;
  /** ISO 8601 calendar date until which it is parked. */
  parkedUntil: string | null;
  /** The item whose finish ends the parking. */
  parkedItemId: string | null;
  declineReason: string | null;
}

export const UNJUDGED: ReportStanding = {
  status: "unjudged",
  itemId: null,
  parkedUntil: null,
  parkedItemId: null,
  declineReason: null,
};

/** How far the work on an item is, as far as a requester hears of it. */
export interface Progress {
  stateKind: StateKind;
  stage: string | null;
  outcome: Outcome | null;
}

/** What the requester is told, in words that give away nothing internal. */
export function statusForRequester(
  standing: ReportStanding,
  item: Progress | null,
): { headline: string; detail: string } {
  switch (standing.status) {
    case "unjudged":
      return {
        headline: "Received",
        detail: "Somebody will read it soon. The oldest reports are read first.",
      };
    case "asked":
      return {
        headline: "We have a question for you",
        detail: "Please answer below, then we can go on.",
      };
    case "parked":
      return {
        headline: "Put aside for now",
        detail: standing.parkedUntil
          ? `We will look at it again on ${standing.parkedUntil}.`
          : "We will look at it again when other work that it depends on is done.",
      };
    case "declined":
      return { headline: "We will not do this", detail: standing.declineReason ?? "" };
    case "accepted":
    case "merged": {
      const known = standing.status === "merged" ? "Others have told us about this too. " : "";
      if (!item) return { headline: "Accepted", detail: known };
      if (item.stateKind === "finished")
        return isDelivered(item.outcome)
          ? { headline: "Done", detail: `${known}The change is live.` }
          : {
              headline: "Closed",
              detail: `${known}It ended without a change: ${item.outcome ?? "no outcome given"}.`,
            };
      if (item.stateKind === "unstarted")
        return {
          headline: "Accepted",
          detail: `${known}It is in our backlog and has its place among the other work.`,
        };
      return {
        headline: "Being worked on",
        detail: `${known}It has reached this step: ${item.stage ?? "in progress"}.`,
      };
    }
  }
}
