import type { ItemCase } from "@/core/ship/testing/testing-view";
import { caseKey } from "@/core/ship/testing/test-case";
import { machineFound, type MachineRow } from "./machine-rows";
import type { CaseOfItem } from "./tested-items";

/** A case of an item as it is shown, with what machines say of it. */
export function itemCase(
  { now: { id, number, title, steps, version }, last, stale }: CaseOfItem,
  {
    projectKey,
    machines,
  }: { projectKey: string; machines: ReadonlyMap<string, readonly MachineRow[]> },
): ItemCase {
  return {
    ...{ id, number, title, version, stale, key: caseKey(projectKey, number) },
    steps: steps.length,
    last: last && {
      ...{ verdict: last.verdict, at: last.at, run: last.run, by: last.by },
      ...{ build: last.build, environment: last.environment },
    },
    machines: (machines.get(id) ?? []).map(machineFound),
  };
}
