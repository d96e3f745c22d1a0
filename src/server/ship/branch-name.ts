import { and, eq } from "drizzle-orm";
import { branchName, freeBranchName } from "@/core/ship/branch-name";
import { database } from "@/db/connection";
import { itemCode, itemType } from "@/db/schema";
import { namedByKeys } from "../item/list/named";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

/** The name that the next branch of an item has, for whoever asks. @throws Refused */
export async function readBranchName(viewer: Viewer, key: string): Promise<{ branchName: string }> {
  const reader = database();
  const [item] = (await namedByKeys(viewer, [key])).values();
  if (!item) throw notFound("item");
  const { project } = await enterProject({
    ...{ reader, viewer, where: { id: item.projectId }, action: "read project", asked: "item" },
  });
  const [type] = await reader
    .select({ name: itemType.name })
    .from(itemType)
    .where(and(eq(itemType.projectId, project.id), eq(itemType.id, item.typeId)));
  const named = { person: viewer.name, key: item.key, typeName: type.name, title: item.title };
  const taken = await reader
    .select({ name: itemCode.name })
    .from(itemCode)
    .where(and(eq(itemCode.itemId, item.id), eq(itemCode.kind, "branch")));
  const names = taken.map(({ name }) => name);
  return { branchName: freeBranchName(branchName(project.branchPattern, named), names) };
}
