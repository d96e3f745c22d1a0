import type { Expectation } from "./expectation";
import type { Percentiles } from "./report";
import { projectKeyOf } from "@/core/item/key";

/** How long items of a project take, and are expected to: what ages are held against. */
export interface Pace {
  percentiles: Percentiles;
  expectation: Expectation;
}

/** By the key of the project. */
export type Paces = Readonly<Record<string, Pace>>;

/** The pace that an item is held against: its project's. */
export const paceOf = (paces: Paces, itemKey: string): Pace =>
  paces[projectKeyOf(itemKey)] ?? Object.values(paces)[0];

/** What is expected of everything that is looked at; null where projects expect different things. */
export function oneExpectation(paces: Paces): Expectation | null {
  const [first, ...others] = Object.values(paces).map(({ expectation }) => expectation);
  const same = others.every(({ days, share }) => days === first.days && share === first.share);
  return same ? first : null;
}
