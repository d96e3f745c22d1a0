import { and, asc, eq, isNull } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import { copiedFields, MOST_COPIED, type CopyPart, type CopyRequest } from "@/core/item/copy";
import type { ItemSnapshot } from "@/core/item/fields";
import { transact, type Transaction } from "@/db/connection";
import { commandRecord, item } from "@/db/schema";
import { seesItem, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { seeByKey } from "./by-key";
import type { CommandResult } from "./command";
import { madeBefore } from "./create";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";
import { enterAlong, enterNew } from "./enter";
import { loadOwnFields } from "./own-fields";
import { snapshotOf } from "./rows";
import { withVisibleOther } from "./visible-others";
import { v7 as newId } from "uuid";

interface Copying {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  commandId: string;
  parts: readonly CopyPart[];
}

/**
 * Makes a copy of an item, with the parts of it that are chosen, at the end of the backlog. The same
 * request twice is one copy.
 * @throws Refused
 */
export async function copyItem(
  viewer: Viewer,
  key: string,
  { commandId, title, parts }: CopyRequest,
): Promise<CommandResult> {
  return transact(async (tx) => {
    const { before, access } = await seeByKey(tx, viewer, key, "create item");
    const { project } = access;
    if (!(await recordCommand(tx, commandId, viewer.personId, { what: `copy ${before.id}` })))
      return { card: cardOf(await madeBefore(tx, access, commandId), project.key), fresh: false };
    const copying = { tx, viewer, access, commandId, parts };
    const original = await withVisibleOther(tx, viewer, before);
    const made = await copyOne(copying, original, {
      title,
      parentId: parts.includes("parent") ? original.parentId : null,
    });
    if (parts.includes("children")) await copyBelow(copying, original.id, made.id);
    if (parts.includes("link")) await linkTo(copying, made, original);
    const [after] = await tx.select().from(item).where(eq(item.id, made.id));
    await tx
      .update(commandRecord)
      .set({ itemId: after.id, version: after.version })
      .where(eq(commandRecord.id, commandId));
    return { card: cardOf(snapshotOf(after), project.key), fresh: true };
  });
}

async function copyOne(
  { tx, viewer, access, commandId, parts }: Copying,
  original: ItemSnapshot,
  { title, parentId }: { title: string; parentId: string | null },
): Promise<ItemSnapshot> {
  const copied = copiedFields(original, title, parts);
  const own = await ownInUse(tx, access.project.id, copied.own);
  return throughDoor(tx, viewer, {
    on: await enterNew(tx, access, copied.typeId, newId()),
    commandId,
    ask: { kind: "create", fields: { ...copied, own, parentId }, place: "last" },
  });
}

/** What is said in fields that are still there. */
async function ownInUse(
  tx: Transaction,
  projectId: string,
  own: ItemSnapshot["own"],
): Promise<ItemSnapshot["own"]> {
  const fields = await loadOwnFields(tx, projectId);
  const kept = new Set(fields.filter((f) => f.removedAt === null).map(({ id }) => id));
  return Object.fromEntries(Object.entries(own).filter(([id]) => kept.has(id)));
}

/** Copies what stands under an item and may be seen, however deep. */
async function copyBelow(copying: Copying, fromId: string, toId: string): Promise<void> {
  const { tx, viewer } = copying;
  let left = MOST_COPIED;
  const levels = [{ fromId, toId }];
  for (const { fromId: parentId, toId: under } of levels) {
    const rows = await tx
      .select()
      .from(item)
      .where(and(eq(item.parentId, parentId), isNull(item.withdrawnAt), seesItem(tx, viewer)))
      .orderBy(asc(item.rank), asc(item.id));
    left -= rows.length;
    if (left < 0)
      throw invalid(
        `More than ${MOST_COPIED} items stand under it.`,
        "Copy it without what stands under it, or copy a smaller piece.",
      );
    for (const row of rows) {
      const original = snapshotOf(row);
      const made = await copyOne(copying, original, { title: original.title, parentId: under });
      levels.push({ fromId: original.id, toId: made.id });
    }
  }
}

async function linkTo(
  { tx, viewer, access, commandId }: Copying,
  made: ItemSnapshot,
  original: ItemSnapshot,
): Promise<void> {
  await throughDoor(tx, viewer, {
    on: await enterAlong(tx, { itemId: made.id, access }),
    commandId,
    ask: {
      kind: "link",
      linkKind: "came from",
      otherKey: `${access.project.key}-${original.number}`,
    },
  });
}
