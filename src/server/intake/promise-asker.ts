import type { FactName } from "@/core/condition/facts";
import type { SqlAsker } from "../condition/compile";
import { readPromiseBands } from "./promises";

/**
 * An asker that can also be asked how promises stand, where one of some facts is about them: that is
 * worked out for a whole project, so only there.
 */
export async function knowingPromises<Asker extends SqlAsker>(
  asker: Asker,
  project: { id: string; key: string; zone: string },
  facts: Iterable<FactName>,
): Promise<Asker> {
  if (asker.promises || ![...facts].includes("promise")) return asker;
  return { ...asker, promises: await readPromiseBands(project, asker.now) };
}
