"use client";
import { Octagon } from "lucide-react";
import { memo } from "react";
import { showsAge } from "@/core/board/age-track";
import { type Around } from "@/core/board/around";
import type { Card } from "@/core/board/card";
import type { CardsTold } from "@/core/item/list/card-facts";
import { Initials } from "@/ui/kit/initials";
import { shortDate, span } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { AgeTrack } from "./age-track";
import { MarkLine } from "./card-mark";
import { ReadyMark } from "@/ui/kit/ready-mark";
import type { CardFacts } from "./card-facts";
import {
  ageOn,
  stayOf,
  assigneeOf,
  cameBack,
  causeOf,
  aroundWords,
  staysWords,
  factLines,
  waitingTitle,
  cardFields,
} from "./card-words";

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
}: Drawn) {
  const [blocker] = card.openBlockers;
  const { age, track, late } = ageOn(card, facts);
  const finished = card.stateKind === "finished";
  const assignee = assigneeOf(card, facts);
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
          <span
            className="inline-flex h-[19px] min-w-[19px] items-center justify-center rounded-full border border-line px-1 text-[11.5px] font-semibold"
            title={`estimate ${card.estimate}`}
          >
            {card.estimate}
          </span>
        )}
        {!compact && shown.has("assigneeId") && assignee && <Initials name={assignee} />}
      </div>
      <p className={`card-title ${compact ? "mt-0.5" : "mt-1"}`}>{card.title}</p>
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
      {compact && whose && <p className="truncate text-[11.5px] text-ink-soft">{whose}</p>}
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
        <p
          className={`text-ink-soft ${compact ? "text-[11.5px]" : "mt-0.5 text-[12.5px]"}`}
          title={waitingTitle([...around.waitsFor, ...around.waitedFor], facts)}
        >
          {aroundWords(card, around, childrenToo, shown).join(" · ")}
        </p>
      )}
      {!compact && shown.has("age") && card.clock.length > 0 && (
        <AgeTrack className="mt-1.5" track={track} late={late} />
      )}
    </>
  );
});
