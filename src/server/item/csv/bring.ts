import { and, eq } from "drizzle-orm";
import type { ImportedItem, ImportedPart, ImportItemsRequest } from "@/core/item/csv/request";
import { parseItemKey } from "@/core/item/key";
import { NEW_ITEM } from "@/core/item/new-item";
import { transact, type Transaction } from "@/db/connection";
import { commandRecord, item, itemEvent } from "@/db/schema";
import { enterProject, seesItem, type ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid, Refused } from "../../refused";
import { recordCommand } from "../command-key";
import { throughDoor } from "../door";
import { enterItem, enterNew } from "../enter";
import { refuseNoLarger } from "../references";
import { lockOtherByKey, seenItem } from "../seen-item";
import { v7 as newId } from "uuid";

/**
 * Makes items of a part of a table, links them, or takes them back. Each of them stands for itself:
 * what is refused is told, and the others go. The same part twice is made once.
 * @throws Refused where nothing may be made
 */
export async function bringItems(
  viewer: Viewer,
  projectKey: string,
  request: ImportItemsRequest,
): Promise<ImportedPart> {
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "create item",
    });
    const bringing = { tx, viewer, access };
    if (request.kind === "import")
      return eachApart(tx, request.items, (part, one) => makeOne({ ...bringing, tx: part }, one));
    if (request.kind === "link")
      return eachApart(tx, request.links, (part, one) => linkOne({ ...bringing, tx: part }, one));
    if (request.kind === "place")
      return eachApart(tx, request.places, (part, one) => placeOne({ ...bringing, tx: part }, one));
    return eachApart(tx, request.items, (part, one) => takeBack({ ...bringing, tx: part }, one));
  });
}

interface Bringing {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
}

/** Does something to each, in a transaction of its own within this one. */
async function eachApart<T extends { id: string }>(
  tx: Transaction,
  all: readonly T[],
  act: (part: Transaction, one: T) => Promise<void>,
): Promise<ImportedPart> {
  const result: ImportedPart = { done: 0, left: [] };
  for (const one of all)
    try {
      await tx.transaction((part) => act(part, one));
      result.done += 1;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      const { sentence } = error.refusal;
      result.left.push({ id: one.id, sentence });
    }
  return result;
}

async function makeOne({ tx, viewer, access }: Bringing, one: ImportedItem): Promise<void> {
  const what = `import into ${access.project.id}`;
  // The item's own id is the key of the command that makes it.
  if (!(await recordCommand(tx, one.id, viewer.personId, { what }))) return;
  const parentId = one.parent === null ? null : await idOf({ tx, viewer, access }, one.parent);
  if (parentId !== null) await refuseParent({ tx, viewer, access }, parentId, one);
  const made = await throughDoor(tx, viewer, {
    on: await enterNew(tx, access, one.fields.typeId, one.id),
    commandId: one.id,
    ask: {
      kind: "create",
      fields: { ...NEW_ITEM, ...one.fields, own: one.own, parentId },
      place: "last",
    },
  });
  await tx
    .update(commandRecord)
    .set({ itemId: made.id, version: made.version })
    .where(eq(commandRecord.id, one.id));
}

/** @throws Refused where one item cannot stand under another */
async function refuseParent(
  { tx, viewer, access }: Bringing,
  parentId: string,
  { fields }: ImportedItem,
): Promise<void> {
  const parent = await seenItem(tx, viewer, access.project.id, parentId);
  if (!parent)
    throw invalid(
      "The item it belongs under is not in this project.",
      "Name one of this project, or leave it empty.",
    );
  await refuseNoLarger(tx, access.project.id, {
    parent: { key: `${access.project.key}-${parent.number}`, typeId: parent.typeId },
    typeId: fields.typeId,
  });
}

/** The id of an item that was brought, or has a key. @throws Refused where there is none */
async function idOf({ tx, viewer, access }: Bringing, ref: string): Promise<string> {
  if (parseItemKey(ref) !== null) return (await lockOtherByKey(tx, viewer, ref)).id;
  const [row] = await tx
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        eq(item.projectId, access.project.id),
        eq(item.id, UUID.test(ref) ? ref : NO_ID),
        seesItem(tx, viewer),
      ),
    );
  if (!row) throw invalid(`There is no item “${ref}”.`, "Name it by its key.");
  return row.id;
}

const UUID = /^[0-9a-f-]{36}$/i;
const NO_ID = "00000000-0000-0000-0000-000000000000";

async function linkOne(
  bringing: Bringing,
  { id, waitsFor }: { id: string; waitsFor: string },
): Promise<void> {
  const { tx, viewer, access } = bringing;
  const on = await enterItem(tx, viewer, id, "link item");
  const other = await idOf(bringing, waitsFor);
  const [row] = await tx
    .select({ number: item.number, projectId: item.projectId })
    .from(item)
    .where(eq(item.id, other));
  const otherKey =
    row.projectId === access.project.id ? `${access.project.key}-${row.number}` : waitsFor;
  await throughDoor(tx, viewer, {
    on,
    // As the item's own command: it is taken back with it.
    commandId: id,
    ask: { kind: "link", linkKind: "waits for", otherKey },
  });
}

/**
 * Enters an item that this person brought in, and that nothing else has happened to since: only such a
 * one is placed, or taken back.
 * @throws Refused
 */
async function enterBrought(
  { tx, viewer, access }: Bringing,
  id: string,
  { action, placedBy }: { action: "move item" | "withdraw item"; placedBy: string | null },
) {
  const on = await enterItem(tx, viewer, id, action);
  const events = await tx
    .select({ kind: itemEvent.kind, commandId: itemEvent.commandId, actorId: itemEvent.actorId })
    .from(itemEvent)
    .where(eq(itemEvent.itemId, id));
  const made = events.some(
    ({ kind, commandId, actorId }) =>
      kind === "created" && commandId === id && actorId === viewer.personId,
  );
  if (!made || on.before.projectId !== access.project.id)
    throw invalid("It did not come from this table.", "Withdraw it by itself.");
  const own = [id, placedBy];
  if (events.some(({ kind, commandId }) => kind !== "linked" && !own.includes(commandId)))
    throw invalid("Something has happened to it since.", "Withdraw it by itself, or leave it.");
  return { on, placed: events.some(({ commandId }) => commandId === placedBy) };
}

/** Puts an item where it stood in the table: no move leads there, so only what is new goes. */
async function placeOne(
  bringing: Bringing,
  { id, to, commandId }: { id: string; to: string; commandId: string },
): Promise<void> {
  const { tx, viewer } = bringing;
  if (!(await recordCommand(tx, commandId, viewer.personId, { what: `place ${id}` }))) return;
  const { on } = await enterBrought(bringing, id, { action: "move item", placedBy: null });
  if (!on.workflow.states.some((state) => state.id === to))
    throw invalid("There is no such state.", "Name one of its type.");
  await throughDoor(tx, viewer, {
    on,
    commandId,
    ask: {
      kind: "prepared",
      command: { kind: "place in state", to, note: "It stood there in the table." },
    },
  });
}

/** Takes back an item that an import made, where nothing else has happened to it since. */
async function takeBack(
  bringing: Bringing,
  { id, placedBy }: { id: string; placedBy: string | null },
): Promise<void> {
  const { tx, viewer } = bringing;
  const { before } = await enterItem(tx, viewer, id, "withdraw item");
  if (before.withdrawnAt !== null) return;
  const { on, placed } = await enterBrought(bringing, id, { action: "withdraw item", placedBy });
  if (placedBy !== null && placed)
    await throughDoor(tx, viewer, {
      on,
      commandId: newId(),
      ask: { kind: "undo", commandId: placedBy },
    });
  await throughDoor(tx, viewer, {
    on: await enterItem(tx, viewer, id, "withdraw item"),
    commandId: newId(),
    ask: { kind: "withdraw", why: "Its import was taken back.", below: false },
  });
}
