"use client";
import { CornerDownRight } from "lucide-react";
import { nameParts } from "@/core/find/excerpt";
import { bestOf, howWell, type Fit } from "@/core/find/how-well";
import type { ActChoice, OfferedAct } from "@/ui/kit/offered-acts";
import type { Line } from "./lines";

/** So many acts with what they are done with are offered at once. */
const MOST_DIRECT = 6;

const LEAD = <CornerDownRight size={15} aria-hidden="true" />;

const namesOf = ({ words, more = "", also = [] }: OfferedAct): string[] => [
  words,
  `${words} ${more}`,
  ...also,
];

/** Acts that fit some words; all of them without words. One that needs a choice goes on to that. */
export function actLines(
  acts: readonly OfferedAct[],
  words: readonly string[],
  onStep: (act: OfferedAct) => void,
): Line[] {
  const fitting = words.length === 0 ? acts.map((act) => ({ ...act, fit: 2 as Fit })) : null;
  const whole = (fitting ?? bestOf(words, acts, namesOf)).map((act): Line => {
    const asks = act.choices !== undefined || act.written !== undefined;
    return {
      id: `act-${act.id}`,
      fit: act.fit,
      lead: act.key === undefined ? LEAD : <kbd>{act.key}</kbd>,
      words: nameParts(asks ? `${act.words}…` : act.words, words),
      more: act.more,
      run: asks ? () => onStep(act) : () => act.act(),
      stays: asks,
    };
  });
  return [...whole, ...directLines(acts, words)];
}

/** How well what is not said of the act itself fits what it is done with. */
function choiceFit(
  { act, choice }: { act: OfferedAct; choice: ActChoice },
  words: readonly string[],
): number {
  const ofAct = [act.words, ...(act.also ?? [])];
  const rest = words.filter((word) => ofAct.every((name) => howWell([word], name) === null));
  return howWell(rest, choice.words) ?? 4;
}

/** Acts together with what they are done with: "assign ruth" is one step. */
function directLines(acts: readonly OfferedAct[], words: readonly string[]): Line[] {
  const direct = acts.flatMap((act) =>
    (act.choices ?? []).map((choice) => ({ act, choice, words: choice.words })),
  );
  return bestOf(words, direct, ({ act, choice }) =>
    [act.words, ...(act.also ?? [])].map((name) => `${name} ${choice.words}`),
  )
    .toSorted((a, b) => a.fit - b.fit || choiceFit(a, words) - choiceFit(b, words))
    .slice(0, MOST_DIRECT)
    .map(({ act, choice, fit }) => ({
      id: `direct-${act.id}-${choice.id}`,
      fit,
      lead: LEAD,
      words: nameParts(`${act.words}: ${choice.words}`, words),
      more: act.more,
      run: () => act.act(choice.id),
    }));
}

/** What an act is done with, as far as it fits some words. */
export function choiceLines(act: OfferedAct, words: readonly string[], text: string): Line[] {
  const choices = act.choices ?? [];
  const fitting =
    words.length === 0
      ? choices.map((choice) => ({ ...choice, fit: 2 as Fit }))
      : bestOf(words, choices, ({ words: name, more = "" }) => [name, `${name} ${more}`]);
  const written = act.written?.(text) ?? null;
  const all: (ActChoice & { fit: Fit })[] = [
    ...fitting,
    ...(written ? [{ ...written, fit: 2 as Fit }] : []),
  ];
  return all.map(({ id, words: name, more, fit }) => ({
    id: `choice-${id}`,
    fit,
    lead: LEAD,
    words: nameParts(name, words),
    more,
    run: () => act.act(id),
  }));
}
