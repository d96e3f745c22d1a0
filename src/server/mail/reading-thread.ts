import type { Worker } from "node:worker_threads";
import { invalid } from "../refused";
import { startThread } from "../thread";
import type { ReadMail } from "./read";

/**
 * A mail of the largest size is read in a second or two; one that takes longer is made to take
 * long.
 */
const PATIENCE_MS = 20_000;
const MEMORY_MB = 384;

let thread: Worker | null = null;

export type ThreadAnswer = { mail: ReadMail } | { problem: string };

/**
 * Reads a mail beside the process, so that one that is made to take forever, or all memory, takes
 * neither from anybody. One at a time.
 * @throws Refused when it cannot be read, or not within time and memory
 */
export async function readMailAside(
  raw: Buffer,
  returnPath: string,
  patienceMs = PATIENCE_MS,
): Promise<ReadMail> {
  const reader = (thread ??= startThread(
    "read-mail.cjs",
    "src/server/mail/read-in-thread.ts",
    MEMORY_MB,
  ));
  const answer = await new Promise<ThreadAnswer>((resolve, reject) => {
    const timer = setTimeout(
      () => stop(() => resolve({ problem: "Reading it took too long." })),
      patienceMs,
    );
    const onMessage = (message: ThreadAnswer) => end(() => resolve(message));
    const onError = (error: NodeJS.ErrnoException) =>
      stop(() => {
        if (error.code === "ERR_WORKER_OUT_OF_MEMORY")
          resolve({ problem: "Reading it took too much memory." });
        // The mail is not to blame: it is read when the thread can be started again.
        else reject(error);
      });
    const end = (then: () => void) => {
      clearTimeout(timer);
      reader.off("message", onMessage);
      reader.off("error", onError);
      then();
    };
    const stop = (then: () => void) => {
      end(then);
      void closeReadingThread();
    };
    reader.once("message", onMessage);
    reader.once("error", onError);
    reader.postMessage({ raw, returnPath });
  });
  if ("problem" in answer) throw invalid("This mail cannot be read.", answer.problem);
  // Between threads a Buffer becomes a plain array of bytes.
  const files = answer.mail.files.map((f) => ({ ...f, content: Buffer.from(f.content) }));
  return { ...answer.mail, files };
}

export async function closeReadingThread(): Promise<void> {
  const ending = thread;
  thread = null;
  await ending?.terminate();
}
