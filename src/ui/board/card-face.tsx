"use client";
import { Size } from "@/ui/kit/sizes";
import { Octagon } from "lucide-react";
import { memo, type ReactNode } from "react";
import { HOUR } from "@/core/calendar/instant";
import { promiseLeftWords, type PromiseLeft } from "@/core/item/promise-left";
import { probablyWords, type Probably } from "@/core/plan/probably";
import { showsAge } from "@/core/board/age-track";
import { belowWords, type Around } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import type { CardsTold } from "@/core/item/list/card-facts";
import { Initials } from "@/ui/kit/initials";
import { daysWords, shortDate, span } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { AgeTrack } from "./age-track";
import { CardChildren } from "./card-children";
import type { InPlace } from "./card-fields";
import { MarkLine } from "./card-mark";
import { ReadyMark } from "@/ui/kit/ready-mark";
import { realityOf } from "@/core/board/reality";
import type { CardFacts } from "./card-facts";
import { SmallLine } from "./small-line";
import { useCardHands } from "./use-card-acts";
import {
  ageOn,
  stayOf,
  assigneeOf,
  cameBack,
  causeOf,
  childrenWords,
  waitingWords,
  staysWords,
  factLines,
  waitingTitle,
  cardFields,
} from "./card-words";

/** What is promised for sooner than this asks to be looked at. */
const SOON = 8 * HOUR;

/** What a card is drawn from. */
export interface Drawn {
  card: Card;
  compact: boolean;
  facts: CardFacts;
  /** What stands around it, where the board says so. */
  around: Around | undefined;
  /** What the server says of it. */
  told: CardsTold[string] | undefined;
  /** Whose it is, in words, where the lane does not say that; else null. */
  whose: string | null;
  /** Whether it says how far what is under it has come. */
  childrenToo: boolean;
  /** Whether what is under it stands on it as a list. */
  childrenOpen: boolean;
}

/** What is drawn in a card. */
export const CardFace = memo(function CardFace({
  card,
  compact,
  facts,
  around,
  told,
  whose,
  childrenToo,
  childrenOpen,
}: Drawn) {
  const hands = useCardHands();
  const [blocker] = card.openBlockers;
  const { age, track, late } = ageOn(card, facts);
  const own = compact ? [] : cardFields(card, facts);
  const stay = stayOf(card, facts);
  const { shown } = facts;
  const mark = facts.look.marks[told?.mark ?? -1];
  const said = factLines(card, facts, told);
  const remarks = [
    facts.saysState && facts.states.get(card.stateId)?.name,
    whose,
    stay ? !stay.tooOld && stay.words : staysWords(card, facts),
    shown.has("classOfService") &&
      card.classOfService === "fixed date" &&
      card.dueOn &&
      `by ${shortDate(card.dueOn)}`,
    shown.has("classOfService") && card.classOfService === "intangible" && "intangible",
    shown.has("origin") && card.origin === "unplanned" && "unplanned",
    shown.has("returns") && card.returns > 0 && cameBack(card.returns),
  ].filter(Boolean);
  return (
    <>
      <CardHead card={card} compact={compact} facts={facts} />
      <p
        className={`card-title ${compact ? "mt-0.5" : "mt-1"}`}
        onDoubleClick={() => hands?.change(card, "title")}
      >
        {card.title}
      </p>
      {told?.parent && (
        <p
          className={`truncate text-ink-soft ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
          title={`under ${told.parent.key} ${told.parent.title}`}
        >
          under <span className="key">{told.parent.key}</span> {told.parent.title}
        </p>
      )}
      {told?.left && <LeftLine left={told.left} compact={compact} />}
      {told?.probably && (
        <ProbablyLine probably={told.probably} dueOn={card.dueOn} compact={compact} />
      )}
      {mark && <MarkLine mark={mark} compact={compact} />}
      {blocker && (
        <p
          className={`flex items-center gap-1 font-semibold text-alarm ${compact ? "text-[11.5px]" : "mt-1 text-[12.5px]"}`}
        >
          <Octagon size={11} className="shrink-0" fill="currentColor" aria-hidden="true" />
          <span
            className={compact ? "line-clamp-2 leading-tight" : "truncate"}
            title={blocker.waitingFor ? `waiting for ${blocker.waitingFor}` : undefined}
          >
            {causeOf(blocker, around, facts)}, {span(facts.now - blocker.since)}
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
      {compact && whose && <p className="truncate text-[11.5px] text-ink-soft">{whose}</p>}
      <RealityLine card={card} around={around} facts={facts} compact={compact} />
      {said.map((line) => (
        <p
          key={line}
          className={`truncate ${compact ? "text-[11.5px] text-ink-soft" : "mt-0.5 text-[12.5px]"}`}
          title={line}
        >
          {line}
        </p>
      ))}
      {own.length > 0 && <p className="mt-0.5 truncate text-[12.5px]">{own.join(" · ")}</p>}
      {around && (
        <AroundLine
          card={card}
          around={around}
          facts={facts}
          compact={compact}
          childrenToo={childrenToo}
          childrenOpen={childrenOpen}
        />
      )}
      {childrenOpen && hands && <CardChildren itemKey={card.key} />}
      {!compact && (told?.zigzag || (shown.has("age") && card.clock.length > 0)) && (
        <div className="mt-1.5 flex items-center gap-2">
          {told?.zigzag && <SmallLine stretches={told.zigzag} />}
          {shown.has("age") && card.clock.length > 0 && (
            <AgeLine age={age} track={track} late={late} />
          )}
        </div>
      )}
    </>
  );
});

/** What an item is, how old, how large, and who has it. */
function CardHead({ card, compact, facts }: Pick<Drawn, "card" | "compact" | "facts">) {
  const { age, late } = ageOn(card, facts);
  const finished = card.stateKind === "finished";
  const assignee = assigneeOf(card, facts);
  const { shown } = facts;
  return (
    <div className={`flex items-center ${compact ? "gap-1" : "gap-1.5"}`}>
      <TypeGlyph
        typeId={card.typeId}
        name={facts.typeName.get(card.typeId)}
        size={compact ? 12 : 14}
      />
      <span className="key">{card.key}</span>
      <span className="flex-1" />
      {compact && shown.has("age") && card.clock.length > 0 && (finished || showsAge(age)) && (
        <span
          className={`whitespace-nowrap text-[12px] ${late ? "font-bold text-alarm" : "text-ink-soft"}`}
          title={late ? "past the 85th percentile of finished items" : undefined}
        >
          {age.age} d
        </span>
      )}
      {!compact && shown.has("estimate") && card.estimate !== null && (
        <Pressed card={card} field="estimate" words={`Estimate ${card.estimate}, change it`}>
          <span className="inline-flex h-[19px] min-w-[19px] items-center justify-center rounded-full border border-line px-1 text-[11.5px] font-semibold">
            <Size of={card.estimate} />
          </span>
        </Pressed>
      )}
      {!compact && shown.has("assigneeId") && assignee && (
        <Pressed card={card} field="assigneeId" words={`${assignee} has it, change that`}>
          <Initials name={assignee} />
        </Pressed>
      )}
    </div>
  );
}

/** How old it is; large pieces have nothing that their age is held against. */
const AgeLine = ({ age, track, late }: ReturnType<typeof ageOn>) =>
  track ? (
    <AgeTrack className="min-w-0 flex-1" track={track} late={late} />
  ) : (
    <span className="text-[12px] text-ink-soft">under way for {daysWords(age.age)}</span>
  );

/** A part of a card that a press changes, without opening the item. */
function Pressed({
  card,
  field,
  words,
  children,
}: {
  card: Card;
  field: InPlace;
  words: string;
  children: ReactNode;
}) {
  const hands = useCardHands();
  if (!hands) return children;
  return (
    <button
      type="button"
      tabIndex={-1}
      className="card-part"
      title={words}
      data-part={field}
      onClick={(event) => {
        event.stopPropagation();
        hands.change(card, field);
      }}
    >
      {children}
    </button>
  );
}

/** Where what happened says something else than the state: one press to put it right. */
function RealityLine({
  card,
  around,
  facts,
  compact,
}: Pick<Drawn, "card" | "around" | "facts" | "compact">) {
  const hands = useCardHands();
  const reality = realityOf(card, facts.states.get(card.stateId), around);
  if (!reality) return null;
  return (
    <p className={`leading-tight ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}>
      <button
        type="button"
        tabIndex={-1}
        disabled={hands === null}
        className="card-part font-semibold text-signal-ink"
        data-reality={reality.kind}
        title="Put it right"
        onClick={(event) => {
          event.stopPropagation();
          hands?.change(card, reality.kind === "no reviewer" ? "reviewerId" : null);
        }}
      >
        {reality.words}
      </button>
    </p>
  );
}

/** What is left of what was promised; what is missed, or soon will be, is loud. */
function LeftLine({ left, compact }: { left: PromiseLeft; compact: boolean }) {
  const tone =
    left.ms < 0
      ? "text-alarm"
      : left.ms < SOON && !left.paused
        ? "text-signal-ink"
        : "text-ink-soft";
  return (
    <p
      className={`font-semibold leading-tight ${tone} ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
      data-promise-left=""
    >
      {promiseLeftWords(left)}
    </p>
  );
}

/** When it is probably finished; that it is not sure before it is due is loud. */
function ProbablyLine({
  probably,
  dueOn,
  compact,
}: {
  probably: Probably;
  dueOn: Card["dueOn"];
  compact: boolean;
}) {
  const said = probablyWords(probably, dueOn);
  if (!said) return null;
  return (
    <p
      className={`leading-tight ${said.late ? "font-semibold text-alarm" : "text-ink-soft"} ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
      data-probably=""
    >
      {said.words}
    </p>
  );
}

/** What stands around an item; what is under it opens as a list. */
function AroundLine({
  card,
  around,
  facts,
  compact,
  childrenToo,
  childrenOpen,
}: Pick<Drawn, "card" | "facts" | "compact" | "childrenToo" | "childrenOpen"> & {
  around: Around;
}) {
  const hands = useCardHands();
  const waiting = waitingWords(card, around, facts.shown).join(" · ");
  const nameOf = (typeId: string) => facts.typeName.get(typeId) ?? "item";
  const below = around.below ? belowWords(around.below, nameOf) : null;
  const children = below ?? (childrenToo ? childrenWords(around, facts.shown) : null);
  if (waiting === "" && children === null) return null;
  return (
    <p
      className={`text-ink-soft ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
      title={waitingTitle([...around.waitsFor, ...around.waitedFor], facts)}
    >
      {waiting}
      {waiting !== "" && children !== null && " · "}
      {children !== null &&
        (hands ? (
          <button
            type="button"
            tabIndex={-1}
            className="card-part underline-offset-4 hover:underline"
            aria-expanded={below === null ? childrenOpen : undefined}
            data-part="children"
            onClick={(event) => {
              event.stopPropagation();
              (below === null ? hands.turnChildren : hands.openBelow)(card);
            }}
          >
            {children}
          </button>
        ) : (
          children
        ))}
    </p>
  );
}
