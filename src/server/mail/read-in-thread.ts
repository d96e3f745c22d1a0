import { parentPort } from "node:worker_threads";
import { Refused } from "../refused";
import { readMail } from "./read";
import type { ThreadAnswer } from "./reading-thread";

/* The thread in which mails are read; see reading-thread.ts. */

parentPort!.on("message", ({ raw, returnPath }: { raw: Uint8Array; returnPath: string }) => {
  const answer = (message: ThreadAnswer) => parentPort!.postMessage(message);
  readMail(Buffer.from(raw), returnPath).then(
    (mail) => answer({ mail }),
    (error: Error) =>
      answer({ problem: error instanceof Refused ? error.refusal.help : error.message }),
  );
});
