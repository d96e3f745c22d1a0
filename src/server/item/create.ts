import { randomUUID } from "node:crypto";
import { eq, sql } from "drizzle-orm";
import { cardOf } from "@/core/board/card";
import { decide } from "@/core/item/decide";
import type { Cause, CreatedData } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM, type NewItem } from "@/core/item/new-item";
import { statesInOrder } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import { commandRecord, item, project } from "@/db/schema";
import { enterProject, type ProjectAccess } from "../people/access";
import type { Doer, Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { checkReferences, recordCommand, type CommandResult } from "./command";
import { moveNeeds } from "./move-needs";
import { placeInState } from "./place";
import { initialOwn, loadOwnFields } from "./own-fields";
import type { CreateItemRequest } from "./request";
import { snapshotOf } from "./rows";
import { seenItem } from "./seen-item";
import { toldParent } from "./told-parent";
import { storeEvents } from "./store";
import { decideNaming, decisionContext, workflowOf } from "./surroundings";

export type Place = { itemId: string } | "first" | "last";

/** Creates an item in the first state of its type's workflow, in the caller's transaction. */
export async function createItemIn(
  tx: Transaction,
  viewer: Doer,
  access: ProjectAccess,
  fields: NewItem,
  place: Place,
  commandId: string,
  cause: Cause,
): Promise<ItemSnapshot> {
  const projectId = access.project.id;
  await checkReferences(tx, projectId, fields, null);
  const workflow = await workflowOf(tx, projectId, fields.typeId);
  const own = await initialOwn(
    tx,
    projectId,
    await loadOwnFields(tx, projectId),
    fields.typeId,
    fields.own,
    cause === "person",
  );
  const [first] = statesInOrder(workflow);
  const rank = await placeInState(tx, viewer, first.id, place);
  const [{ number }] = await tx
    .update(project)
    .set({ nextItemNumber: sql`${project.nextItemNumber} + 1` })
    .where(eq(project.id, projectId))
    .returning({ number: sql<number>`${project.nextItemNumber} - 1` });
  const data: CreatedData = {
    ...fields,
    own,
    projectId,
    number,
    stateId: first.id,
    stateKind: first.kind,
    rank,
  };
  const itemId = randomUUID();
  const needs = await moveNeeds(tx, viewer, access, null, undefined);
  const events = await decideNaming(tx, projectId, (naming) =>
    decide(
      null,
      { kind: "create", data },
      decisionContext(
        viewer,
        { access, workflow },
        { id: itemId, updatedAt: 0 },
        commandId,
        needs,
        naming,
        { cause },
      ),
    ),
  );
  return storeEvents(tx, null, events);
}

/** Creates an item, or a task under one, on a person's behalf; at the end of the backlog. */
export async function createItem(
  viewer: Viewer,
  request: CreateItemRequest,
): Promise<CommandResult> {
  return transact(async (tx) => {
    const access = await enterProject(tx, viewer, { key: request.projectKey }, "create item");
    if (
      !(await recordCommand(tx, request.commandId, viewer.personId, {
        what: `create in ${access.project.id}`,
      }))
    ) {
      const [known] = await tx
        .select({ item })
        .from(commandRecord)
        .innerJoin(item, eq(item.id, commandRecord.itemId))
        .where(eq(commandRecord.id, request.commandId));
      if (!known || known.item.projectId !== access.project.id)
        throw invalid(
          "This command key was used for something else.",
          "Send it again with a new key.",
        );
      return {
        card: await toldParent(tx, viewer, cardOf(snapshotOf(known.item), access.project.key)),
        fresh: false,
      };
    }
    if (request.parentId) {
      if (!(await seenItem(tx, viewer, access.project.id, request.parentId)))
        throw invalid(
          "The item it belongs under is not in this project.",
          "Choose one of this project.",
        );
    }
    const created = await createItemIn(
      tx,
      viewer,
      access,
      { ...NEW_ITEM, ...request.fields, parentId: request.parentId },
      "last",
      request.commandId,
      "person",
    );
    await tx
      .update(commandRecord)
      .set({ itemId: created.id, version: created.version })
      .where(eq(commandRecord.id, request.commandId));
    return { card: cardOf(created, access.project.key), fresh: true };
  });
}
