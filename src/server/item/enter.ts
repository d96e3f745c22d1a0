import { and, eq, sql, type SQL } from "drizzle-orm";
import type { Action } from "@/core/people/authorise";
import type { Term } from "@/core/item/terms/term";
import type { Workflow } from "@/core/workflow/workflow";
import type { Reader, Transaction } from "@/db/connection";
import { item, itemType, membership, project, workflow } from "@/db/schema";
import { namedQuery, namedSql } from "@/db/statement";
import { admit, membershipOf, seesItem, visibleTo, type ProjectAccess } from "../people/access";
import type { Principal } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { publishedWorkflow } from "../workflow/load";
import { holdWorkflowOf, holdWorkflowOfType } from "../workflow/move-lock";
import type { Along, Entered } from "./errand";
import { remembered } from "../remembered";
import { snapshotOf } from "./rows";
import { loadTerms } from "./terms/load";

/** An item that is there, entered and locked until the transaction ends. */
export type EnteredItem = Entered & { before: NonNullable<Entered["before"]> };

/**
 * Enters an item for an action. The workflow is held at its version until the transaction ends: a
 * publish waits for moves that were decided by the version before it.
 * @throws Refused when the item is not there or not visible, or the person may not do it
 */
export async function enterItem(
  tx: Transaction,
  by: Principal,
  itemId: string,
  action: Action,
): Promise<EnteredItem> {
  await holdWorkflowOf(tx, itemId);
  const locked = () => lockedEntry[sightOf(by)](tx, { itemId, me: by.personId });
  // Where its type was changed while this waited for the lock, its workflow is another one now, and
  // no row is found: it is read once more.
  const [row = (await locked())[0]] = await locked();
  return admitted(tx, by, row, action);
}

/** The same for whoever only looks at it: nobody waits for them. */
export async function seeItem(
  reader: Reader,
  by: Principal,
  itemId: string,
  action: Action,
): Promise<EnteredItem> {
  const [row] = await entry[sightOf(by)](reader, { itemId, me: by.personId });
  return admitted(reader, by, row, action);
}

/** What somebody finds of an item that they look for, to do something to it. */
export type Entry = (action: Action) => Promise<EnteredItem>;

/**
 * Looks for some items that are locked, and whose workflows are held, already. Of each it is asked
 * what somebody wants to do to it.
 * @returns by id; what is not in it is not there, or not visible
 */
export async function entriesOf(
  tx: Transaction,
  by: Principal,
  itemIds: readonly string[],
): Promise<ReadonlyMap<string, Entry>> {
  const rows = await entries[sightOf(by)](tx, { itemIds: [...itemIds], me: by.personId });
  const read = new Map<string, Promise<readonly Term[]>>();
  const found = (row: (typeof rows)[number]) => async (action: Action) => {
    const entered = await admitted(tx, by, row, action);
    const { id } = row.project;
    return { ...entered, terms: () => remembered(read, id, () => loadTerms(tx, id)) };
  };
  return new Map(rows.map((row) => [row.item.id, found(row)]));
}

/** What somebody may see depends on who they are in one of three ways. */
type Sight = "all" | "own" | "open";
const sightOf = (by: Principal): Sight =>
  by.administrator ? "all" : by.personId === null ? "open" : "own";

const ONE = eq(item.id, sql.placeholder("itemId"));
const SOME = sql`${item.id} = any(${sql.placeholder("itemIds")}::uuid[])`;

const entryOf = (reader: Reader, sight: Sight, which: SQL) => {
  const me = sight === "open" ? null : (sql.placeholder("me") as unknown as string);
  const by: Principal = { personId: me, name: "", administrator: sight === "all" };
  return reader
    .select({
      item,
      project,
      membership: membership.role,
      workflowId: workflow.id,
      version: workflow.version,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .innerJoin(workflow, eq(workflow.id, itemType.workflowId))
    .leftJoin(membership, membershipOf(by))
    .where(and(which, visibleTo(reader, by), seesItem(reader, by)));
};

const named = (sight: Sight) =>
  namedQuery(`see an item, ${sight}`, (reader) => entryOf(reader, sight, ONE));
const namedSome = (sight: Sight) =>
  namedQuery(`find items, ${sight}`, (reader) => entryOf(reader, sight, SOME));
const namedLocked = (sight: Sight) =>
  namedQuery(`enter an item, ${sight}`, (reader) =>
    entryOf(reader, sight, ONE).for("update", { of: item }),
  );
const entry = { all: named("all"), own: named("own"), open: named("open") };
const entries = { all: namedSome("all"), own: namedSome("own"), open: namedSome("open") };
const lockedEntry = {
  all: namedLocked("all"),
  own: namedLocked("own"),
  open: namedLocked("open"),
};

async function admitted(
  reader: Reader,
  by: Principal,
  row: Awaited<ReturnType<typeof entryOf>>[number] | undefined,
  action: Action,
): Promise<EnteredItem> {
  if (!row) throw notFound("item");
  const access = admit(by, row, action);
  const held = await publishedWorkflow(reader, row.workflowId, row.version);
  return { itemId: row.item.id, access, workflow: held, before: snapshotOf(row.item) };
}

/** Enters an item that follows from one that was entered; it may be of another project. */
export async function enterAlong(tx: Transaction, { itemId, access }: Along): Promise<EnteredItem> {
  const [row] = await tx.select().from(item).where(eq(item.id, itemId)).for("update");
  if (!row) throw notFound("item");
  const held = await workflowOf(tx, row.projectId, row.typeId);
  const there = row.projectId === access.project.id ? access : await accessAlong(tx, row.projectId);
  return { itemId, access: there, workflow: held, before: snapshotOf(row) };
}

/** In another project than the one that was entered nobody has a right of their own. */
async function accessAlong(tx: Transaction, projectId: string): Promise<ProjectAccess> {
  const [of] = await tx.select().from(project).where(eq(project.id, projectId));
  return { project: of, role: "member", may: () => false };
}

/** Locks items in the order of their ids, so that nobody waits in a circle. */
export async function lockInOrder(tx: Transaction, itemIds: readonly string[]): Promise<void> {
  await LOCK(tx, [[...itemIds]]);
}

const LOCK = namedSql(
  "lock items in the order of their ids",
  "select i.id from item i where i.id = any($1::uuid[]) order by i.id for update",
);

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

/** Enters an item of a type that is to be made in a project. */
export async function enterNew(
  tx: Transaction,
  access: ProjectAccess,
  typeId: string,
  itemId: string,
): Promise<Entered> {
  return {
    itemId,
    access,
    workflow: await workflowOf(tx, access.project.id, typeId),
    before: null,
  };
}
