import { parentPort } from "node:worker_threads";
import { readMeanings } from "./meaning-model";
import type { MeaningAnswer } from "./meaning-thread";

/* The thread in which texts are given their meaning; see meaning-thread.ts. */

parentPort!.on("message", (texts: string[]) => {
  const answer = (message: MeaningAnswer) => parentPort!.postMessage(message);
  readMeanings(texts).then(
    (meanings) => answer({ meanings }),
    (error: Error) => answer({ problem: error.message }),
  );
});
