import { and, eq, isNull } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { parseItemKey } from "@/core/item/key";
import type { Reader, Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { seesItem, type ProjectAccess } from "../people/access";
import type { Principal } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { hasKey } from "./key";
import { snapshotOf } from "./rows";

/*
 * The way to an item that somebody names beside the one they act on: to link it, stand under or
 * below it, merge into it, wait for it. What they may not see is not there: no answer, lock or
 * change tells the two apart.
 */

/** Null where there is none that they may see, or it was withdrawn. */
export async function seenItem(
  tx: Reader,
  viewer: Principal,
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
export async function lockSeenItem({
  tx,
  viewer,
  projectId,
  itemId,
  asked,
}: {
  tx: Transaction;
  viewer: Principal;
  projectId: string;
  itemId: string;
  asked: string;
}): Promise<ItemSnapshot> {
  const [row] = await tx
    .select()
    .from(item)
    .where(and(eq(item.projectId, projectId), eq(item.id, itemId), seesItem(tx, viewer)))
    .for("update");
  if (!row) throw notFound(asked);
  return snapshotOf(row);
}

/**
 * Locked until the transaction ends. @throws Refused when the key is none of the project, or of no
 * item that they may see
 */
export async function lockSeenItemByKey(
  tx: Transaction,
  viewer: Principal,
  access: ProjectAccess,
  key: string,
): Promise<ItemSnapshot> {
  const parsed = parseItemKey(key);
  if (!parsed) throw otherProject(key, access);
  const named = and(eq(item.projectId, access.project.id), hasKey([parsed]), seesItem(tx, viewer));
  const [row] = await tx.select().from(item).where(named).for("update");
  if (!row && parsed.prefix !== access.project.key) throw otherProject(key, access);
  if (!row) throw notFound("item");
  return snapshotOf(row);
}

const otherProject = (key: string, { project }: ProjectAccess) =>
  invalid(
    `${key.trim() || "That"} is no key of an item in this project.`,
    `Write a key such as ${project.key}-12.`,
  );
