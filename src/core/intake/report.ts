import { dayWords } from "@/core/calendar/day-words";
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

/** What is known of when, beside how a report stands; ISO 8601 calendar dates. */
export interface RequesterDays {
  today: string;
  /** Until when a first answer was promised. */
  hearBy?: string | null;
  /** When the work was finished. */
  finishedOn?: string | null;
  /** When the release that it is in is planned to go out. */
  goesOutOn?: string | null;
}

/** What the requester is told, in words that give away nothing internal. */
export function statusForRequester(
  standing: ReportStanding,
  item: Progress | null,
  days: RequesterDays | null = null,
): { headline: string; detail: string } {
  const on = (day: string) => dayWords(day, days?.today ?? null);
  switch (standing.status) {
    case "unjudged":
      return {
        headline: "Received",
        detail: days?.hearBy
          ? `You will hear from us by ${on(days.hearBy)}.`
          : "Somebody will read it soon. The oldest reports are read first.",
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
          ? `We will look at it again on ${on(standing.parkedUntil)}.`
          : "We will look at it again when other work that it depends on is done.",
      };
    case "declined":
      return { headline: "We will not do this", detail: standing.declineReason ?? "" };
    case "accepted":
    case "merged": {
      const known = standing.status === "merged" ? "Others have told us about this too. " : "";
      if (!item) return { headline: "Accepted", detail: known };
      if (item.stateKind === "finished") {
        const { headline, detail } = endedWords(
          item.outcome,
          days?.finishedOn ? on(days.finishedOn) : null,
        );
        return { headline, detail: `${known}${detail}` };
      }
      const out = days?.goesOutOn ? ` We plan to have it out on ${on(days.goesOutOn)}.` : "";
      if (item.stateKind === "unstarted")
        return {
          headline: "Accepted",
          detail: `${known}It is in our backlog and has its place among the other work.${out}`,
        };
      return {
        headline: "Being worked on",
        detail: `${known}It has reached this step: ${item.stage ?? "in progress"}.${out}`,
      };
    }
  }
}

/** How work ended, for the one who asked for it. */
function endedWords(outcome: Outcome | null, day: string | null) {
  if (isDelivered(outcome))
    return {
      headline: "Done",
      detail: `${day === null ? "It is live now." : `It is live since ${day}.`} Tell us if it is still not right.`,
    };
  if (outcome === "cannot reproduce")
    return {
      headline: "We could not make it happen yet",
      detail:
        "We tried, and here it did not happen. If it happens again, tell us the day, the time and what you saw.",
    };
  return {
    headline: "Closed",
    detail: `It ended without a change: ${outcome ?? "no outcome given"}. Tell us more if you see it otherwise.`,
  };
}
