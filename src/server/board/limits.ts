import { and, eq, inArray, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Column } from "@/core/board/column";
import {
  boundsOf,
  limitOfState,
  NO_LIMIT,
  stateLimitOf,
  stricterLimit,
  type ColumnLimit,
} from "@/core/board/limit";
import { countingOf, PLAIN_COUNTING, type LimitCounting } from "@/core/board/limit-counting";
import type { LimitedField, LimitOwnerKind } from "@/core/board/limited";
import type { Workflow } from "@/core/workflow/workflow";
import { same } from "@/core/workflow/same";
import type { Reader, Transaction } from "@/db/connection";
import { wipLimit } from "@/db/schema";

export interface LimitOwner {
  /** Null for a person, whose limit holds over all projects. */
  projectId: string | null;
  kind: LimitOwnerKind;
  id: string;
  /** Where only items with one value of a field count. */
  of?: { field: LimitedField; value: string } | null;
}

const ofAny = (kind: LimitOwnerKind, ids: readonly string[]) =>
  and(eq(wipLimit.ownerKind, kind), inArray(wipLimit.ownerId, [...ids]), isNull(wipLimit.validTo));

const inForce = (kind: LimitOwnerKind, ids: readonly string[], of: LimitOwner["of"] = null) =>
  and(
    ofAny(kind, ids),
    of === null
      ? isNull(wipLimit.field)
      : and(eq(wipLimit.field, of.field), eq(wipLimit.value, of.value)),
  );

/** The limits in force of some columns or states, by their ids; those without any are left out. */
export async function limitsInForce(
  reader: Reader,
  kind: LimitOwnerKind,
  ids: readonly string[],
): Promise<Map<string, ColumnLimit & LimitCounting>> {
  if (ids.length === 0) return new Map();
  const rows = await reader.select().from(wipLimit).where(inForce(kind, ids));
  return new Map(rows.map((row) => [row.ownerId, { ...boundsOf(row), ...countingOf(row) }]));
}

/**
 * Puts a limit in force from now on, and keeps what it was until now. Its row stays the same, so
 * that movers who wait for it find the new one. How it counts stays as it is where that is left out.
 * @param byId who says so
 */
export async function setLimit(
  tx: Transaction,
  owner: LimitOwner,
  limit: ColumnLimit & Partial<LimitCounting>,
  byId: string | null = null,
): Promise<void> {
  const [was] = await tx
    .select()
    .from(wipLimit)
    .where(inForce(owner.kind, [owner.id], owner.of))
    .for("update");
  const known = was ?? { ...NO_LIMIT, ...PLAIN_COUNTING };
  const next = { ...boundsOf(limit), ...countingOf({ ...countingOf(known), ...limit }) };
  if (same({ ...boundsOf(known), ...countingOf(known) }, next)) return;
  const now = Date.now();
  if (!was) {
    const { projectId, kind: ownerKind, id: ownerId, of } = owner;
    const row = { id: newId(), projectId, ownerKind, ownerId, ...of, ...next };
    await tx.insert(wipLimit).values({ ...row, byId, validFrom: now });
    return;
  }
  await tx.insert(wipLimit).values({ ...was, id: newId(), validTo: now });
  await tx
    .update(wipLimit)
    .set({ ...next, byId, validFrom: now })
    .where(eq(wipLimit.id, was.id));
}

/** What of a column decides whose limit it shows. */
type LimitedPart = Pick<Column, "id" | "stateIds">;

/** A column of exactly one state shows the limit of that state; every other one has its own. */
export const ownerOfLimit = (projectId: string, { id, stateIds }: LimitedPart): LimitOwner =>
  stateIds.length === 1
    ? { projectId, kind: "state", id: stateIds[0] }
    : { projectId, kind: "column", id };

/**
 * After a change of what columns show: a limit of a column that shows one state now becomes that
 * state's; where it has one already the stricter of both goes on.
 */
export async function settleLimits(
  tx: Transaction,
  projectId: string,
  columns: readonly LimitedPart[],
): Promise<void> {
  const single = columns.filter((c) => c.stateIds.length === 1);
  const left = await limitsInForce(
    tx,
    "column",
    single.map((c) => c.id),
  );
  for (const column of single.filter((c) => left.has(c.id))) {
    const owner = ownerOfLimit(projectId, column);
    const known = (await limitsInForce(tx, "state", [owner.id])).get(owner.id) ?? NO_LIMIT;
    await setLimit(tx, owner, stricterLimit(known, left.get(column.id)!));
    await setLimit(tx, { projectId, kind: "column", id: column.id }, NO_LIMIT);
  }
}

/** The workflow with the limits that are in force, whatever its version was published with. */
export async function withLimitsInForce<W extends Pick<Workflow, "states">>(
  reader: Reader,
  workflow: W,
): Promise<W> {
  const limits = await limitsInForce(
    reader,
    "state",
    workflow.states.map((s) => s.id),
  );
  const states = workflow.states.map((s) => ({
    ...s,
    limit: stateLimitOf(limits.get(s.id) ?? NO_LIMIT),
  }));
  return { ...workflow, states };
}

/** Ends the limits of columns, states or boards that are no more, whatever of them they count. */
export async function endLimits(
  tx: Transaction,
  kind: LimitOwnerKind,
  ids: readonly string[],
): Promise<void> {
  if (ids.length === 0) return;
  await tx.update(wipLimit).set({ validTo: Date.now() }).where(ofAny(kind, ids));
}

/** Puts the limits in force that a published workflow has for its states. */
export async function setStateLimits(
  tx: Transaction,
  projectId: string,
  { states }: Workflow,
): Promise<void> {
  for (const { id, limit } of states)
    await setLimit(tx, { projectId, kind: "state", id }, limitOfState(limit));
}
