import { dayWords } from "@/core/calendar/day-words";
import { shorten } from "@/core/formats/cut-text";
import type { Instant } from "@/core/calendar/instant";
import { withoutReference } from "./reference";
import { watchedWords } from "./reproduction";
import { statusForRequester, type Progress, type ReportStanding } from "./report";
import type { Verdict } from "./verdict";

/** What became of a mail that came in. */
export type MailFate =
  | "report"
  | "answer"
  | "comment"
  | "held"
  | "bounce"
  | "automatic"
  | "loop"
  | "refused"
  | "unreadable";

export const FATE_WORDS: Record<MailFate, string> = {
  report: "became a report",
  answer: "is an answer to a report",
  comment: "became a comment on an item",
  held: "waits: nobody may write a comment so",
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
  /** By which day (in words) a first answer was promised; null where none was. */
  | { kind: "receipt"; thanks: string; hearBy: string | null }
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
  if (verdict.kind === "park")
    return verdict.watched && verdict.until !== null
      ? { kind: "news", text: watchedWords(dayWords(verdict.until, null)), at }
      : null;
  if (verdict.kind === "ask") return { kind: "question", text: verdict.question.trim(), at };
  const { headline, detail } = statusForRequester(after, merged);
  return { kind: "news", text: `${headline}. ${detail}`.trim(), at };
}

const HELLO = "Hello,\n\n";

/** What comes next after a report was received. */
const nextWords = ({ hearBy, thanks }: { hearBy: string | null; thanks: string }): string => {
  if (hearBy !== null)
    return `You will hear from us by ${hearBy}: whether we take it on, or what we still need to know.`;
  return thanks
    ? ""
    : "Somebody will read it soon; the oldest reports are read first. You will hear from us.";
};

const ANSWERED = /^(?:re|fwd?|aw|wg): */i;
const OURS = /^(?:received|you follow|a question about|still a question about|news about): */i;

/** A title without the words that our own subjects begin with, where it came from an answer to one. */
export function withoutOurWords(title: string): string {
  let rest = title;
  let ours = false;
  for (;;) {
    const next = rest.replace(ANSWERED, "").replace(OURS, "");
    if (next === rest) break;
    ours ||= OURS.test(rest.replace(ANSWERED, ""));
    rest = next;
  }
  if (!ours) return title;
  return withoutReference(rest).trim() || title;
}

/**
 * The letter about a report. Its subject carries the reference for people; answers find their way
 * by headers alone.
 */
export function letter(told: LetterKind, { projectName, reference, title, page }: About): Letter {
  const short = shorten(withoutOurWords(title), 80);
  const foot = `\n\nFollow it here, on a page of your own:\n${page}\n\n${projectName}, ${reference}`;
  switch (told.kind) {
    case "receipt":
      return {
        subject: `Received: ${short} (${reference})`,
        body: `${HELLO}thank you, your report “${title}” is here. Its reference is ${reference}.\n\n${[told.thanks, nextWords(told)].filter(Boolean).join("\n\n")}${foot}`,
      };
    case "following":
      return {
        subject: `You follow: ${short} (${reference})`,
        body: `${HELLO}you told us that “${title}” happens to you too. You will hear when it is done.${foot}`,
      };
    case "question":
      return {
        subject: `A question about: ${short} (${reference})`,
        body: `${HELLO}${told.text}\n\nAnswer this mail, or write your answer on your page. Then we go on with your report.${foot}`,
      };
    case "reminder":
      return {
        subject: `Still a question about: ${short} (${reference})`,
        body: `${HELLO}${told.text}\n\nAnswer this mail, or write your answer on your page.${foot}`,
      };
    case "news":
      return {
        subject: `News about: ${short} (${reference})`,
        body: `${HELLO}${told.text}\n\nIf something is not right, answer this mail: it comes back to us with your report.${foot}`,
      };
  }
}
