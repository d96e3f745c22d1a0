import { and, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import type { OutsideFact } from "@/core/item/outside";
import type { Reader, Transaction } from "@/db/connection";
import { codeCommit, itemCode } from "@/db/schema";
import { amongGiven, namedQuery } from "@/db/statement";

/** What of a repository belongs to an item. */
export type CodeLink = typeof itemCode.$inferInsert;

/** Something that an item is to be told. */
export interface Told {
  itemId: string;
  fact: OutsideFact;
}

/** Links what belongs to items. @returns the links that were not there before */
export async function linkCode(tx: Transaction, links: readonly CodeLink[]): Promise<CodeLink[]> {
  if (links.length === 0) return [];
  return tx
    .insert(itemCode)
    .values([...links])
    .onConflictDoNothing()
    .returning();
}

/** The items that a branch, a change or a commit belongs to. */
export async function itemsOfCode(
  reader: Reader,
  repositoryId: string,
  kind: CodeLink["kind"],
  names: readonly string[],
): Promise<{ itemId: string; name: string }[]> {
  if (names.length === 0) return [];
  return OF_CODE(reader, { repositoryId, kind, names: [...names] });
}

const OF_CODE = namedQuery("the items of code", (reader) =>
  reader
    .select({ itemId: itemCode.itemId, name: itemCode.name })
    .from(itemCode)
    .where(
      and(
        eq(itemCode.repositoryId, sql.placeholder("repositoryId")),
        eq(itemCode.kind, sql.placeholder("kind")),
        amongGiven(itemCode.name, "names", "text"),
      ),
    )
    .orderBy(itemCode.itemId),
);

/**
 * The items that the work on a branch belongs to: by its name, or by what the commits that were pushed
 * to it say, as far as they are on it still.
 */
export async function itemsOfBranch(
  reader: Reader,
  repositoryId: string,
  branch: string,
): Promise<Set<string>> {
  const onBranch = reader
    .select({ hash: codeCommit.hash })
    .from(codeCommit)
    .where(and(eq(codeCommit.repositoryId, repositoryId), eq(codeCommit.branch, branch)));
  const belongs = or(
    and(eq(itemCode.kind, "branch"), eq(itemCode.name, branch)),
    and(eq(itemCode.kind, "commit"), inArray(itemCode.name, onBranch)),
  ) as SQL;
  const rows = await reader
    .selectDistinct({ itemId: itemCode.itemId })
    .from(itemCode)
    .where(and(eq(itemCode.repositoryId, repositoryId), belongs));
  return new Set(rows.map(({ itemId }) => itemId));
}
