import path from "node:path";
import { Worker } from "node:worker_threads";

/**
 * Starts a thread beside the process: the compiled one where the product was built, in development
 * and in tests its source.
 * @param built its file among the compiled ones
 * @param source its file among the sources
 */
export function startThread(built: string, source: string, memoryMb: number): Worker {
  const options = { resourceLimits: { maxOldGenerationSizeMb: memoryMb } };
  const { ZIGZAG_BUILT } = process.env;
  if (ZIGZAG_BUILT) return new Worker(path.join(ZIGZAG_BUILT, built), options);
  return new Worker(
    `require("tsx/cjs"); require(${JSON.stringify(path.join(process.cwd(), source))});`,
    { ...options, eval: true },
  );
}
