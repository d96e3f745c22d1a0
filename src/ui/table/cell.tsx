"use client";
import { paceOf } from "@/core/flow/pace";
import { ageTrack } from "@/core/board/age-track";
import type { Card } from "@/core/board/card";
import type { FactName, FactValue } from "@/core/condition/facts";
import { factOf } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { ageOf } from "@/core/flow/age";
import type { Figures } from "@/core/flow/summary";
import { valueWords } from "@/core/item/list/value-words";
import { countedClock } from "@/core/item/start-finish";
import { AgeTrack } from "@/ui/board/age-track";
import { Initials } from "@/ui/kit/initials";
import { Size } from "@/ui/kit/sizes";

/** What the cells of a table are drawn with. */
export interface CellFacts {
  vocabulary: Vocabulary;
  zone: string;
  now: number;
  /** What ages are held against; null: they are said alone. */
  summary: Figures | null;
}

/** What an item says of a fact, as it is drawn in a table. */
export function Cell({
  card,
  fact,
  value,
  facts,
}: {
  card: Card;
  fact: FactName;
  value: FactValue;
  facts: CellFacts;
}) {
  const { vocabulary } = facts;
  if (value === null || (Array.isArray(value) && value.length === 0))
    return <span className="text-ink-soft">–</span>;
  if (fact === "stateId")
    return <StateCell card={card} words={valueWords(fact, value, vocabulary)} />;
  if (fact === "age" && facts.summary)
    return <AgeCell card={card} facts={facts} summary={facts.summary} />;
  if (fact === "estimate") return <Size of={value as number} />;
  if (Array.isArray(value))
    return (
      <span className="truncate">
        {value.map((each) => valueWords(fact, each, vocabulary)).join(", ")}
      </span>
    );
  const words = valueWords(fact, value, vocabulary);
  if (factOf(fact).options === "people")
    return (
      <>
        <span aria-hidden="true" className="flex shrink-0">
          <Initials name={words} size={20} />
        </span>
        <span className="truncate">{words}</span>
      </>
    );
  if (fact === "priority" || fact === "severity" || fact === "classOfService")
    return <span className={`truncate ${URGENT.has(words) ? "font-semibold" : ""}`}>{words}</span>;
  return <span className="truncate">{words}</span>;
}

const URGENT = new Set(["urgent", "critical", "expedite"]);

/** A state with its place on the zigzag: high where it is worked on, low where it waits. */
function StateCell({ card, words }: { card: Card; words: string }) {
  return (
    <>
      <i className="state-level" data-kind={card.stateKind} aria-hidden="true" />
      <span className="truncate">{words}</span>
    </>
  );
}

function AgeCell({
  card,
  facts: { zone, now },
  summary,
}: {
  card: Card;
  facts: CellFacts;
  summary: Figures;
}) {
  const age = ageOf(countedClock(card), zone, now);
  const pace = paceOf(summary.paces, card.key);
  const track = ageTrack(age, pace.expectation.days, pace.percentiles);
  const short = track.past85 ? track.words.replace(" · past 85 %", "") : track.words;
  return <AgeTrack className="w-full" track={{ ...track, words: short }} late={track.past85} />;
}
