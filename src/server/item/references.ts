import { and, eq } from "drizzle-orm";
import type { EditableFields, ItemSnapshot } from "@/core/item/fields";
import type { Transaction } from "@/db/connection";
import { item, itemType, team } from "@/db/schema";
import { hasEnded, takesItems } from "../plan/timeboxes";
import { seesItem } from "../people/access";
import { checkMembers } from "../people/belonging";
import type { Principal } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { workflowOf } from "./enter";
import type { Entered } from "./errand";
import { refuseCircle } from "./around";
import { lockSeenItemByKey } from "./seen-item";

/**
 * People, teams, sprints, releases and types that a change names must exist, and a type must keep
 * the item in its workflow.
 */
export async function checkReferences(
  tx: Transaction,
  projectId: string,
  changes: Partial<EditableFields>,
  before: ItemSnapshot | null,
): Promise<void> {
  await checkMembers(tx, projectId, [
    before?.assigneeId === changes.assigneeId ? null : changes.assigneeId,
    before?.reviewerId === changes.reviewerId ? null : changes.reviewerId,
  ]);
  if (typeof changes.teamId === "string") {
    const [known] = await tx.select().from(team).where(eq(team.id, changes.teamId));
    if (!known) throw invalid("There is no such team.", "Choose one from the list.");
  }
  await checkTimeboxes(tx, projectId, changes);
  if (changes.typeId !== undefined) {
    const wanted = await workflowOf(tx, projectId, changes.typeId);
    if (before && !wanted.states.some((s) => s.id === before.stateId))
      throw invalid(
        "Items of that type follow another workflow.",
        "Change its type on the item: there it is asked in which state it is then.",
      );
  }
}

/** A sprint or a release that a change names must be one of the project's. */
async function checkTimeboxes(
  tx: Transaction,
  projectId: string,
  { sprintId, releaseId }: Partial<EditableFields>,
): Promise<void> {
  const named = { sprint: sprintId, release: releaseId };
  for (const what of ["sprint", "release"] as const) {
    const id = named[what];
    if (typeof id === "string" && !(await takesItems(tx, what, id, projectId)))
      throw invalid(`There is no such ${what}.`, "Choose one from the list.");
  }
  if (typeof sprintId === "string" && (await hasEnded(tx, sprintId)))
    throw invalid("That sprint has ended.", "Choose one that runs or comes.");
}

interface ParentKey {
  parentId: string;
  key: string;
}

/** @throws Refused where a parent is not of a higher level than what is to stand under it */
export async function refuseNoLarger(
  tx: Transaction,
  projectId: string,
  { parent, typeId }: { parent: { key: string; typeId: string }; typeId: string },
): Promise<void> {
  const types = await tx
    .select({ id: itemType.id, level: itemType.level })
    .from(itemType)
    .where(eq(itemType.projectId, projectId));
  const levels = new Map(types.map((t) => [t.id, t.level]));
  if ((levels.get(parent.typeId) ?? 0) <= (levels.get(typeId) ?? 0))
    throw invalid(
      `${parent.key} is no larger piece of work than this one.`,
      "An item stands under one of a higher level: a task under a story, a story under a feature.",
    );
}

/** The item to stand under, which must be of a higher level, and the one it stands under now. */
export async function parentsOf(
  tx: Transaction,
  by: Principal,
  { access, before }: Entered & { before: ItemSnapshot },
  parentKey: string | null,
): Promise<{ parent: ParentKey | null; before: ParentKey | null }> {
  const keyed = (s: { id: string; number: number }): ParentKey => ({
    parentId: s.id,
    key: `${access.project.key}-${s.number}`,
  });
  // Under one that they may not see it stands, for them, under none.
  const [now] = before.parentId
    ? await tx
        .select({ id: item.id, number: item.number })
        .from(item)
        .where(and(eq(item.id, before.parentId), seesItem(tx, by)))
    : [];
  if (parentKey === null) return { parent: null, before: now ? keyed(now) : null };
  const parent = await lockSeenItemByKey(tx, by, access, parentKey);
  if (parent.withdrawnAt !== null) throw notFound("item");
  await refuseNoLarger(tx, access.project.id, {
    parent: { key: parentKey.toUpperCase(), typeId: parent.typeId },
    typeId: before.typeId,
  });
  await refuseCircle(tx, { waiting: parent.id, for: before.id });
  return { parent: keyed(parent), before: now ? keyed(now) : null };
}
