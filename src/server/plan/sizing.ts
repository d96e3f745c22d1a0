import { and, asc, count, eq, inArray, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { UNIT_LEVEL } from "@/core/item/item-type";
import {
  UNSIZED_SHOWN,
  type SizingAct,
  type SizingRound,
  type SizingView,
} from "@/core/plan/sizing-view";
import { database, transact, type Reader, type Transaction } from "@/db/connection";
import { item, itemType, person, sizingRound, sizingVote } from "@/db/schema";
import { grouped } from "@/core/item/grouped";
import { throughDoor } from "../item/door";
import { enterItem } from "../item/enter";
import { keyColumn } from "../item/key";
import { enterProject, seesItem, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "../workflow/announce";

/** The rounds of a project that go on, and what of its backlog nobody has sized. @throws Refused */
export async function readSizing(viewer: Viewer, projectKey: string): Promise<SizingView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const of = access.project;
  const unsized = and(
    eq(item.projectId, of.id),
    eq(item.stateKind, "unstarted"),
    isNull(item.estimate),
    isNull(item.withdrawnAt),
    eq(itemType.level, UNIT_LEVEL),
    seesItem(reader, viewer),
  );
  const typed = and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId));
  const [rounds, rows, [{ n }]] = await Promise.all([
    readRounds(reader, viewer, of.id),
    reader
      .select({ id: item.id, key: keyColumn, title: item.title, typeId: item.typeId })
      .from(item)
      .innerJoin(itemType, typed)
      .where(unsized)
      .orderBy(asc(item.rank), asc(item.id))
      .limit(UNSIZED_SHOWN),
    reader.select({ n: count() }).from(item).innerJoin(itemType, typed).where(unsized),
  ]);
  return {
    project: { key: of.key, name: of.name },
    scale: of.sizeScale,
    rounds,
    unsized: rows,
    unsizedTotal: n,
    rights: { size: access.may("edit item") },
  };
}

/** What others said is told only once it is shown to all. */
async function readRounds(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
): Promise<SizingRound[]> {
  const rows = await reader
    .select({
      id: sizingRound.id,
      openedBy: person.name,
      openedAt: sizingRound.openedAt,
      shownAt: sizingRound.shownAt,
      again: sizingRound.again,
      item: {
        id: item.id,
        key: keyColumn,
        title: item.title,
        typeId: item.typeId,
        version: item.version,
      },
    })
    .from(sizingRound)
    .innerJoin(item, eq(item.id, sizingRound.itemId))
    .innerJoin(person, eq(person.id, sizingRound.openedBy))
    .where(
      and(
        eq(sizingRound.projectId, projectId),
        isNull(sizingRound.endedAt),
        isNull(item.withdrawnAt),
        seesItem(reader, viewer),
      ),
    )
    .orderBy(asc(sizingRound.openedAt));
  if (rows.length === 0) return [];
  const votes = await reader
    .select({
      roundId: sizingVote.roundId,
      personId: sizingVote.personId,
      name: person.name,
      size: sizingVote.size,
    })
    .from(sizingVote)
    .innerJoin(person, eq(person.id, sizingVote.personId))
    .where(
      inArray(
        sizingVote.roundId,
        rows.map(({ id }) => id),
      ),
    )
    .orderBy(asc(person.name));
  const byRound = grouped(votes, ({ roundId }) => roundId);
  return rows.map(({ shownAt, ...row }) => {
    const shown = shownAt !== null;
    const own = byRound.get(row.id) ?? [];
    return {
      ...row,
      shown,
      votes: own.map(({ personId, name, size }) => ({
        personId,
        name,
        size: shown || personId === viewer.personId ? size : undefined,
      })),
      mine: own.find(({ personId }) => personId === viewer.personId)?.size,
    };
  });
}

/** Does something in a round. @throws Refused */
export async function actOnSizing(
  viewer: Viewer,
  projectKey: string,
  act: SizingAct,
  now = Date.now(),
): Promise<SizingView> {
  await transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit item" });
    if (act.kind === "open") await open(tx, { viewer, access, now }, act);
    else await goOn(tx, { viewer, access, now }, act);
    await announceDesign(tx, access.project.id, { kind: "plan changed", data: {} });
  });
  return readSizing(viewer, projectKey);
}

interface Acting {
  viewer: Viewer;
  access: ProjectAccess;
  now: number;
}

async function open(
  tx: Transaction,
  { viewer, access, now }: Acting,
  { id, itemId }: Extract<SizingAct, { kind: "open" }>,
): Promise<void> {
  const { before } = await enterItem(tx, viewer, itemId, "edit item");
  if (before.projectId !== access.project.id) throw notFound("item");
  if (before.stateKind === "finished")
    throw invalid("It is finished.", "Its size stays as it was when it finished.");
  const row = { id, itemId, projectId: access.project.id, openedBy: viewer.personId };
  // One round at a time about an item: whoever opens another one joins it.
  await tx
    .insert(sizingRound)
    .values({ ...row, openedAt: now })
    .onConflictDoNothing();
}

async function goOn(
  tx: Transaction,
  { viewer, access, now }: Acting,
  act: Exclude<SizingAct, { kind: "open" }>,
): Promise<void> {
  const [round] = await tx
    .select()
    .from(sizingRound)
    .where(
      and(
        eq(sizingRound.id, act.id),
        eq(sizingRound.projectId, access.project.id),
        isNull(sizingRound.endedAt),
      ),
    )
    .for("update");
  if (!round) throw notFound("round");
  const on = await enterItem(tx, viewer, round.itemId, "edit item");
  const set = (values: Partial<typeof sizingRound.$inferInsert>) =>
    tx.update(sizingRound).set(values).where(eq(sizingRound.id, round.id));
  switch (act.kind) {
    case "say": {
      if (round.shownAt !== null)
        throw invalid("What was said is shown already.", "Do it once more to say another size.");
      const vote = { roundId: round.id, personId: viewer.personId, size: act.size, at: now };
      await tx
        .insert(sizingVote)
        .values(vote)
        .onConflictDoUpdate({
          target: [sizingVote.roundId, sizingVote.personId],
          set: { size: act.size, at: now },
        });
      return;
    }
    case "show": {
      const [{ n }] = await tx
        .select({ n: count() })
        .from(sizingVote)
        .where(eq(sizingVote.roundId, round.id));
      if (n === 0) throw invalid("Nobody has said a size yet.", "Say one first.");
      await set({ shownAt: now });
      return;
    }
    case "again":
      await tx.delete(sizingVote).where(eq(sizingVote.roundId, round.id));
      await set({ shownAt: null, again: round.again + 1 });
      return;
    case "settle":
      if (round.shownAt === null)
        throw invalid("What each said is not shown yet.", "Show it first, and talk about it.");
      await throughDoor(tx, viewer, {
        on,
        commandId: newId(),
        ask: {
          kind: "edit",
          seenVersion: on.before.version,
          changes: { estimate: act.size },
        },
      });
      await set({ endedAt: now });
      return;
    case "leave":
      await set({ endedAt: now });
  }
}
