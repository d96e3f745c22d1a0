import type { Instant } from "@/core/calendar/instant";
import type { KeptResult, MachineResult } from "./machine-test";

/** What is known of a test of an item before that is built. */
export interface KnownTest {
  /** Of its case. */
  number: number;
  title: string;
  /** Whether a machine carries it out. */
  automatic: boolean;
  /** What the last result without the item's own change was; null where none is known. */
  lastWithout: MachineResult | null;
}

/**
 * The last result of a test without what an item changes: on main before anything of the item came there,
 * or on the item's own branch, where the test is written before what makes it pass.
 * @param own commits of the item
 * @param changedAt when the first of them came to main; null where none has
 */
export function lastWithout(
  results: readonly KeptResult[],
  {
    own,
    onMain,
    changedAt,
  }: {
    own: ReadonlySet<string>;
    onMain: ReadonlySet<string>;
    changedAt: Instant | null;
  },
): MachineResult | null {
  const counted = results
    .filter(({ result }) => result !== "skipped")
    .filter(({ commit, at }) => {
      if (changedAt !== null && at >= changedAt) return false;
      return own.has(commit) || onMain.has(commit);
    })
    .toSorted((a, b) => a.at - b.at);
  return counted.at(-1)?.result ?? null;
}

/** Whether a test shows that what is to be built is not there yet. */
export const showsThatMissing = ({ automatic, lastWithout: last }: KnownTest): boolean =>
  !automatic || last === "failed";
