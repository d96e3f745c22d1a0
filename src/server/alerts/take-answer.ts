import { eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { cutText } from "@/core/formats/cut-text";
import { notTaken, ownWords } from "@/core/formats/mail-text";
import type { Transaction } from "@/db/connection";
import { alert, item, person } from "@/db/schema";
import { throughDoor } from "../item/door";
import { enterItem } from "../item/enter";
import type { ReadMail } from "../mail/read";
import { Refused } from "../refused";
import { v7 as newId } from "uuid";

/** So long after an alert it can be answered by mail. */
const ANSWERABLE = 90 * DAY;

/** What became of an answer to an alert. */
export interface TakenAnswer {
  became: "comment" | "held";
  itemId: string;
  /** Why it is no comment, and what it says, for those who look after the mailbox. */
  why: string | null;
  words: string | null;
}

/**
 * Writes what somebody answered to the mail of an alert as their comment on its item. Only that
 * person may, from their own address, for as long as they may comment there, and for ninety days;
 * anything else waits in the mailbox with the reason.
 */
export async function takeAnswerToAlert(
  tx: Transaction,
  alertId: string,
  mail: ReadMail,
  now: number,
): Promise<TakenAnswer> {
  const [row] = await tx
    .select({ itemId: alert.itemId, lastAt: alert.lastAt, person })
    .from(alert)
    .innerJoin(person, eq(person.id, alert.personId))
    .innerJoin(item, eq(item.id, alert.itemId))
    .where(eq(alert.id, alertId));
  const { itemId } = row;
  const words = wordsOf(mail);
  const held = (why: string): TakenAnswer => ({ became: "held", itemId, why, words });
  if (!mail.senderWrote || mail.sender !== row.person.email.toLowerCase())
    return held("it came from another address than the mail that it answers went to");
  if (row.person.endedAt !== null) return held("the account of whoever wrote it has ended");
  if (now - row.lastAt > ANSWERABLE) return held("the mail that it answers is older than 90 days");
  if (words === "") return held("it has no words");
  const { id: personId, name, administrator } = row.person;
  try {
    await tx.transaction(async (inner) => {
      const viewer = { personId, name, administrator };
      await throughDoor(inner, viewer, {
        on: await enterItem(inner, viewer, itemId, "comment item"),
        commandId: newId(),
        ask: { kind: "comment", body: words },
      });
    });
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return held(
      error.refusal.code === "not found"
        ? "whoever wrote it may not see the item any more"
        : error.refusal.sentence.replace(/\.$/, ""),
    );
  }
  return { became: "comment", itemId, why: null, words: null };
}

/** A comment is not longer. */
const LONGEST = 19_000;

/** What they wrote, without what they answered to, and with a word on what is missing. */
function wordsOf(mail: ReadMail): string {
  const missing = notTaken([
    ...mail.files.map(({ name }) => ({ name, why: "an answer brings no files" })),
    ...mail.left,
  ]);
  const own = ownWords(mail.text).text.trim();
  if (own === "" && missing === "") return "";
  return cutText([own, missing].filter((part) => part !== "").join("\n\n"), LONGEST);
}
