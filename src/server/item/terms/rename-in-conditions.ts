import { and, eq, inArray, sql, type SQL } from "drizzle-orm";
import type { AnyPgColumn, PgTable } from "drizzle-orm/pg-core";
import { withTermOrNew, withTermRenamed } from "@/core/item/terms/rename-value";
import type { Workflow } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import {
  alertRule,
  board,
  datedSetting,
  intakeRules,
  namedCondition,
  ownField,
  view,
  viewChange,
  workflow,
  workflowDraft,
  workflowVersion,
} from "@/db/schema";
import type { Renaming } from "./renaming";

/** A place where conditions are stored: which column, of which rows of a project. */
interface Stored {
  table: PgTable;
  column: AnyPgColumn;
  /** The rows of this project. */
  ours: (projectId: string) => SQL;
  /** Rows that are about other projects too. */
  shared?: (projectId: string) => SQL;
}

const inViews = (projectId: string) =>
  sql`${viewChange.viewId} in (select ${view.id} from ${view} where ${view.groundId} = ${projectId})`;
const inOtherViews = (projectId: string) =>
  sql`${viewChange.viewId} in (select ${view.id} from ${view} where ${view.groundId} <> ${projectId})`;

/** Every place but the workflows, whose published versions are never changed. */
const STORED: readonly Stored[] = [
  {
    table: namedCondition,
    column: namedCondition.condition,
    ours: (id) => eq(namedCondition.groundId, id),
    shared: (id) => sql`${namedCondition.groundId} <> ${id}`,
  },
  {
    table: view,
    column: view.look,
    ours: (id) => eq(view.groundId, id),
    shared: (id) => sql`${view.groundId} <> ${id}`,
  },
  { table: viewChange, column: viewChange.before, ours: inViews, shared: inOtherViews },
  { table: alertRule, column: alertRule.condition, ours: (id) => eq(alertRule.projectId, id) },
  { table: board, column: board.scope, ours: (id) => eq(board.projectId, id) },
  { table: ownField, column: ownField.source, ours: (id) => eq(ownField.projectId, id) },
  ...[intakeRules.targets, intakeRules.scoring, intakeRules.triage].map((column) => ({
    table: intakeRules,
    column,
    ours: (id: string) => eq(intakeRules.projectId, id),
  })),
  { table: datedSetting, column: datedSetting.value, ours: (id) => eq(datedSetting.projectId, id) },
];

/**
 * Rewrites the conditions that name a word. Where one is about this project alone the new name
 * takes the place of the old; where it is about others too, in which the word may be called as it
 * was, either of them will do.
 */
export async function renameInConditions(tx: Transaction, renaming: Renaming): Promise<void> {
  const { projectId } = renaming;
  for (const { table, column, ours, shared } of STORED) {
    await rewrite(tx, { table, column, where: ours(projectId) }, renaming, withTermRenamed);
    if (shared)
      await rewrite(tx, { table, column, where: shared(projectId) }, renaming, withTermOrNew);
  }
  await renameInWorkflows(tx, renaming);
}

/** Rows are told apart by where they lie: nothing else is written between reading and writing. */
async function rewrite(
  tx: Transaction,
  { table, column, where }: { table: PgTable; column: AnyPgColumn; where: SQL },
  renaming: Renaming,
  renamed: (stored: unknown, renaming: Renaming) => unknown,
): Promise<void> {
  const name = sql.identifier(column.name);
  const { rows } = await tx.execute<{ place: string; stored: unknown }>(
    sql`select ctid::text as place, ${name} as stored from ${table}
      where ${where} and position(${renaming.from}::text in ${column}::text) > 0 for update`,
  );
  for (const { place, stored } of rows) {
    const after = renamed(stored, renaming);
    if (after === stored) continue;
    await tx.execute(
      sql`update ${table} set ${name} = ${JSON.stringify(after)}::jsonb where ctid = ${place}::tid`,
    );
  }
}

/** A workflow whose rules name the word has a new version, in which it is called otherwise. */
async function renameInWorkflows(tx: Transaction, renaming: Renaming): Promise<void> {
  const heads = await tx
    .select({ id: workflow.id, version: workflow.version, definition: workflowVersion.definition })
    .from(workflow)
    .innerJoin(
      workflowVersion,
      and(
        eq(workflowVersion.workflowId, workflow.id),
        eq(workflowVersion.version, workflow.version),
      ),
    )
    .where(eq(workflow.projectId, renaming.projectId))
    .orderBy(workflow.id);
  const renewed = new Set<string>();
  for (const { id, version, definition } of heads) {
    const renamed = withTermRenamed(definition, renaming);
    if (renamed === definition) continue;
    await addVersion(tx, { id, version, definition: renamed }, renaming);
    renewed.add(id);
  }
  const ids = heads.map(({ id }) => id);
  if (ids.length === 0) return;
  const drafts = await tx
    .select()
    .from(workflowDraft)
    .where(inArray(workflowDraft.workflowId, ids));
  for (const draft of drafts) {
    const definition = withTermRenamed(draft.definition, renaming);
    const base = heads.find(({ id }) => id === draft.workflowId)!;
    // Begun from what was published last, it goes on from the version that was made just now.
    const follows = renewed.has(base.id) && draft.baseVersion === base.version;
    if (definition === draft.definition && !follows) continue;
    await tx
      .update(workflowDraft)
      .set({
        definition,
        revision: draft.revision + 1,
        ...(follows ? { baseVersion: base.version + 1 } : {}),
      })
      .where(eq(workflowDraft.workflowId, draft.workflowId));
  }
}

async function addVersion(
  tx: Transaction,
  { id, version, definition }: { id: string; version: number; definition: Workflow },
  { kind, from, to, at, byId }: Renaming,
): Promise<void> {
  const next = version + 1;
  await tx.insert(workflowVersion).values({
    workflowId: id,
    version: next,
    definition: { ...definition, version: next } as Workflow,
    at,
    byId,
    note: "",
    summary: `In its rules the ${kind} “${from}” is called “${to}”.`,
  });
  await tx.update(workflow).set({ version: next }).where(eq(workflow.id, id));
}
