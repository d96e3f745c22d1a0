import { ageTrack } from "@/core/board/age-track";
import {
  besideBlockers,
  waitedForWords,
  waitsForWords,
  type Around,
  type Waiting,
} from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { realityOf } from "@/core/board/reality";
import { USUAL_FACTS } from "@/core/board/card-look";
import { DAY } from "@/core/calendar/instant";
import { factOf, NOTHING_AROUND, ownFieldOf, type FactName } from "@/core/condition/facts";
import { factLabel } from "@/core/condition/vocabulary";
import type { CardsTold } from "@/core/item/list/card-facts";
import { valueWords } from "@/core/item/list/value-words";
import { longStay, type LongStay } from "@/core/board/state-stay";
import { blockerWords } from "@/core/item/blocker";
import type { ItemSnapshot, OpenBlocker } from "@/core/item/fields";
import { paceOf } from "@/core/flow/pace";
import { countedClock } from "@/core/item/start-finish";
import { ageOf, ageWords } from "@/core/flow/age";
import { computedFields } from "@/core/item/compute-fields";
import { fieldsOfType, ownValueWords } from "@/core/item/own-field";
import { counted } from "@/core/formats/counted";
import { daysWords, span } from "@/ui/kit/time";
import type { CardFacts } from "./card-facts";

/** How old a card is, and whether that is more than nearly all finished items took. */
export function ageOn(card: Card, { zone, now, paces, largeTypes }: CardFacts) {
  const age = ageOf(countedClock(card), zone, now);
  const { expectation, percentiles } = paceOf(paces, card.key);
  const track = ageTrack(age, expectation.days, percentiles);
  const held = !largeTypes.has(card.typeId);
  return {
    age,
    track: held ? track : null,
    late: held && track.past85 && card.stateKind !== "finished",
  };
}

/** Whether a card stands in its state for longer than that expects. */
export function stayOf(
  { stateId, enteredStateAt }: Card,
  { states, now }: CardFacts,
): LongStay | null {
  const state = states.get(stateId);
  return state ? longStay(state, enteredStateAt, now) : null;
}

export const assigneeOf = ({ assigneeId }: Card, { nameOf }: CardFacts): string | null =>
  assigneeId === null ? null : (nameOf.get(assigneeId) ?? "Somebody");

/** How often an item came back, as people say it. */
export const cameBack = (returns: number): string =>
  `came back ${returns === 1 ? "once" : returns === 2 ? "twice" : `${returns} times`}`;

/** Why a card cannot go on, with what it waits for: its key, its team and its sprint. */
export function causeOf(
  blocker: OpenBlocker,
  around: Around | undefined,
  { groupName }: CardFacts,
): string {
  const known = around?.waitsFor.find(({ id }) => id === blocker.dependencyId);
  const words = blockerWords(blocker, (id) => (known?.id === id ? known.key : null));
  const more = [known?.teamId, known?.sprintId].flatMap((id) => (id && groupName.get(id)) ?? []);
  return [words, ...more].join(", ");
}

/** What a card waits for beside what blocks it, and what waits for it, a part each. */
export function waitingWords(
  { openBlockers }: Card,
  told: Around,
  shown: ReadonlySet<FactName>,
): string[] {
  const around = besideBlockers(told, openBlockers);
  return [
    shown.has("waitsFor") ? waitsForWords(around) : null,
    shown.has("waitedFor") ? waitedForWords(around) : null,
  ].filter((words) => words !== null);
}

/** How far what is under a card has come; null where nothing is, or it is not to be said. */
export const childrenWords = (
  { children, finishedChildren }: Around,
  shown: ReadonlySet<FactName>,
): string | null =>
  shown.has("children") && children > 0
    ? `${finishedChildren} of ${counted(children, "child", "children")} done`
    : null;

/** How long a card stands in its state, where the view wants that said and it is long enough. */
export function staysWords(card: Card, { shown, look, now }: CardFacts): string | null {
  const days = (now - card.enteredStateAt) / DAY;
  return shown.has("daysInState") && card.stateKind !== "finished" && days >= look.stayFrom
    ? `here for ${span(now - card.enteredStateAt)}`
    : null;
}

/** So many lines of fields a card has beside what it says in its own way. */
const MOST_LINES = 3;
const IN_ITS_WAY: readonly FactName[] = [...USUAL_FACTS, "daysInState"];

/** What the view wants cards to say by name: "Priority high", the project's own fields a line each. */
export function factLines(
  card: Card,
  { look, asked, vocabulary, now, zone }: CardFacts,
  told: CardsTold[string] | undefined,
): string[] {
  const item = { ...NOTHING_AROUND, item: card as unknown as ItemSnapshot };
  const said = look.facts.flatMap((fact) => {
    if (IN_ITS_WAY.includes(fact)) return [];
    const at = asked.indexOf(fact);
    const value = at < 0 ? factOf(fact).of(item, { now, zone }) : (told?.values[at] ?? null);
    const several = Array.isArray(value);
    if (value === null || (several && value.length === 0)) return [];
    const words = several
      ? value.map((one) => valueWords(fact, one as string, vocabulary)).join(", ")
      : valueWords(fact, value, vocabulary);
    return [{ own: ownFieldOf(fact) !== null, words: `${factLabel(fact, vocabulary)} ${words}` }];
  });
  const own = said.filter((one) => one.own).map((one) => one.words);
  const others = said.filter((one) => !one.own).map((one) => one.words);
  return [...(others.length > 0 ? [others.join(" · ")] : []), ...own].slice(0, MOST_LINES);
}

/** Each of some items with its state, its team and its sprint, for who points at them. */
export const waitingTitle = (items: readonly Waiting[], { groupName, states }: CardFacts): string =>
  items
    .map(({ key, stateId, teamId, sprintId }) => {
      const groups = [teamId, sprintId].flatMap((id) => (id && groupName.get(id)) ?? []);
      return [key, states.get(stateId)?.name, ...groups].filter(Boolean).join(", ");
    })
    .join("; ");

/** A card in words, for who does not see it. */
export function cardLabel(
  card: Card,
  facts: CardFacts,
  told: { around: Around | undefined; childrenToo: boolean; chosen: boolean },
): string {
  const { age, late } = ageOn(card, facts);
  const assignee = assigneeOf(card, facts);
  const [blocker] = card.openBlockers;
  const finished = card.stateKind === "finished";
  return [
    `${card.key}, ${facts.typeName.get(card.typeId) ?? card.typeId}: ${card.title}`,
    assignee ? `assigned to ${assignee}` : "assigned to nobody",
    card.clock.length > 0 &&
      `${finished ? daysWords(age.age) : ageWords(age)}${late ? ", past the 85th percentile" : ""}`,
    blocker && `blocked: ${causeOf(blocker, told.around, facts)}`,
    card.readySince !== null && "ready for its next step",
    stayOf(card, facts)?.words,
    card.classOfService !== "standard" && card.classOfService,
    card.origin === "unplanned" && "unplanned",
    ...(told.around ? waitingWords(card, told.around, facts.shown) : []),
    told.around && told.childrenToo && childrenWords(told.around, facts.shown),
    realityOf(card, facts.states.get(card.stateId), told.around)?.words,
    told.chosen && "chosen",
  ]
    .filter(Boolean)
    .join("; ");
}

/** What the project's own fields say on a card: "Cost of delay 30,000 pounds". */
export function cardFields(card: Card, { ownFields, nameOf }: CardFacts): string[] {
  const shown = fieldsOfType(ownFields, card.typeId).filter((f) => f.onCard);
  if (shown.length === 0) return [];
  const computed = computedFields(ownFields, card);
  return shown.flatMap((f) => {
    const value = f.kind === "computed" ? computed[f.id] : (card.own[f.id] ?? null);
    return value === null || value === undefined
      ? []
      : [`${f.name} ${ownValueWords(f, value, (id) => nameOf.get(id) ?? "somebody")}`];
  });
}
