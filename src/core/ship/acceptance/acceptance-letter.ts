import { shortDate } from "@/core/calendar/day-words";
import type { Day } from "@/core/calendar/month";
import { counted } from "@/core/formats/counted";
import { shorten } from "@/core/formats/cut-text";

/** What a letter to somebody says whom work is shown to. */
export interface ShownLetter {
  projectName: string;
  /** What whoever asks wrote to them; may be empty. */
  words: string;
  /** What each piece is called, in words for outside. */
  titles: readonly string[];
  /** The address of their own page. */
  page: string;
  /** Until which day it is there. */
  until: Day;
}

const LISTED = 12;

/** The letter by which somebody is asked to look at what was done, or reminded of it. */
export function acceptanceLetter(
  kind: "asked" | "reminded" | "again",
  { projectName, words, titles, page, until }: ShownLetter,
): { subject: string; body: string } {
  const about = titles.length === 1 ? shorten(titles[0], 80) : counted(titles.length, "thing");
  const begins = {
    asked: `${projectName}: please have a look at ${about}`,
    reminded: `${projectName}: still waiting for your word on ${about}`,
    again: `${projectName}: please look once more at ${about}`,
  }[kind];
  const list = titles.slice(0, LISTED).map((title) => `- ${shorten(title, 120)}`);
  if (titles.length > LISTED) list.push(`and ${titles.length - LISTED} more`);
  const parts = [
    "Hello,",
    ...(words.trim() ? [words.trim()] : []),
    `this is done and waits for your word:\n\n${list.join("\n")}`,
    `Look at it, and say that you accept it or what is missing, on a page of your own:\n${page}`,
    `The page is there until ${shortDate(until)}. Whoever has its address can answer in your name: keep it to yourself.`,
  ];
  return { subject: begins, body: `${parts.join("\n\n")}\n` };
}
