import { and, eq, inArray } from "drizzle-orm";
import type { Transaction } from "@/db/connection";
import { follow } from "@/db/schema";
import { termTarget } from "../../alerts/follow";
import { renameOnItems } from "../store-renamed";
import { renameOnReports } from "../../intake/store";
import { renameInConditions } from "./rename-in-conditions";
import type { Renaming } from "./renaming";

/**
 * Calls a word otherwise wherever it is said now: on items, where it is followed, in conditions.
 * What histories tell of it stays as it was said. The commands
 * on items of the project have to have been stopped.
 * @returns how many items said it
 */
export async function renameEverywhere(tx: Transaction, renaming: Renaming): Promise<number> {
  const items = await renameOnItems(tx, renaming);
  if (renaming.kind === "part") await renameOnReports(tx, renaming);
  await renameFollowed(tx, renaming);
  await renameInConditions(tx, renaming);
  return items;
}

/** Whoever follows the one follows the other; who follows both follows it once. */
async function renameFollowed(
  tx: Transaction,
  { projectId, kind, from, to }: Renaming,
): Promise<void> {
  const [was, is] = [termTarget(projectId, from), termTarget(projectId, to)];
  const both = await tx
    .select({ personId: follow.personId })
    .from(follow)
    .where(and(eq(follow.kind, kind), eq(follow.target, is)));
  const people = both.map(({ personId }) => personId);
  const before = and(eq(follow.kind, kind), eq(follow.target, was));
  if (people.length > 0)
    await tx.delete(follow).where(and(before, inArray(follow.personId, people)));
  await tx.update(follow).set({ target: is }).where(before);
}
