import { valueAt, type DatedValue } from "@/core/calendar/dated-setting";
import type { Instant } from "@/core/calendar/instant";
import { same } from "@/core/workflow/same";
import type { ServiceTarget } from "./service-target";

/** What a project promised in the course of time. What came in is owed what was promised then. */
export interface DatedPromises {
  /** Every promise in each of its wordings, once. */
  all: readonly ServiceTarget[];
  /** Those that were in force at an instant, in their order, by their place in `all`. */
  at: (instant: Instant) => readonly number[];
}

/** @param versions what was promised from when on; none at all: nothing was ever promised */
export function datedPromises(versions: readonly DatedValue<ServiceTarget[]>[]): DatedPromises {
  const all: ServiceTarget[] = [];
  const placeOf = (target: ServiceTarget) => {
    const known = all.findIndex((t) => same(t, target));
    return known >= 0 ? known : all.push(target) - 1;
  };
  const places = versions.map(({ validFrom, value }) => ({ validFrom, value: value.map(placeOf) }));
  return { all, at: (instant) => valueAt(places, instant) ?? [] };
}

/**
 * The promise about what came in at an instant: the first of those in force then that fits.
 * @param fits whether each of `all` is for it
 */
export function promiseFor(
  { all, at }: DatedPromises,
  since: Instant,
  fits: (place: number) => boolean,
): ServiceTarget | null {
  const place = at(since).find(fits);
  return place === undefined ? null : all[place];
}
