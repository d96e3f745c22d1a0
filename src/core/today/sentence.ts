import { counted } from "@/core/formats/counted";
import type { DayLines } from "./day";

/** A part of the sentence that says how a day stands. */
export interface SentencePart {
  words: string;
  urgent: boolean;
}

/**
 * How the day stands, in one sentence: what cannot wait, what others wait for, what is at risk, and
 * whether there is room for more.
 * @param room how many more items this person may take; null where nothing limits them
 */
export function daySentence(day: DayLines, room: number | null): SentencePart[] {
  const parts: SentencePart[] = [];
  const say = (words: string, urgent = false) => parts.push({ words, urgent });
  const { missed, waits, hands } = day;
  if (missed.length > 0)
    say(
      `${counted(missed.length, "date")} ${missed.length === 1 ? "is" : "are"} missed or today`,
      true,
    );
  if (waits.length > 0)
    say(`${counted(waits.length, "thing")} ${waits.length === 1 ? "waits" : "wait"} for you`, true);
  const risky = hands.filter(({ alarm }) => alarm !== null).length;
  if (risky > 0) say(`${counted(risky, "item")} in your hands ${risky === 1 ? "is" : "are"} late`);
  if (parts.length === 0)
    say(
      hands.length > 0
        ? `nothing waits for you but the ${counted(hands.length, "item")} in your hands`
        : "nothing waits for you",
    );
  if (room !== null && room > 0) say(`you have room for ${counted(room, "more item")}`);
  if (room !== null && room < 0) say(`you hold ${counted(-room, "item")} more than you may`, true);
  return parts.map((part, i) =>
    i === 0 ? { ...part, words: part.words[0].toUpperCase() + part.words.slice(1) } : part,
  );
}

/** How much of a day waits for its person: what is missed, and what others wait for. */
export const waitingCount = ({ missed, waits }: Pick<DayLines, "missed" | "waits">): number =>
  missed.length + waits.length;
