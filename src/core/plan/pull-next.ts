import { dayWords } from "@/core/calendar/day-words";
import { addDays, type Day } from "@/core/calendar/month";
import type { Days } from "@/core/calendar/instant";
import type { Card } from "@/core/board/card";
import { counted } from "@/core/formats/counted";
import { listWords } from "@/core/formats/list-words";
import type { StateId } from "@/core/workflow/state";

/** An item of the backlog that somebody might pull. */
export interface Pullable {
  card: Card;
  /** The move that takes it into the process; null where none does. */
  move: { verb: string; to: StateId } | null;
  /** How much it waits for that was not delivered yet. */
  waitsFor: number;
  /** Keys of items that wait for it. */
  frees: readonly string[];
  /** How many like it this person has delivered, and by what they are alike. */
  alike: { count: number; by: string } | null;
}

/** What to pull, and why this. */
export interface Pulled {
  card: Card;
  move: { verb: string; to: StateId };
  words: string;
}

/** Rank decides; among the first so many, freeing others and having done the like may choose. */
const CHOSEN_AMONG = 5;

/**
 * What somebody may pull, the best first: what is expedite; then fixed dates that would not be kept
 * any more if they waited; then by rank, where among the first five one that others wait for comes
 * first, and then one like those that this person has done.
 * @param rows the first rows of the backlog, in rank order
 * @param p85 so many days 85 % take from commitment to finish; null where too few have finished
 */
export function pullNext(
  rows: readonly Pullable[],
  { personId, today, p85 }: { personId: string; today: Day; p85: Days | null },
): Pulled[] {
  const free = rows.filter(
    ({ card, move, waitsFor }) =>
      move !== null &&
      waitsFor === 0 &&
      card.openBlockers.length === 0 &&
      (card.assigneeId === null || card.assigneeId === personId),
  );
  const isExpedite = ({ card }: Pullable) => card.classOfService === "expedite";
  const lastDay = addDays(today, Math.ceil(p85 ?? 0));
  const pressing = ({ card }: Pullable) =>
    card.classOfService === "fixed date" && card.dueOn !== null && card.dueOn <= lastDay;
  const hurried = free.filter((row) => isExpedite(row) || pressing(row));
  const others = free.filter((row) => !hurried.includes(row));
  const first = others.slice(0, CHOSEN_AMONG);
  const chosen = first.find(({ frees }) => frees.length > 0) ?? first.find(({ alike }) => alike);
  const byRank = chosen ? [chosen, ...others.filter((row) => row !== chosen)] : others;
  const inOrder = [
    ...hurried.filter(isExpedite),
    ...hurried.filter((row) => !isExpedite(row)),
    ...byRank,
  ];
  const top = others[0];
  return inOrder.map((row) => ({
    card: row.card,
    move: row.move!,
    words: wordsFor(row, {
      today,
      isTop: row === top,
      isExpedite: isExpedite(row),
      late: pressing(row),
      p85,
    }),
  }));
}

const tookWords = (p85: Days | null): string =>
  p85 === null ? "" : `, and 85 % are done within ${counted(Math.ceil(p85), "day")}`;

function wordsFor(
  { card, frees, alike }: Pullable,
  {
    today,
    isTop,
    isExpedite,
    late,
    p85,
  }: { today: Day; isTop: boolean; isExpedite: boolean; late: boolean; p85: Days | null },
): string {
  const said: string[] = [];
  if (isExpedite) said.push("It is expedite.");
  else if (late && card.dueOn)
    said.push(`It is due ${dayWords(card.dueOn, today)}${tookWords(p85)}.`);
  else if (isTop) said.push("First in the backlog that you may take.");
  if (frees.length > 0)
    said.push(
      `It frees ${listWords([...frees.slice(0, 2), ...(frees.length > 2 ? [`${frees.length - 2} more`] : [])], "and")}.`,
    );
  if (alike) said.push(`You have finished ${counted(alike.count, "item")} like it in ${alike.by}.`);
  return said.join(" ") || "Next in the backlog.";
}
