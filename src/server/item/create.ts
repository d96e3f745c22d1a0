import { eq } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { transact, type Transaction } from "@/db/connection";
import { commandRecord, item } from "@/db/schema";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import type { CommandResult } from "./command";
import { recordCommand } from "./command-key";
import { throughDoor } from "./door";
import { enterNew } from "./enter";
import type { CreateItemRequest } from "@/core/item/request";
import { snapshotOf } from "./rows";
import { seenItem } from "./seen-item";
import { withVisibleOther } from "./visible-others";
import { v7 as newId } from "uuid";

/** Creates an item, or a task under one, on a person's behalf; at the end of the backlog. */
export async function createItem(
  viewer: Viewer,
  request: CreateItemRequest,
): Promise<CommandResult> {
  const { commandId, parentId } = request;
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: request.projectKey },
      action: "create item",
    });
    const what = `create in ${access.project.id}`;
    if (!(await recordCommand(tx, commandId, viewer.personId, { what }))) {
      const card = cardOf(await madeBefore(tx, access, commandId), access.project.key);
      return { card: await withVisibleOther(tx, viewer, card), fresh: false };
    }
    if (parentId && !(await seenItem(tx, viewer, access.project.id, parentId)))
      throw invalid(
        "The item it belongs under is not in this project.",
        "Choose one of this project.",
      );
    const fields = { ...NEW_ITEM, ...request.fields, parentId };
    const created = await throughDoor(tx, viewer, {
      on: await enterNew(tx, access, fields.typeId, newId()),
      commandId,
      ask: { kind: "create", fields, place: "last", overrideReason: request.overrideReason },
    });
    await tx
      .update(commandRecord)
      .set({ itemId: created.id, version: created.version })
      .where(eq(commandRecord.id, commandId));
    return { card: cardOf(created, access.project.key), fresh: true };
  });
}

/** The item that the same command made when it came before. */
export async function madeBefore(
  tx: Transaction,
  access: ProjectAccess,
  commandId: string,
): Promise<ItemSnapshot> {
  const [known] = await tx
    .select({ item })
    .from(commandRecord)
    .innerJoin(item, eq(item.id, commandRecord.itemId))
    .where(eq(commandRecord.id, commandId));
  if (!known || known.item.projectId !== access.project.id)
    throw invalid("This command key was used for something else.", "Send it again with a new key.");
  return snapshotOf(known.item);
}
