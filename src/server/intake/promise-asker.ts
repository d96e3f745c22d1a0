import type { FactName } from "@/core/condition/facts";
import type { SqlAsker } from "../condition/compile";
import { readPromiseBands } from "./promises";

interface Promising {
  id: string;
  key: string;
  zone: string;
}

/**
 * An asker that can also be asked how promises stand, where one of some facts is about them: that is
 * worked out for whole projects, so only there.
 */
export async function knowingPromises<Asker extends SqlAsker>(
  asker: Asker,
  projects: readonly Promising[],
  facts: Iterable<FactName>,
): Promise<Asker> {
  if (asker.promises || ![...facts].includes("promise")) return asker;
  const bands = await Promise.all(projects.map((of) => readPromiseBands(of, asker.now)));
  return { ...asker, promises: new Map(bands.flatMap((of) => [...of])) };
}
