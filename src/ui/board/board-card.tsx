"use client";
import { useDraggable } from "@dnd-kit/core";
import { Octagon } from "lucide-react";
import { memo, useMemo, type KeyboardEvent, type PointerEventHandler } from "react";
import { ageTrack, showsAge } from "@/core/board/age-track";
import {
  besideBlockers,
  waitedForWords,
  waitsForWords,
  type Around,
  type Waiting,
} from "@/core/board/around";
import type { Card } from "@/core/board/card";
import { longStay, type LongStay } from "@/core/board/state-stay";
import { blockerWords } from "@/core/item/blocker";
import type { OpenBlocker } from "@/core/item/fields";
import { countedClock } from "@/core/item/start-finish";
import { ageOf, ageWords } from "@/core/flow/age";
import type { Percentiles } from "@/core/flow/report";
import { computedFields } from "@/core/item/compute-fields";
import { fieldsOfType, ownValueWords, type OwnField } from "@/core/item/own-field";
import { counted } from "@/core/formats/counted";
import type { State } from "@/core/workflow/state";
import { Initials } from "@/ui/kit/initials";
import { daysWords, shortDate, span } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { AgeTrack } from "./age-track";
import { ReadyMark } from "@/ui/kit/ready-mark";

export interface CardFacts {
  zone: string;
  now: number;
  percentiles: Percentiles;
  expectationDays: number;
  nameOf: Map<string, string>;
  /** Of teams and sprints. */
  groupName: Map<string, string>;
  typeName: Map<string, string>;
  /** Fields of the project's own; those that are wanted on cards are shown. */
  ownFields: readonly OwnField[];
  states: ReadonlyMap<string, State>;
  /** Where the columns are not the steps of the process, cards say which they are in. */
  saysState: boolean;
}

interface Props {
  card: Card;
  compact: boolean;
  facts: CardFacts;
  /** Whether it stands directly below its parent. */
  under: boolean;
  /** What stands around it, where the board says so. */
  around: Around | undefined;
  /** Whether it says how far what is under it has come. */
  childrenToo: boolean;
  open: boolean;
  picked: boolean;
  changed: boolean;
  chosen: boolean;
  focusable: boolean;
  draggable: boolean;
  onOpen: (card: Card) => void;
  /** With Shift or Ctrl held a press chooses instead of opening. */
  onChoose: (card: Card) => void;
  onFocus: (card: Card) => void;
  onKey: (event: KeyboardEvent<HTMLElement>, card: Card) => void;
}

/**
 * A card. In waiting parts it is compact; where somebody works on it, it shows more. What is drawn
 * in it is apart from what happens to it: while one card is carried, no other is drawn anew.
 */
export const BoardCard = memo(function BoardCard({
  card,
  compact,
  facts,
  under,
  around,
  childrenToo,
  open,
  picked,
  changed,
  chosen,
  focusable,
  draggable,
  onOpen,
  onChoose,
  onFocus,
  onKey,
}: Props) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: card.id, disabled: !draggable });
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      aria-label={useMemo(
        () => cardLabel(card, facts, { around, childrenToo, chosen }),
        [card, facts, around, childrenToo, chosen],
      )}
      tabIndex={focusable ? 0 : -1}
      className="card"
      data-card={card.id}
      data-key={card.key}
      data-compact={compact}
      data-under={under}
      data-unplanned={card.origin === "unplanned"}
      data-expedite={card.classOfService === "expedite"}
      data-blocked={card.openBlockers.length > 0}
      data-open={open}
      data-lifted={isDragging}
      data-picked={picked}
      data-changed={changed}
      data-chosen={chosen}
      onClick={({ shiftKey, ctrlKey, metaKey }) =>
        shiftKey || ctrlKey || metaKey ? onChoose(card) : onOpen(card)
      }
      onFocus={() => onFocus(card)}
      onKeyDown={(event) => onKey(event, card)}
      onPointerDown={
        draggable ? (listeners?.onPointerDown as PointerEventHandler | undefined) : undefined
      }
    >
      <CardFace
        card={card}
        compact={compact}
        facts={facts}
        around={around}
        childrenToo={childrenToo}
      />
    </div>
  );
});

/** How old a card is, and whether that is more than nearly all finished items took. */
function ageOn(card: Card, { zone, now, expectationDays, percentiles }: CardFacts) {
  const age = ageOf(countedClock(card), zone, now);
  const track = ageTrack(age, expectationDays, percentiles);
  return { age, track, late: track.past85 && card.stateKind !== "finished" };
}

/** Whether a card stands in its state for longer than that expects. */
function stayOf({ stateId, enteredStateAt }: Card, { states, now }: CardFacts): LongStay | null {
  const state = states.get(stateId);
  return state ? longStay(state, enteredStateAt, now) : null;
}

const assigneeOf = ({ assigneeId }: Card, { nameOf }: CardFacts): string | null =>
  assigneeId === null ? null : (nameOf.get(assigneeId) ?? "Somebody");

/** How often an item came back, as people say it. */
const cameBack = (returns: number): string =>
  `came back ${returns === 1 ? "once" : returns === 2 ? "twice" : `${returns} times`}`;

/** Why a card cannot go on, with what it waits for as it is called. */
const causeOf = (blocker: OpenBlocker, around: Around | undefined): string =>
  blockerWords(blocker, (id) => around?.waitsFor.find((other) => other.id === id)?.key ?? null);

/** What stands around a card beside what blocks it, a line each. */
function aroundWords(
  { openBlockers }: Card,
  told: Around | undefined,
  childrenToo: boolean,
): string[] {
  if (!told) return [];
  const around = besideBlockers(told, openBlockers);
  const children = childrenToo && around.children > 0 ? childrenWords(around) : null;
  return [waitsForWords(around), waitedForWords(around), children].filter(
    (words) => words !== null,
  );
}

/** Each of some items with its team and its sprint, for who points at them. */
const waitingTitle = (items: readonly Waiting[], { groupName }: CardFacts): string =>
  items
    .map(({ key, teamId, sprintId }) =>
      [key, ...[teamId, sprintId].flatMap((id) => (id && groupName.get(id)) ?? [])].join(", "),
    )
    .join("; ");

const childrenWords = ({ children, finishedChildren }: Around): string =>
  `${finishedChildren} of ${counted(children, "child", "children")} done`;

/** A card in words, for who does not see it. */
function cardLabel(
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
    blocker && `blocked: ${causeOf(blocker, told.around)}`,
    card.readySince !== null && "ready for its next step",
    stayOf(card, facts)?.words,
    card.classOfService !== "standard" && card.classOfService,
    card.origin === "unplanned" && "unplanned",
    ...aroundWords(card, told.around, told.childrenToo),
    told.chosen && "chosen",
  ]
    .filter(Boolean)
    .join("; ");
}

/** What is drawn in a card. */
const CardFace = memo(function CardFace({
  card,
  compact,
  facts,
  around,
  childrenToo,
}: Pick<Props, "card" | "compact" | "facts" | "around" | "childrenToo">) {
  const [blocker] = card.openBlockers;
  const { age, track, late } = ageOn(card, facts);
  const finished = card.stateKind === "finished";
  const assignee = assigneeOf(card, facts);
  const own = compact ? [] : cardFields(card, facts);
  const stay = stayOf(card, facts);
  const remarks = [
    facts.saysState && facts.states.get(card.stateId)?.name,
    stay && !stay.tooOld && stay.words,
    card.classOfService === "fixed date" && card.dueOn && `by ${shortDate(card.dueOn)}`,
    card.classOfService === "intangible" && "intangible",
    card.origin === "unplanned" && "unplanned",
    card.returns > 0 && cameBack(card.returns),
  ].filter(Boolean);
  return (
    <>
      <div className={`flex items-center ${compact ? "gap-1" : "gap-1.5"}`}>
        <TypeGlyph
          typeId={card.typeId}
          name={facts.typeName.get(card.typeId)}
          size={compact ? 12 : 14}
        />
        <span className="key">{card.key}</span>
        <span className="flex-1" />
        {compact && card.clock.length > 0 && (finished || showsAge(age)) && (
          <span
            className={`whitespace-nowrap text-[12px] ${late ? "font-bold text-alarm" : "text-ink-soft"}`}
            title={late ? "past the 85th percentile of finished items" : undefined}
          >
            {age.age} d
          </span>
        )}
        {!compact && card.estimate !== null && (
          <span
            className="inline-flex h-[19px] min-w-[19px] items-center justify-center rounded-full border border-line px-1 text-[11.5px] font-semibold"
            title={`estimate ${card.estimate}`}
          >
            {card.estimate}
          </span>
        )}
        {!compact && assignee && <Initials name={assignee} />}
      </div>
      <p className={`card-title ${compact ? "mt-0.5" : "mt-1"}`}>{card.title}</p>
      {blocker && (
        <p
          className={`flex items-center gap-1 font-semibold text-alarm ${compact ? "text-[11.5px]" : "mt-1 text-[12.5px]"}`}
        >
          <Octagon size={11} className="shrink-0" fill="currentColor" aria-hidden="true" />
          <span
            className={compact ? "line-clamp-2 leading-tight" : "truncate"}
            title={blocker.waitingFor ? `waiting for ${blocker.waitingFor}` : undefined}
          >
            {causeOf(blocker, around)}, {span(facts.now - blocker.since)}
          </span>
        </p>
      )}
      {card.readySince !== null && (
        <p
          className={`flex items-center gap-1 font-semibold text-rest-ink ${compact ? "text-[11.5px]" : "mt-1 text-[12.5px]"}`}
        >
          <ReadyMark />
          <span className="truncate">ready, {span(facts.now - card.readySince)}</span>
        </p>
      )}
      {stay?.tooOld && (
        <p
          className={`font-semibold text-alarm ${compact ? "text-[11.5px] leading-tight" : "mt-0.5 text-[12.5px]"}`}
        >
          {stay.words}
        </p>
      )}
      {!compact && remarks.length > 0 && (
        <p className="mt-0.5 truncate text-[12.5px] text-ink-soft">{remarks.join(" · ")}</p>
      )}
      {own.length > 0 && <p className="mt-0.5 truncate text-[12.5px]">{own.join(" · ")}</p>}
      {around && (
        <p
          className={`text-ink-soft ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
          title={waitingTitle([...around.waitsFor, ...around.waitedFor], facts)}
        >
          {aroundWords(card, around, childrenToo).join(" · ")}
        </p>
      )}
      {!compact && card.clock.length > 0 && (
        <AgeTrack className="mt-1.5" track={track} late={late} />
      )}
    </>
  );
});

/** What the project's own fields say on a card: "Cost of delay 30,000 pounds". */
function cardFields(card: Card, { ownFields, nameOf }: CardFacts): string[] {
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
