import type { Worker } from "node:worker_threads";
import type { Meaning } from "@/core/intake/meaning";
import { startThread } from "../thread";

const MEMORY_MB = 512;

let thread: Worker | null = null;

export type MeaningAnswer = { meanings: Meaning[] } | { problem: string };

/**
 * What some texts mean, worked out beside the process, which goes on meanwhile. One call at a time.
 */
export async function meaningsAside(texts: readonly string[]): Promise<Meaning[]> {
  const reader = (thread ??= startThread(
    "read-meaning.cjs",
    "src/server/intake/meaning-in-thread.ts",
    MEMORY_MB,
  ));
  const answer = await new Promise<MeaningAnswer>((resolve, reject) => {
    const onMessage = (message: MeaningAnswer) => end(() => resolve(message));
    const onError = (error: Error) => end(() => (void closeMeaningThread(), reject(error)));
    const onExit = () => end(() => reject(new Error("the thread that reads meanings ended")));
    const end = (then: () => void) => {
      reader.off("message", onMessage);
      reader.off("error", onError);
      reader.off("exit", onExit);
      then();
    };
    reader.once("message", onMessage);
    reader.once("error", onError);
    reader.once("exit", onExit);
    reader.postMessage([...texts]);
  });
  if ("problem" in answer) throw new Error(answer.problem);
  return answer.meanings;
}

export async function closeMeaningThread(): Promise<void> {
  const ending = thread;
  thread = null;
  await ending?.terminate();
}
