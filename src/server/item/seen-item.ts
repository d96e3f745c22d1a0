import { and, eq, isNull, type SQL } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import { parseItemKey } from "@/core/item/key";
import type { Reader, Transaction } from "@/db/connection";
import { item, project } from "@/db/schema";
import { seesAnywhere, seesItem, type ProjectAccess } from "../people/access";
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

/** Whether there is such an item in any project that they may see, which was not withdrawn. */
export async function seesOther(
  reader: Reader,
  viewer: Principal,
  itemId: string,
): Promise<boolean> {
  const [row] = await reader
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.id, itemId), isNull(item.withdrawnAt), seesAnywhere(reader, viewer)));
  return row !== undefined;
}

/** An item of any project, with the key that it is called by. */
export interface OtherItem extends ItemSnapshot {
  key: string;
}

/**
 * The other end of a link, in whatever project it is, locked until the transaction ends; withdrawn
 * ones too.
 * @throws Refused where there is none that they may see
 */
export async function lockOther(
  tx: Transaction,
  viewer: Principal,
  itemId: string,
  asked: string,
): Promise<OtherItem> {
  return lockAnywhere(tx, viewer, eq(item.id, itemId), asked);
}

/** The same by its key. @throws Refused when the key is of no item that they may see */
export async function lockOtherByKey(
  tx: Transaction,
  viewer: Principal,
  key: string,
): Promise<OtherItem> {
  const parsed = parseItemKey(key);
  if (!parsed)
    throw invalid(
      `${key.trim() || "That"} is no key of an item.`,
      "Write a key, or choose an item by its words.",
    );
  return lockAnywhere(tx, viewer, hasKey([parsed]), "item");
}

async function lockAnywhere(
  tx: Transaction,
  viewer: Principal,
  which: SQL,
  asked: string,
): Promise<OtherItem> {
  const [row] = await tx
    .select({ item, prefix: project.key })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(and(which, seesAnywhere(tx, viewer)))
    .for("update", { of: item });
  if (!row) throw notFound(asked);
  return { ...snapshotOf(row.item), key: `${row.prefix}-${row.item.number}` };
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
