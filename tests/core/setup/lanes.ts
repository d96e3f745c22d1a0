import { NOTHING_TOLD, type LaneCut } from "@/core/board/lane";
import { lanesByField, NO_LANES, type Lanes } from "@/core/board/lanes-by";
import type { FactName } from "@/core/condition/facts";
import { anyOwn, VOCABULARY } from "./conditions";
import { plainItem } from "./make";
import type { ItemSnapshot } from "@/core/item/fields";
import { CLASSES_OF_SERVICE, ORIGINS, PRIORITIES, SEVERITIES } from "@/core/item/fields";
import fc from "fast-check";

/** Lanes as they are made, with all that they need. */
export const cutOf = (lanes: Lanes, change: Partial<LaneCut> = {}): LaneCut => ({
  lanes,
  vocabulary: VOCABULARY,
  at: { now: Date.UTC(2026, 10, 27, 9), zone: "Europe/London" },
  members: null,
  told: NOTHING_TOLD,
  ...change,
});

/** Lanes by the values of a field; by nothing but expedite without one. */
export const cutBy = (fact: FactName | null, change: Partial<LaneCut> = {}): LaneCut =>
  cutOf(fact === null ? NO_LANES : lanesByField(fact), change);

const days = (from: number, to: number) =>
  fc.integer({ min: from, max: to }).map((n) => Date.UTC(2026, 10, n));

/** An item with any of what lanes can be made by. */
export const anyTravelling: fc.Arbitrary<ItemSnapshot> = fc
  .record({
    typeId: fc.constantFrom("bug", "story"),
    assigneeId: fc.constantFrom(null, "noor", "ivo", "left"),
    reviewerId: fc.constantFrom(null, "noor"),
    teamId: fc.constantFrom(null, "quayside", "ticketing"),
    sprintId: fc.constantFrom(null, "sp1", "gone"),
    releaseId: fc.constantFrom(null, "r1"),
    priority: fc.constantFrom(...PRIORITIES),
    severity: fc.constantFrom(null, ...SEVERITIES),
    classOfService: fc.constantFrom(...CLASSES_OF_SERVICE),
    origin: fc.constantFrom(...ORIGINS),
    estimate: fc.constantFrom(null, 0, 1, 3.5),
    dueOn: fc.constantFrom(null, "2026-11-26", "2026-11-27", "2026-11-29", "2026-12-24"),
    labels: fc.uniqueArray(fc.constantFrom("fog", "quay", "rope"), { maxLength: 3 }),
    enteredStateAt: days(1, 27),
    readySince: fc.option(days(20, 27)),
    own: anyOwn,
  })
  .map((said) => ({ ...plainItem, ...said }));
