import type { KnownTest } from "@/core/ship/testing/known-test";
import type { Reader } from "@/db/connection";
import { lastWithout } from "@/core/ship/testing/known-test";
import { sql } from "drizzle-orm";
import { codeCommit } from "@/db/schema";
import { casesOfItems } from "./case-rows";
import { commitsOf } from "../item-commits";
import { machinesOfCases } from "./machine-rows";

/**
 * What is known of the tests of an item before it is built: its cases, and of those that a machine carries
 * out what the last result without the item's own change was.
 */
export async function knownTests(reader: Reader, itemId: string): Promise<KnownTest[]> {
  const cases = (await casesOfItems(reader, [itemId])).get(itemId) ?? [];
  if (cases.length === 0) return [];
  const [machines, commits] = await Promise.all([
    machinesOfCases(
      reader,
      cases.map(({ id }) => id),
    ),
    commitsOf(reader, itemId),
  ]);
  const merged = commits.flatMap(({ mainAt }) => mainAt ?? []);
  const changedAt = merged.length > 0 ? Math.min(...merged) : null;
  const own = new Set(commits.map(({ hash }) => hash));
  const hashes = [...machines.values()]
    .flat()
    .flatMap(({ results }) => results.map(({ commit }) => commit));
  const onMain = await mainAmong(reader, hashes);
  return cases.map(({ id, number, title }) => {
    const results = (machines.get(id) ?? []).flatMap((one) => one.results);
    return {
      ...{ number, title, automatic: machines.has(id) },
      lastWithout: lastWithout(results, { own, onMain, changedAt }),
    };
  });
}

/** Which of some commits are on main. */
async function mainAmong(reader: Reader, hashes: readonly string[]): Promise<Set<string>> {
  if (hashes.length === 0) return new Set();
  const rows = await reader
    .selectDistinct({ hash: codeCommit.hash })
    .from(codeCommit)
    .where(
      sql`${codeCommit.hash} = any(${sql.param([...new Set(hashes)])}::text[])
        and ${codeCommit.mainAt} is not null`,
    );
  return new Set(rows.map(({ hash }) => hash));
}
