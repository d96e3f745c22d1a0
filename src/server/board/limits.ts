import { and, eq, inArray, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Column } from "@/core/board/column";
import {
  isLimited,
  limitOfState,
  NO_LIMIT,
  stateLimitOf,
  stricterLimit,
  type ColumnLimit,
  type LimitOwnerKind,
} from "@/core/board/limit";
import type { Workflow } from "@/core/workflow/workflow";
import { same } from "@/core/workflow/same";
import type { Reader, Transaction } from "@/db/connection";
import { wipLimit } from "@/db/schema";

export interface LimitOwner {
  projectId: string;
  kind: LimitOwnerKind;
  id: string;
}

const inForce = (kind: LimitOwnerKind, ids: readonly string[]) =>
  and(eq(wipLimit.ownerKind, kind), inArray(wipLimit.ownerId, [...ids]), isNull(wipLimit.validTo));

/** A limit without whose it is. */
export const limitOf = ({ min, max, minFirm, maxFirm }: ColumnLimit): ColumnLimit => ({
  min,
  max,
  minFirm,
  maxFirm,
});

/** The limits in force of some columns or states, by their ids; those without any are left out. */
export async function limitsInForce(
  reader: Reader,
  kind: LimitOwnerKind,
  ids: readonly string[],
): Promise<Map<string, ColumnLimit>> {
  if (ids.length === 0) return new Map();
  const rows = await reader.select().from(wipLimit).where(inForce(kind, ids));
  return new Map(rows.map((row) => [row.ownerId, limitOf(row)]));
}

/**
 * Puts a limit in force from now on, and keeps what it was until now. Its row stays the same, so
 * that movers who wait for it find the new one.
 */
export async function setLimit(
  tx: Transaction,
  owner: LimitOwner,
  limit: ColumnLimit,
): Promise<void> {
  const [was] = await tx
    .select()
    .from(wipLimit)
    .where(inForce(owner.kind, [owner.id]))
    .for("update");
  if (same(limitOf(was ?? NO_LIMIT), limitOf(limit))) return;
  const now = Date.now();
  if (!was) {
    const { projectId, kind: ownerKind, id: ownerId } = owner;
    const row = { id: newId(), projectId, ownerKind, ownerId, ...limitOf(limit), validFrom: now };
    await tx.insert(wipLimit).values(row);
    return;
  }
  await tx.insert(wipLimit).values({ ...was, id: newId(), validTo: now });
  await tx
    .update(wipLimit)
    .set({ ...limitOf(limit), validFrom: now })
    .where(eq(wipLimit.id, was.id));
}

/** What of a column decides whose limit it shows. */
type LimitedPart = Pick<Column, "id" | "stateIds">;

/** A column of exactly one state shows the limit of that state; every other one has its own. */
export const ownerOfLimit = (projectId: string, { id, stateIds }: LimitedPart): LimitOwner =>
  stateIds.length === 1
    ? { projectId, kind: "state", id: stateIds[0] }
    : { projectId, kind: "column", id };

/** The limit that each column shows, and those that states of a column of several have. */
export async function columnLimits(
  reader: Reader,
  columns: readonly LimitedPart[],
): Promise<(column: LimitedPart) => Pick<Column, keyof ColumnLimit | "stateLimits">> {
  const ofColumns = await limitsInForce(
    reader,
    "column",
    columns.map((c) => c.id),
  );
  const ofStates = await limitsInForce(
    reader,
    "state",
    columns.flatMap((c) => c.stateIds),
  );
  return ({ id, stateIds }) => {
    if (stateIds.length === 1)
      return { ...(ofStates.get(stateIds[0]) ?? NO_LIMIT), stateLimits: {} };
    const limited = stateIds.filter((s) => isLimited(ofStates.get(s) ?? NO_LIMIT));
    return {
      ...(ofColumns.get(id) ?? NO_LIMIT),
      stateLimits: Object.fromEntries(limited.map((s) => [s, ofStates.get(s)!])),
    };
  };
}

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
    await endLimits(tx, "column", [column.id]);
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

/** Ends the limits of columns or states that are no more. */
export async function endLimits(
  tx: Transaction,
  kind: LimitOwnerKind,
  ids: readonly string[],
): Promise<void> {
  if (ids.length === 0) return;
  await tx.update(wipLimit).set({ validTo: Date.now() }).where(inForce(kind, ids));
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
