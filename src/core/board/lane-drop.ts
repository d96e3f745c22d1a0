import { factsIn, type Comparison, type Condition } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { meantBy, type Meant } from "@/core/item/adding/meant";
import type { ItemSnapshot } from "@/core/item/fields";
import { TERM_FIELDS } from "@/core/item/terms/term";
import type { Card } from "./card";
import { cardSays, laneIdOf, type Lane, type LaneCut } from "./lane";

/** What putting a card into another lane does to it, or why it cannot be put there. */
export type LaneDrop =
  | ({ kind: "edit" } & Meant)
  | { kind: "put under"; parentId: string | null }
  | { kind: "no"; sentence: string };

const no = (sentence: string): LaneDrop => ({ kind: "no", sentence });

/** The comparisons of a condition that says nothing but values of fields, all of which hold. */
function valuesIn(condition: Condition): Comparison[] | null {
  if (condition.kind === "compare")
    return ["is", "is empty", "contains"].includes(condition.op) ? [condition] : null;
  if (condition.kind !== "all") return null;
  const parts = condition.of.map(valuesIn);
  return parts.every((part) => part !== null) ? parts.flat() : null;
}

/**
 * Labels and parts are several: a card that comes to the lane of another leaves that of its first.
 */
function withTerms({ fields, own }: Meant, card: Card, lane: Lane<unknown>): Meant {
  const terms = Object.values(TERM_FIELDS).flatMap((field) => {
    const meant = fields[field];
    if (!meant) return [];
    const others = lane.value?.fact === field ? card[field].slice(1) : card[field];
    return [[field, [...new Set([...meant, ...others])]]];
  });
  return { fields: { ...fields, ...Object.fromEntries(terms) }, own };
}

/** The lane that would have it all the same, as it is asked first; null where none would. */
function askedBefore(
  lane: Lane<unknown>,
  card: Card,
  { fields, own }: Meant,
  { cut, asker }: { cut: LaneCut; asker: Asker },
): string | null {
  const { by } = cut.lanes;
  if (by.kind !== "conditions") return null;
  const after = { ...card, ...fields, own: { ...card.own, ...own } } as Partial<ItemSnapshot>;
  const asked = { ...NOTHING_AROUND, item: after as ItemSnapshot };
  const now = laneIdOf(cut)(card);
  const first = by.of.findIndex(({ condition }, i) => {
    if (i >= Number(lane.id)) return false;
    const known = [...factsIn(condition)].every(cardSays);
    return known ? holds(condition, asked, asker) : now === String(i);
  });
  return first < 0 ? null : by.of[first].name;
}

/**
 * What a card becomes that is put into a lane. Where the lane is a value of a field, or a condition
 * of such values joined by "and", that is what changes; nothing else can be made true by a drop.
 * What leaves the expedite lane is standard from then on.
 */
export function laneDrop(
  lane: Lane<unknown>,
  card: Card,
  { asker, cut }: { asker: Asker; cut: LaneCut },
): LaneDrop {
  const leaves = card.classOfService === "expedite" && !lane.expedite;
  if (cut.lanes.by.kind === "parent" && !lane.expedite)
    return leaves
      ? no("Take it out of expedite first: here it would change two things at once.")
      : { kind: "put under", parentId: lane.parentId };
  if (lane.meaning === null)
    return no("What is here is in no other lane: nothing can be changed to be that.");
  const parts = valuesIn(lane.meaning);
  const meant = meantBy({ kind: "all", of: parts ?? [] }, asker);
  const said = Object.keys(meant.fields).length + Object.keys(meant.own).length;
  if (!parts || said !== new Set(parts.map(({ fact }) => fact)).size)
    return no("What is here follows from other things: no single change brings a card here.");
  const standard = leaves ? { classOfService: "standard" as const } : {};
  const whole = withTerms({ ...meant, fields: { ...standard, ...meant.fields } }, card, lane);
  const still = askedBefore(lane, card, whole, { cut, asker });
  return still === null
    ? { kind: "edit", ...whole }
    : no(`It would still be in “${still}”, which is asked first.`);
}
