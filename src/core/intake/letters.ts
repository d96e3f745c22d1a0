import { shorten } from "@/core/formats/cut-text";
import type { Instant } from "@/core/calendar/instant";
import { statusForRequester, type Progress, type ReportStanding } from "./report";
import type { Verdict } from "./verdict";

/** What became of a mail that came in. */
export type MailFate =
  "report" | "answer" | "bounce" | "automatic" | "loop" | "refused" | "unreadable";

export const FATE_WORDS: Record<MailFate, string> = {
  report: "became a report",
  answer: "is an answer to a report",
  bounce: "says that a mail of ours could not be delivered",
  automatic: "was written by a machine, nobody was told",
  loop: "was one of our own that came back",
  refused: "was not taken",
  unreadable: "could not be read: it became a report as it came",
};

/** A mail to somebody without an account: plain text, nothing internal, no names of people. */
export interface Letter {
  subject: string;
  body: string;
}

interface About {
  projectName: string;
  reference: string;
  title: string;
  /** Address of the private page. */
  page: string;
}

/** What a letter tells. */
export type LetterKind =
  | { kind: "receipt"; thanks: string }
  | { kind: "question" | "reminder" | "news"; text: string; at: Instant }
  | { kind: "following" };

/**
 * What the requester is told of a verdict; null for parking, which changes nothing for them yet and
 * stands on their page alone.
 * @param merged how far the item is that the report was merged into: what is done already is told
 *   as done
 */
export function tellingOf(
  verdict: Verdict,
  after: ReportStanding,
  at: Instant,
  merged: Progress | null = null,
): LetterKind | null {
  if (verdict.kind === "park") return null;
  if (verdict.kind === "ask") return { kind: "question", text: verdict.question.trim(), at };
  const { headline, detail } = statusForRequester(after, merged);
  return { kind: "news", text: `${headline}. ${detail}`.trim(), at };
}

/**
 * The letter about a report. Its subject carries the reference for people; answers find their way
 * by headers alone.
 */
export function letter(told: LetterKind, { projectName, reference, title, page }: About): Letter {
  const short = shorten(title, 80);
  const foot = `\n\nFollow it here, on a page of your own:\n${page}\n\n${projectName}, ${reference}`;
  switch (told.kind) {
    case "receipt":
      return {
        subject: `Received: ${short} (${reference})`,
        body: `Thank you, your report “${title}” is here. Its reference is ${reference}.\n\n${told.thanks || "Somebody will read it soon; the oldest reports are read first. You will hear from us."}${foot}`,
      };
    case "following":
      return {
        subject: `You follow: ${short} (${reference})`,
        body: `You told us that “${title}” happens to you too. You will hear when it is done.${foot}`,
      };
    case "question":
      return {
        subject: `A question about: ${short} (${reference})`,
        body: `${told.text}\n\nAnswer this mail, or write your answer on your page.${foot}`,
      };
    case "reminder":
      return {
        subject: `Still a question about: ${short} (${reference})`,
        body: `${told.text}${foot}`,
      };
    case "news":
      return { subject: `News about: ${short} (${reference})`, body: `${told.text}${foot}` };
  }
}
