import { sql, type SQL } from "drizzle-orm";
import type { Reader } from "@/db/connection";
import { codeChange, codeCommit, itemCode } from "@/db/schema";
import { amongGiven } from "@/db/statement";

const COLUMNS = sql`l.item_id, c.repository_id, c.hash, c.main_at, c.reverted_by`;

/**
 * The commits that belong to items, as a part of a query: those that name one, those on a branch and
 * those of a change that does. Each once: its columns are `item_id`, `repository_id`, `hash`, `main_at`
 * and `reverted_by`.
 * @param of which links to items are looked at
 */
export const commitsOfItems = (of: SQL): SQL => sql`
  select ${COLUMNS} from ${itemCode} l
  join ${codeCommit} c on c.repository_id = l.repository_id and c.hash = l.name
  where l.kind = 'commit' and ${of}
  union
  select ${COLUMNS} from ${itemCode} l
  join ${codeCommit} c on c.repository_id = l.repository_id and c.branch = l.name
  where l.kind = 'branch' and ${of}
  union
  select ${COLUMNS} from ${itemCode} l
  join ${codeChange} h on h.repository_id = l.repository_id and h.name = l.name
  join ${codeCommit} c on c.repository_id = l.repository_id and c.branch = h.branch
  where l.kind = 'change' and ${of}`;

/** As what is looked at: the links of some items. */
export const linksOfItems = (itemIds: readonly string[]): SQL =>
  sql`l.item_id = any(${sql.param([...itemIds])}::uuid[])`;

/** The same of items that are given to a statement with a name. */
export const LINKS_OF_GIVEN = amongGiven(sql`l.item_id`, "itemIds", "uuid");

const MEANT = sql`c.repository_id = ${sql.placeholder("repositoryId")}::uuid
  and ${amongGiven(sql`c.hash`, "hashes", "text")}`;

/** The other way round: the items that given commits of a repository belong to. */
export const ITEMS_OF_HASHES = sql`
    select l.item_id from ${codeCommit} c
    join ${itemCode} l on l.repository_id = c.repository_id and l.kind = 'commit' and l.name = c.hash
    where ${MEANT}
    union
    select l.item_id from ${codeCommit} c
    join ${itemCode} l on l.repository_id = c.repository_id and l.kind = 'branch' and l.name = c.branch
    where ${MEANT}
    union
    select l.item_id from ${codeCommit} c
    join ${codeChange} h on h.repository_id = c.repository_id and h.branch = c.branch
    join ${itemCode} l on l.repository_id = c.repository_id and l.kind = 'change' and l.name = h.name
    where ${MEANT}`;

/** The commits of an item, on main or not. */
export async function commitsOf(
  reader: Reader,
  itemId: string,
): Promise<{ repositoryId: string; hash: string; mainAt: number | null }[]> {
  const { rows } = await reader.execute<{
    repository_id: string;
    hash: string;
    main_at: number | null;
  }>(sql`
    select o.repository_id, o.hash, (extract(epoch from o.main_at) * 1000)::float8 as main_at
    from (${commitsOfItems(linksOfItems([itemId]))}) o`);
  return rows.map((row) => ({
    ...{ repositoryId: row.repository_id, hash: row.hash, mainAt: row.main_at },
  }));
}
