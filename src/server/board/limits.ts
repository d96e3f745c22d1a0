import { and, eq, inArray, isNull } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { NO_LIMIT, type ColumnLimit, type LimitOwnerKind } from "@/core/board/limit";
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
  for (const { id, limit } of states) {
    const { max, firm } = limit ?? { max: null, firm: false };
    await setLimit(tx, { projectId, kind: "state", id }, { ...NO_LIMIT, max, maxFirm: firm });
  }
}
