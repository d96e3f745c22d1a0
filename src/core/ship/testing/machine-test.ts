import type { Instant } from "@/core/calendar/instant";
import { grouped } from "@/core/item/grouped";
import { caseNamed } from "./test-case";

/** What came of a test that a machine ran. */
export const MACHINE_RESULTS = ["passed", "failed", "skipped"] as const;
export type MachineResult = (typeof MACHINE_RESULTS)[number];

/** A test as results name it. */
export interface MachineTestNamed {
  /** The group that it stands in; empty where nobody said. */
  suite: string;
  name: string;
}

/** A result of a machine's test, as it is told. */
export interface MachineTestTold extends MachineTestNamed {
  result: MachineResult;
  /** In milliseconds; null where nobody said. */
  took: number | null;
  /** Why it failed, as far as it was said. */
  message: string;
}

/** A result that is kept. */
export interface KeptResult {
  commit: string;
  at: Instant;
  result: MachineResult;
}

/** A case that a machine's test may carry out. */
export interface CaseKnown {
  id: string;
  projectKey: string;
  number: number;
  title: string;
}

/**
 * The case that a machine's test carries out: the one whose key stands in its name or its group, else
 * the one that is called the same. Null where there is none, or where several are called so.
 */
export function caseOfMachine(
  { suite, name }: MachineTestNamed,
  cases: readonly CaseKnown[],
): CaseKnown | null {
  const named = caseNamed(name) ?? caseNamed(suite);
  if (named)
    return (
      cases.find((one) => one.projectKey === named.projectKey && one.number === named.number) ??
      null
    );
  const called = name.trim().toLowerCase();
  const same = cases.filter(({ title }) => title.trim().toLowerCase() === called);
  return same.length === 1 ? same[0] : null;
}

/**
 * How often a test changed its mind: on one commit it passed and failed. Each change from one result to
 * the other on the same commit counts once; what was skipped says nothing.
 */
export function changesOfMind(results: readonly KeptResult[]): number {
  const said = results.filter(({ result }) => result !== "skipped");
  const byCommit = [...grouped(said, ({ commit }) => commit).values()];
  return byCommit
    .map((all) => all.toSorted((a, b) => a.at - b.at))
    .reduce(
      (sum, all) =>
        sum + all.filter(({ result }, i) => i > 0 && result !== all[i - 1].result).length,
      0,
    );
}
