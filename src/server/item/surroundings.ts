import { and, eq, inArray } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import type { Instant } from "@/core/calendar/instant";
import type { DecisionContext } from "@/core/item/decide";
import type { Cause, ItemEvent } from "@/core/item/event";
import type { EditableField } from "@/core/item/fields";
import type { Action } from "@/core/people/authorise";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemType, membership, person, project, workflow } from "@/db/schema";
import { admit, membershipOf, visibleTo, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";
import { publishedWorkflow } from "../workflow/load";

export const NO_COLUMNS: { left: LimitedColumn[]; entered: LimitedColumn[] } = { left: [], entered: [] };

const ANONYMOUS: (id: string) => string = () => "that person";

/** What a decision on an item needs besides the item itself. */
export interface ItemSurroundings {
  access: ProjectAccess;
  workflow: Workflow;
}

/** What the core needs to know for a decision, apart from the command. */
export function decisionContext(
  viewer: Viewer,
  { access, workflow }: ItemSurroundings,
  before: { id: string; updatedAt: Instant },
  commandId: string,
  { columns = NO_COLUMNS, changedSince = [] as EditableField[], cause = "person" as Cause, nameOf = ANONYMOUS } = {},
): DecisionContext {
  return {
    itemId: before.id,
    // Clocks of two machines may differ a little; the history of one item never runs backwards.
    at: Math.max(Date.now(), before.updatedAt),
    actorId: viewer.personId,
    cause,
    commandId,
    changedSince: () => changedSince,
    workflow,
    ...columns,
    mayOverrideLimits: access.may("override limit"),
    nameOf: (id) => (id === viewer.personId ? viewer.name : nameOf(id)).split(" ")[0],
  };
}

/**
 * Decides on a command. Names are only wanted for the words of a refusal, so they are asked for when one names somebody,
 * and the same decision is then put into words again.
 */
export async function decideNaming(tx: Transaction, decideWith: (nameOf: (id: string) => string) => ItemEvent[] | Refusal): Promise<ItemEvent[]> {
  const named = new Map<string, string>();
  let decision = decideWith((id) => (named.set(id, "that person"), "that person"));
  if (isRefusal(decision) && named.size > 0) {
    for (const { id, name } of await tx.select({ id: person.id, name: person.name }).from(person).where(inArray(person.id, [...named.keys()]))) named.set(id, name);
    decision = decideWith((id) => named.get(id) ?? "that person");
  }
  if (isRefusal(decision)) throw new Refused(decision);
  return decision;
}

/**
 * Enters an item's project for an action and learns what decisions on the item need. The workflow is held at its
 * version until the transaction ends: a publish waits for moves that were decided by the version before it.
 * @throws Refused when the item is not there or not visible, or the person may not do it
 */
export async function enterItem(tx: Transaction, viewer: Viewer, itemId: string, action: Action): Promise<ItemSurroundings> {
  const [row] = await tx
    .select({ project, membership: membership.role, workflowId: workflow.id, version: workflow.version })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(workflow, eq(workflow.id, itemType.workflowId))
    .leftJoin(membership, membershipOf(viewer))
    .where(and(eq(item.id, itemId), visibleTo(tx, viewer)))
    .for("key share", { of: workflow });
  if (!row) throw notFound("item");
  const access = admit(viewer, row, action);
  return { access, workflow: await publishedWorkflow(tx, row.workflowId, row.version) };
}

/** The workflow that items of a type follow. @throws Refused when the project has no such type */
export async function workflowOf(tx: Transaction, projectId: string, typeId: string): Promise<Workflow> {
  const [type] = await tx
    .select({ workflowId: workflow.id, version: workflow.version })
    .from(itemType)
    .innerJoin(workflow, eq(workflow.id, itemType.workflowId))
    .where(and(eq(itemType.projectId, projectId), eq(itemType.id, typeId)))
    .for("key share", { of: workflow });
  if (!type) throw invalid("This project has no such item type.", "Choose one of its types.");
  return publishedWorkflow(tx, type.workflowId, type.version);
}
