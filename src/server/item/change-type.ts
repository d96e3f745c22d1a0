import { and, eq, isNull } from "drizzle-orm";
import type { ItemCommand } from "@/core/item/command";
import type { CommandRequest } from "@/core/item/request";
import type { Transaction } from "@/db/connection";
import { item, itemType } from "@/db/schema";
import { invalid } from "../refused";
import { workflowOf, type EnteredItem } from "./enter";

/**
 * A change of type, with the state that the item is then in: its own where the type's workflow has
 * it, or the one that was named.
 * @throws Refused where the type is not there, names no state, or is of a level that does not fit
 *   what the item stands under and over
 */
export async function changingType(
  tx: Transaction,
  { before, access }: EnteredItem,
  { typeId, stateId }: Extract<CommandRequest, { kind: "change type" }>,
): Promise<ItemCommand> {
  const projectId = access.project.id;
  const wanted = await workflowOf(tx, projectId, typeId);
  const types = await tx.select().from(itemType).where(eq(itemType.projectId, projectId));
  const type = types.find(({ id }) => id === typeId)!;
  if (type.removedAt !== null && typeId !== before.typeId)
    throw invalid("This type was taken out.", "Choose one that is in use.");
  const to = stateId ?? before.stateId;
  if (!wanted.states.some(({ id }) => id === to))
    throw invalid(
      `${type.name} follows another workflow, which has no such state.`,
      "Say in which of its states the item is then.",
    );
  const levelOf = (id: string) => types.find((one) => one.id === id)?.level ?? 0;
  const around = await typesAround(tx, before);
  if (around.parent !== null && levelOf(around.parent) <= type.level)
    throw invalid(
      `What it stands under is no larger than a ${type.name.toLocaleLowerCase("en")}.`,
      "Take it out from under that first.",
    );
  if (around.children.some((id) => levelOf(id) >= type.level))
    throw invalid(
      `What stands under it is no smaller than a ${type.name.toLocaleLowerCase("en")}.`,
      "Put that somewhere else first.",
    );
  return { kind: "change type", typeId, to, typeName: type.name };
}

/** The types of what an item stands under, and of what stands under it. */
async function typesAround(
  tx: Transaction,
  { id, parentId }: EnteredItem["before"],
): Promise<{ parent: string | null; children: string[] }> {
  const [parent] =
    parentId === null
      ? []
      : await tx.select({ typeId: item.typeId }).from(item).where(eq(item.id, parentId));
  const children = await tx
    .selectDistinct({ typeId: item.typeId })
    .from(item)
    .where(and(eq(item.parentId, id), isNull(item.withdrawnAt)));
  return { parent: parent?.typeId ?? null, children: children.map(({ typeId }) => typeId) };
}
