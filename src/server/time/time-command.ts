import { and, count, eq, isNull } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { CommandRequest } from "@/core/item/request";
import type { TimeCommand } from "@/core/time/decide-time";
import { entryProblem, type TimeEntry } from "@/core/time/entry";
import type { Transaction } from "@/db/connection";
import { timeEntry } from "@/db/schema";
import type { EnteredItem } from "../item/enter";
import type { Principal } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";

type TimeRequest = Extract<CommandRequest, { kind: "record time" | "remove time" }>;

/** So many entries an item has at most: more than anybody reads. */
const MOST_ENTRIES = 2_000;

/**
 * What it means to record time on an item, to change what is recorded or to remove it. What was
 * removed is put back by recording it again under its id.
 * @throws Refused
 */
export async function timeCommand(
  tx: Transaction,
  by: Principal,
  { before, access }: EnteredItem,
  ask: TimeRequest,
): Promise<TimeCommand> {
  const { personId } = by;
  if (personId === null) throw invalid("Time is recorded by people.", "Sign in first.");
  const [row] = await tx
    .select()
    .from(timeEntry)
    .where(and(eq(timeEntry.itemId, before.id), eq(timeEntry.id, ask.entryId)));
  if (row && row.personId !== personId)
    throw invalid("Only whoever recorded this time changes it.", "Ask them to change it.");
  const was: TimeEntry | null =
    row && row.goneAt === null
      ? {
          entryId: row.id,
          personId: row.personId,
          on: row.on,
          minutes: row.minutes,
          note: row.note,
        }
      : null;
  if (ask.kind === "remove time") {
    if (!was) throw notFound("entry");
    return { kind: "record time", was, becomes: null, left: ask.left };
  }
  const { entryId, minutes, on, note, left } = ask;
  const becomes: TimeEntry = { entryId, personId, on, minutes, note };
  const problem = entryProblem(becomes, isoDate(dayNumber(Date.now(), access.project.zone)));
  if (problem) throw new Refused(problem);
  if (!row) await refuseTooMany(tx, before.id);
  return { kind: "record time", was, becomes, left };
}

async function refuseTooMany(tx: Transaction, itemId: string): Promise<void> {
  const [{ n }] = await tx
    .select({ n: count() })
    .from(timeEntry)
    .where(and(eq(timeEntry.itemId, itemId), isNull(timeEntry.goneAt)));
  if (n >= MOST_ENTRIES)
    throw invalid(
      `Time was recorded on it ${MOST_ENTRIES} times already.`,
      "Put the rest to an item under it.",
    );
}
