import { and, eq, isNull } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { seesItem, type ProjectAccess } from "../people/access";
import type { Doer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { snapshotOf } from "./rows";

/*
 * The way to an item that somebody names beside the one they act on: to link it, stand under or
 * below it, merge into it, wait for it. What they may not see is not there: no answer, lock or
 * change tells the two apart.
 */

/** Null where there is none that they may see, or it was withdrawn. */
export async function seenItem(
  tx: Transaction,
  viewer: Doer,
  projectId: string,
  itemId: string,
): Promise<ItemSnapshot | null> {
  const [row] = await tx
    .select()
    .from(item)
    .where(
      and(
        eq(item.projectId, projectId),
        eq(item.id, itemId),
        isNull(item.withdrawnAt),
        seesItem(tx, viewer),
      ),
    );
  return row ? snapshotOf(row) : null;
}

/**
 * Locked until the transaction ends, withdrawn ones too. @throws Refused where there is none that
 * they may see
 */
export async function lockSeenItem(
  tx: Transaction,
  viewer: Doer,
  projectId: string,
  itemId: string,
  asked: string,
): Promise<ItemSnapshot> {
  const [row] = await tx
    .select()
    .from(item)
    .where(and(eq(item.projectId, projectId), eq(item.id, itemId), seesItem(tx, viewer)))
    .for("update");
  if (!row) throw notFound(asked);
  return snapshotOf(row);
}

const KEY = /^([A-Z][A-Z0-9]{0,19})-(\d{1,9})$/;

/**
 * Locked until the transaction ends. @throws Refused when the key is none of the project, or of no
 * item that they may see
 */
export async function lockSeenItemByKey(
  tx: Transaction,
  viewer: Doer,
  access: ProjectAccess,
  key: string,
): Promise<ItemSnapshot> {
  const [, prefix, number] = KEY.exec(key.trim().toUpperCase()) ?? [];
  if (prefix !== access.project.key)
    throw invalid(
      `${key.trim() || "That"} is no key of an item in this project.`,
      `Write a key such as ${access.project.key}-12.`,
    );
  const named = and(
    eq(item.projectId, access.project.id),
    eq(item.number, Number(number)),
    seesItem(tx, viewer),
  );
  const [row] = await tx.select().from(item).where(named).for("update");
  if (!row) throw notFound("item");
  return snapshotOf(row);
}
