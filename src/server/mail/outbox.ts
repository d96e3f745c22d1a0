import { transact, type Transaction } from "@/db/connection";
import { mailer, type Transporter } from "./mailer";

/** What became of the letter that was next: it is out, it was left for later, or there was none. */
export type SendOutcome = "sent" | "left" | "none";

/** Takes the next letter that is due, holds it while it is sent, and keeps what became of it. */
export type SendNext = (tx: Transaction, by: Transporter, now: number) => Promise<SendOutcome>;

/** So many are sent before others have their turn. */
const AT_ONCE = 20;

/**
 * Sends letters that are due, one after the other, each in a transaction of its own: two workers do
 * not send the same.
 * @returns how many were sent
 */
export async function sendDue(next: SendNext, now: number): Promise<number> {
  const by = mailer();
  if (!by) return 0;
  let sent = 0;
  for (let i = 0; i < AT_ONCE; i++) {
    const outcome = await transact((tx) => next(tx, by, now));
    if (outcome === "none") break;
    if (outcome === "sent") sent += 1;
  }
  return sent;
}

const FIRST_PAUSE_MS = 30_000;
const MOST_TRIES = 8;

/** When a letter that could not be sent is tried again. */
export const triedAgainAt = (now: number, triesBefore: number): number =>
  now + FIRST_PAUSE_MS * 2 ** triesBefore;

/** Whether a letter that was tried so often is given up. */
export const isGivenUp = (tries: number): boolean => tries >= MOST_TRIES;
