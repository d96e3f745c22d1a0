import { and, eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { acceptanceLetter } from "@/core/ship/acceptance/acceptance-letter";
import type { ShowingStep } from "@/core/ship/acceptance/contract";
import { isEnough } from "@/core/ship/acceptance/enough";
import { closedBecause, closesOn } from "@/core/ship/acceptance/showing";
import { transact, type Transaction } from "@/db/connection";
import { project, showing } from "@/db/schema";
import { namedItems } from "../../item/list/named";
import { enterProject, type ProjectAccess } from "../../people/access";
import { keepLetter } from "../../people/letters";
import { newToken } from "../../people/link-token";
import type { Viewer } from "../../people/viewer";
import { invalid, notAllowed, notFound } from "../../refused";
import { announceTests } from "../testing/announce-tests";
import { acceptedNow } from "./accepted-now";
import { isWaited, shownBy, type Shown, type ShowingRow } from "./rows";
import { tellItem } from "./say";
import { showingAddress } from "./show";
import { tellShown } from "./tell-shown";
import { isId } from "../../is-id";

/** Whether somebody may change what is shown to somebody: it is theirs, or they lead. */
export const mayChange = (viewer: Viewer, access: ProjectAccess, { askedBy }: ShowingRow) =>
  access.may("edit item") && (askedBy === viewer.personId || access.may("override limit"));

/** Takes back what is shown to somebody, reminds them, or asks them once more. @throws Refused */
export async function stepShowing(
  viewer: Viewer,
  { key, showing: id }: { key: string; showing: string },
  { step }: { step: ShowingStep },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const access = await enterProject({
      ...{ reader: tx, viewer, where: { key }, action: "edit item" },
    });
    const projectId = access.project.id;
    const [row] = isId(id)
      ? await tx
          .select()
          .from(showing)
          .where(and(eq(showing.id, id), eq(showing.projectId, projectId)))
          .for("update")
      : [];
    if (!row) throw notFound("page");
    const shown = (await shownBy(tx, [row.id])).get(row.id) ?? [];
    const itemIds = shown.map(({ row: { itemId } }) => itemId);
    // Of what somebody may see nothing of they do not learn that it is there.
    if ((await namedItems(viewer, itemIds, tx)).size === 0) throw notFound("page");
    if (!mayChange(viewer, access, row)) throw notAllowed("changing what others show to somebody");
    if (step === "take back") await takeBack(tx, row, shown, now);
    else if (step === "remind") await remindByHand(tx, row, shown, now);
    else await askAgain(tx, row, shown, now);
    await announceTests(tx, projectId, { itemIds, now });
  });
}

/** Its address leads nowhere from now on; what the others said may be enough then. */
async function takeBack(
  tx: Transaction,
  row: ShowingRow,
  shown: readonly Shown[],
  now: number,
): Promise<void> {
  if (row.revokedAt !== null) return;
  await tx.update(showing).set({ revokedAt: now }).where(eq(showing.id, row.id));
  const ids = shown.map(({ row: { itemId } }) => itemId).toSorted();
  for (const itemId of ids)
    if (isEnough("everybody", await acceptedNow(tx, itemId)))
      await tellItem(tx, itemId, "accepted", null);
}

async function remindByHand(
  tx: Transaction,
  row: ShowingRow,
  shown: readonly Shown[],
  now: number,
): Promise<void> {
  if (closedBecause(row, now) !== null)
    throw invalid("It is not open any more.", "Ask again instead.");
  if (!isWaitedFor(shown)) throw invalid("They said their word.", "Nothing is waited for.");
  if (row.remindedAt !== null && now < row.remindedAt + DAY)
    throw invalid("They were reminded within the last day.", "Give them a day.");
  await remind(tx, row, shown, now);
}

/** Whether anything of it waits for a word. */
export const isWaitedFor = (shown: readonly Shown[]): boolean => shown.some(isWaited);

/** Writes to somebody once more that their word is waited for. */
export async function remind(
  tx: Transaction,
  row: ShowingRow,
  shown: readonly Shown[],
  now: number,
): Promise<void> {
  await tx
    .update(showing)
    .set({ reminders: row.reminders + 1, remindedAt: now })
    .where(eq(showing.id, row.id));
  await write(tx, row, { kind: "reminded", shown, now });
}

/** Opens it once more for its time, by a new address where the old one was taken back. */
async function askAgain(
  tx: Transaction,
  row: ShowingRow,
  shown: readonly Shown[],
  now: number,
): Promise<void> {
  const token = row.revokedAt !== null && row.token !== null ? newToken() : row.token;
  const open = { token, askedAt: now, until: closesOn(now), revokedAt: null };
  const [again] = await tx
    .update(showing)
    .set({ ...open, reminders: 0, remindedAt: null })
    .where(eq(showing.id, row.id))
    .returning();
  await write(tx, again, { kind: "again", shown, now });
}

async function write(
  tx: Transaction,
  row: ShowingRow,
  { kind, shown, now }: { kind: "reminded" | "again"; shown: readonly Shown[]; now: number },
): Promise<void> {
  if (row.personId !== null) return tellShown(tx, row, now);
  if (row.mail === "" || row.token === null) return;
  const [of] = await tx.select().from(project).where(eq(project.id, row.projectId));
  const waited = shown.filter(({ answered }) => kind === "again" || answered !== "accepted");
  const letter = acceptanceLetter(kind, {
    ...{ projectName: of.name, words: kind === "again" ? row.words : "" },
    titles: waited.map(({ row: { title } }) => title),
    page: showingAddress(row.token),
    until: isoDate(dayNumber(row.until, of.zone)),
  });
  await keepLetter(tx, { recipient: row.mail, ...letter }, now);
}
