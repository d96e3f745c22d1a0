import { ownFieldOf, type FactName } from "@/core/condition/facts";
import { factsOffered, type Vocabulary } from "@/core/condition/vocabulary";
import { computedFields } from "./compute-fields";
import type { ItemSnapshot } from "./fields";
import type { OwnField } from "./own-field";

/*
 * Numbers of items that can be added up beside a count: sizes, hours, and the project's own numbers.
 * How long something lasts, or how often something happened to it, is no amount.
 */

const AMOUNTS: readonly FactName[] = ["estimate", "firstEstimate", "spentHours", "remainingHours"];

/** Whether a fact is a number that can be added up beside a count. */
export const isAmount = (fact: FactName): boolean => {
  const own = ownFieldOf(fact);
  return own ? own.kind === "number" || own.kind === "computed" : AMOUNTS.includes(fact);
};

/**
 * The numbers that are added up over what is looked at. Sizes of several projects are of several
 * scales: nobody adds them up.
 */
export const amountsOver = (vocabulary: Vocabulary): FactName[] =>
  factsOffered(vocabulary).filter(
    (fact) => isAmount(fact) && (fact !== "estimate" || vocabulary.projects.length <= 1),
  );

/** What has amounts. */
export type Measured = Pick<
  ItemSnapshot,
  "estimate" | "firstEstimate" | "spentMinutes" | "remainingHours" | "returns" | "own"
>;

/**
 * How much of a number an item has; null where it says nothing, as where the field is gone.
 * @param fact null: nothing is added up
 */
export function amountOf(
  fact: FactName | null,
  item: Measured,
  ownFields: readonly OwnField[],
): number | null {
  if (fact === null || !isAmount(fact)) return null;
  const own = ownFieldOf(fact);
  if (fact === "spentHours") return item.spentMinutes / 60;
  if (!own) return item[fact as "estimate" | "firstEstimate" | "remainingHours"];
  if (own.kind === "computed") return computedFields(ownFields, item)[own.id] ?? null;
  const value = item.own[own.id];
  return typeof value === "number" ? value : null;
}

/** The sum of what several items have of a number; those that say nothing add nothing. */
export const amountOfAll = (
  fact: FactName | null,
  items: readonly Measured[],
  ownFields: readonly OwnField[],
): number => items.reduce((sum, item) => sum + (amountOf(fact, item, ownFields) ?? 0), 0);
