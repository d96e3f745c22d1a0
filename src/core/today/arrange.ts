import { dayWords, shortDate } from "@/core/calendar/day-words";
import { addDays } from "@/core/calendar/month";
import { chanceWords } from "@/core/plan/probably";
import type { DayFacts, DayItem, DayLine, DayLines, NextStep } from "./day";

/** Dates so many days ahead stand among those of the day. */
const AHEAD = 7;

/**
 * Somebody's day: each item once, in the first part that it belongs to, with why it stands there
 * and its next step. What is missed or due today comes first, whatever else is true of it.
 */
export function arrangeDay(facts: DayFacts): DayLines {
  const { items, today } = facts;
  const day: DayLines = { missed: [], waits: [], hands: [], awaited: [], dates: [], fresh: [] };
  const placed = new Set<string>();
  const known = new Map(items.map((item) => [item.card.id, item]));
  const put = (
    part: keyof DayLines,
    item: DayItem,
    line: Partial<DayLine> & { reason: string },
  ) => {
    if (placed.has(item.card.id)) return;
    placed.add(item.card.id);
    day[part].push({ ...lineOf(item), ...line });
  };
  const urgentFirst = items.toSorted(
    (a, b) => Number(isExpedite(b)) - Number(isExpedite(a)) || b.share - a.share,
  );
  for (const item of urgentFirst) {
    const { dueOn } = item.card;
    if (item.mine.assignee && dueOn !== null && dueOn <= today)
      put("missed", item, {
        alarm: dueOn < today ? `was due ${dayWords(dueOn, today)}` : "due today",
        reason: `${item.stateName} · ${item.since}`,
      });
  }
  for (const question of facts.asked) {
    const item = known.get(question.itemId);
    if (item)
      put("waits", item, {
        reason: `${question.who} asks: “${question.words}”`,
        next: { kind: "answer", commentId: question.commentId },
      });
  }
  for (const { itemId, who } of facts.shown) {
    const item = known.get(itemId);
    if (item)
      put("waits", item, {
        reason: `${who} shows it to you: do you accept it?`,
        next: { kind: "accept" },
      });
  }
  for (const { itemId, words } of facts.changed) {
    const item = known.get(itemId);
    if (item) put("waits", item, { reason: words, alarm: "to be seen", next: LOOK });
  }
  for (const item of urgentFirst) {
    if (item.blocked?.byMe) put("waits", item, { reason: item.blocked.words, next: LOOK });
    else if (item.ofReview && item.mine.reviewer)
      put("waits", item, { reason: `your review · ${item.stateName} ${item.since}` });
    else if (item.ofTest && item.mine.tests && item.stateKind === "waiting")
      put("waits", item, { reason: `to be tested · ${item.since}` });
  }
  for (const question of facts.asking) {
    const item = known.get(question.itemId);
    if (item && !handsOf(item)) put("awaited", item, { reason: askingWords(question), next: LOOK });
  }
  for (const item of urgentFirst)
    if (handsOf(item) && item.blocked === null)
      put("hands", item, {
        reason: `${item.stateName} ${item.since}${dueWords(item)}`,
        alarm: item.pastExpectation,
      });
  for (const item of urgentFirst)
    if (item.mine.assignee && isStarted(item))
      put("awaited", item, {
        reason: awaitedWords(item),
        alarm: item.blocked?.words ?? null,
        next: LOOK,
      });
  const until = addDays(today, AHEAD);
  for (const item of items.toSorted(byDueDay)) {
    const { dueOn } = item.card;
    if (item.mine.assignee && dueOn !== null && dueOn <= until)
      put("dates", item, {
        reason: `${item.stateName}, due ${dayWords(dueOn, today)}${byThen(item)}`,
        next: LOOK,
      });
  }
  for (const { itemId, words, alertIds } of facts.news) {
    const item = known.get(itemId);
    if (item) put("fresh", item, { reason: words, next: { kind: "seen", alertIds } });
  }
  return day;
}

/** When it is due, and how likely it is finished by then. */
const dueWords = (item: DayItem): string =>
  item.card.dueOn === null ? "" : ` · due ${shortDate(item.card.dueOn)}${byThen(item)}`;

const byThen = ({ byDue }: DayItem): string =>
  byDue === null ? "" : `, ${chanceWords(byDue)} sure by then`;

const LOOK: NextStep = { kind: "look" };

const isExpedite = ({ card }: DayItem) => card.classOfService === "expedite";
const isStarted = ({ stateKind }: DayItem) => stateKind === "waiting" || stateKind === "working";

/** Whether an item is in this person's hands: what is to be done next is theirs. */
const handsOf = ({ mine, forAssignee, ...item }: DayItem): boolean =>
  mine.assignee && forAssignee && isStarted({ mine, forAssignee, ...item });

const byDueDay = (a: DayItem, b: DayItem): number =>
  (a.card.dueOn ?? "9999") < (b.card.dueOn ?? "9999") ? -1 : 1;

function lineOf(item: DayItem): Omit<DayLine, "reason"> {
  const { card, projectKey, stateName, track, next } = item;
  const step: NextStep = next ? { kind: "move", ...next } : LOOK;
  return { card, projectKey, stateName, track, alarm: null, next: step };
}

const askingWords = ({ who, words }: { who: string; words: string }) =>
  `you asked ${who}: “${words}”`;

function awaitedWords({ ofReview, ofTest, reviewerName, stateName, since, blocked }: DayItem) {
  if (blocked) return `${stateName} ${since}`;
  if (ofReview) return `in review by ${reviewerName ?? "nobody yet"} · ${since}`;
  if (ofTest) return `${stateName} · ${since}`;
  return `${stateName} ${since}`;
}
