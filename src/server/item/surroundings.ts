import { and, eq } from "drizzle-orm";
import type { LimitedColumn } from "@/core/board/limit";
import type { Instant } from "@/core/calendar/instant";
import type { DecisionContext } from "@/core/item/decide";
import type { Cause, ItemEvent } from "@/core/item/event";
import { EMPTY_VOCABULARY, type Vocabulary } from "@/core/condition/vocabulary";
import type { Action } from "@/core/people/authorise";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemType, membership, person, project, workflow } from "@/db/schema";
import { loadVocabulary } from "../condition/vocabulary";
import { admit, seesItem, membershipOf, visibleTo, type ProjectAccess } from "../people/access";
import type { Doer } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";
import { publishedWorkflow } from "../workflow/load";
import { holdWorkflowOf, holdWorkflowOfType } from "../workflow/move-lock";
import type { MoveNeeds } from "./move-needs";

export const NO_COLUMNS: { left: LimitedColumn[]; entered: LimitedColumn[] } = {
  left: [],
  entered: [],
};

/** What a decision on an item needs besides the item itself. */
export interface ItemSurroundings {
  access: ProjectAccess;
  workflow: Workflow;
}

/** Names for the words of a refusal. */
export interface Naming {
  vocabulary: Vocabulary;
  nameOf: (id: string) => string;
  teamName: (id: string) => string;
}

/** For decisions whose refusal nobody reads. */
export const NO_NAMING: Naming = {
  vocabulary: EMPTY_VOCABULARY,
  nameOf: () => "somebody",
  teamName: () => "a team",
};

/** What the core needs to know for a decision, apart from the command. */
export function decisionContext(
  viewer: Doer,
  { access, workflow }: ItemSurroundings,
  before: { id: string; updatedAt: Instant },
  commandId: string,
  needs: MoveNeeds,
  naming: Naming,
  { columns = NO_COLUMNS, changedSince = [] as string[], cause = "person" as Cause } = {},
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
    ...needs,
    ...columns,
    mayOverrideLimits: viewer.personId !== null && access.may("override limit"),
    vocabulary: naming.vocabulary,
    nameOf: (id) => (id === viewer.personId ? viewer.name : naming.nameOf(id)).split(" ")[0],
    teamName: naming.teamName,
  };
}

/**
 * Decides on a command. Names are only wanted for the words of a refusal, so they are read when
 * there is one, and the same decision is then put into words again.
 */
export async function decideNaming(
  tx: Transaction,
  projectId: string,
  decideWith: (naming: Naming) => ItemEvent[] | Refusal,
): Promise<ItemEvent[]> {
  let named = false;
  const note = () => ((named = true), "that person");
  let decision = decideWith({ ...NO_NAMING, nameOf: note, teamName: note });
  if (isRefusal(decision) && (named || decision.code === "condition")) {
    const vocabulary = await loadVocabulary(tx, projectId);
    const everybody = new Map(
      (await tx.select({ id: person.id, name: person.name }).from(person)).map((p) => [
        p.id,
        p.name,
      ]),
    );
    decision = decideWith({
      vocabulary,
      nameOf: (id) => everybody.get(id) ?? "that person",
      teamName: (id) => vocabulary.teams.find((t) => t.id === id)?.name ?? "a team that is gone",
    });
  }
  if (isRefusal(decision)) throw new Refused(decision);
  return decision;
}

/**
 * Enters an item's project for an action and learns what decisions on the item need. The workflow
 * is held at its version until the transaction ends: a publish waits for moves that were decided by
 * the version before it.
 * @throws Refused when the item is not there or not visible, or the person may not do it
 */
export async function enterItem(
  tx: Transaction,
  viewer: Doer,
  itemId: string,
  action: Action,
): Promise<ItemSurroundings> {
  await holdWorkflowOf(tx, itemId);
  const [row] = await tx
    .select({
      project,
      membership: membership.role,
      workflowId: workflow.id,
      version: workflow.version,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(workflow, eq(workflow.id, itemType.workflowId))
    .leftJoin(membership, membershipOf(viewer))
    .where(and(eq(item.id, itemId), visibleTo(tx, viewer), seesItem(tx, viewer)));
  if (!row) throw notFound("item");
  const access = admit(viewer, row, action);
  return { access, workflow: await publishedWorkflow(tx, row.workflowId, row.version) };
}

/** The workflow that items of a type follow. @throws Refused when the project has no such type */
export async function workflowOf(
  tx: Transaction,
  projectId: string,
  typeId: string,
): Promise<Workflow> {
  await holdWorkflowOfType(tx, projectId, typeId);
  const [type] = await tx
    .select({ workflowId: workflow.id, version: workflow.version })
    .from(itemType)
    .innerJoin(workflow, eq(workflow.id, itemType.workflowId))
    .where(and(eq(itemType.projectId, projectId), eq(itemType.id, typeId)));
  if (!type) throw invalid("This project has no such item type.", "Choose one of its types.");
  return publishedWorkflow(tx, type.workflowId, type.version);
}
