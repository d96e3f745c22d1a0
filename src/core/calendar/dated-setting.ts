import type { Instant } from "./instant";

/** Settings of a project that figures depend on: the past is counted by what held then. */
export type DatedSettingName = "zone" | "expectation" | "calendar" | "promises" | "sizes";

/** A value of a setting and from when on it holds. */
export interface DatedValue<T> {
  validFrom: Instant;
  value: T;
}

/**
 * What a setting was at an instant: the last value from before it or at it. Before the first one it
 * is the first: a project had its zone before anybody wrote down since when. Null without any.
 */
export function valueAt<T>(values: readonly DatedValue<T>[], at: Instant): T | null {
  const inOrder = [...values].sort((a, b) => a.validFrom - b.validFrom);
  const held = inOrder.findLast((v) => v.validFrom <= at) ?? inOrder.at(0);
  return held ? held.value : null;
}
