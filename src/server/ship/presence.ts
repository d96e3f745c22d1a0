import { and, ne, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import {
  factsOfPresence,
  presencesOf,
  type DeployedPart,
  type MergedCommit,
  type Presence,
  type Standing,
} from "@/core/ship/what-is-where";
import { outsideAfter } from "@/core/item/outside";
import type { Reader } from "@/db/connection";
import { deployment } from "@/db/schema";
import { amongGiven, givenArray, namedQuery, namedSql, namedTemplate } from "@/db/statement";
import { outsideOf } from "../item/items-named";
import { commitsOfItems, ITEMS_OF_HASHES, LINKS_OF_GIVEN } from "./item-commits";
import type { Told } from "./item-code";
import { forget, readOnce, type Post, type Taking } from "./taking";

/** What is needed to say where items are. */
interface PresenceRows {
  /** By the items' ids. */
  merged: ReadonlyMap<string, MergedCommit[]>;
  standings: Standing[];
  parts: DeployedPart[];
}

/** Where items are. */
export interface ItemsPresence extends PresenceRows {
  /** What is deployed where, with what the environment is called. */
  parts: (DeployedPart & { called: string })[];
  /** Of one of the items that were asked for. */
  of: (itemId: string) => Presence[];
}

/** Where each of some items is: its commits are looked up, whatever else stands anywhere. */
export function presenceByItem({
  merged,
  standings,
  parts,
}: PresenceRows): (itemId: string) => Presence[] {
  const ofHash = grouped(standings, ({ hash }) => hash);
  return (itemId) => {
    const commits = merged.get(itemId) ?? [];
    if (commits.length === 0) return [];
    const own = commits.flatMap(({ hash, revertedBy }) => [
      ...(ofHash.get(hash) ?? []),
      ...(revertedBy === null ? [] : (ofHash.get(revertedBy) ?? [])),
    ]);
    return presencesOf(commits, own, ofRepositories(parts, commits));
  };
}

const MERGED_OF_ITEMS = namedTemplate<{
  item_id: string;
  repository_id: string;
  hash: string;
  merged_at: number;
  reverted_by: string | null;
}>(
  "what was merged of items",
  sql`
    select o.item_id, o.repository_id, o.hash, o.reverted_by,
      (extract(epoch from o.main_at) * 1000)::float8 as merged_at
    from (${commitsOfItems(LINKS_OF_GIVEN)}) o
    where o.main_at is not null`,
);

/** Reads what was merged for some items, and where it stands. */
export async function readPresence(
  reader: Reader,
  itemIds: readonly string[],
  partsOf = (repositoryIds: readonly string[]) => readParts(reader, repositoryIds),
): Promise<ItemsPresence> {
  if (itemIds.length === 0) return { merged: new Map(), standings: [], parts: [], of: () => [] };
  const rows = await MERGED_OF_ITEMS(reader, { itemIds: [...itemIds] });
  const commits = rows.map((row) => ({
    itemId: row.item_id,
    repositoryId: row.repository_id,
    hash: row.hash,
    mergedAt: row.merged_at,
    revertedBy: row.reverted_by,
  }));
  const hashes = commits.flatMap(({ hash, revertedBy }) => [hash, revertedBy ?? []].flat());
  const repositoryIds = [...new Set(commits.map(({ repositoryId }) => repositoryId))];
  const [standings, parts] = await Promise.all([
    readStandings(reader, repositoryIds, [...new Set(hashes)]),
    partsOf(repositoryIds),
  ]);
  const found = { merged: grouped(commits, ({ itemId }) => itemId), standings, parts };
  return { ...found, of: presenceByItem(found) };
}

/** What was merged of some items and is deployed anywhere, by the items' ids. */
export async function deployedOfItems(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, (MergedCommit & { name: string })[]>> {
  const { merged, standings } = await readPresence(reader, itemIds);
  const nameOf = ({ repositoryId, hash }: Pick<MergedCommit, "repositoryId" | "hash">) =>
    `${repositoryId} ${hash}`;
  const stands = new Set(standings.map(nameOf));
  return new Map(
    [...merged].map(([itemId, commits]) => [
      itemId,
      commits.map((one) => ({ ...one, name: nameOf(one) })).filter(({ name }) => stands.has(name)),
    ]),
  );
}

const STANDINGS = namedSql<{
  repository_id: string;
  hash: string;
  environment: string;
  part: string;
  since: number;
}>(
  "where commits stand",
  `select repository_id, hash, environment, part,
     (extract(epoch from since) * 1000)::float8 as since
   from commit_standing
   where repository_id = any(${givenArray("$1::uuid[]")})
     and hash = any(${givenArray("$2::text[]")}) and gone_at is null`,
);

async function readStandings(
  reader: Reader,
  repositoryIds: readonly string[],
  hashes: readonly string[],
): Promise<Standing[]> {
  const rows = await STANDINGS(reader, [[...repositoryIds], [...hashes]]);
  return rows.map(({ repository_id: repositoryId, ...standing }) => ({
    repositoryId,
    ...standing,
  }));
}

const PARTS_OF = "what is deployed where, of";

/** What was deployed meanwhile is read anew. */
export const forgetParts = (post: Post): void => forget(post, PARTS_OF);

/** What was ever deployed where, of some repositories. */
export const readParts = (reader: Reader, repositoryIds: readonly string[]) =>
  PARTS(reader, { repositoryIds: [...repositoryIds] });

const PARTS = namedQuery("what is deployed where", (reader) =>
  reader
    .select({
      repositoryId: deployment.repositoryId,
      environment: deployment.environment,
      part: deployment.part,
      called: sql<string>`max(${deployment.called})`,
    })
    .from(deployment)
    .where(
      and(
        amongGiven(deployment.repositoryId, "repositoryIds", "uuid"),
        ne(deployment.outcome, "failed"),
      ),
    )
    .groupBy(deployment.repositoryId, deployment.environment, deployment.part),
);

/**
 * What the items of some commits have to be told, so that they know where they are.
 * @param hashes commits of a repository that came somewhere, left, or are on main since now
 */
export const tellPresence = async (taking: Taking, hashes: readonly string[]): Promise<Told[]> =>
  tellItemsPresence(taking, await itemsOfCommits(taking.tx, taking.repositoryId, hashes));

/** What some items have to be told, so that they know where they are. */
export async function tellItemsPresence(post: Post, itemIds: readonly string[]): Promise<Told[]> {
  if (itemIds.length === 0) return [];
  const { tx, told } = post;
  const { merged, parts, of } = await readPresence(tx, itemIds, (repositoryIds) =>
    readOnce(post, `${PARTS_OF} ${repositoryIds.toSorted().join()}`, () =>
      readParts(tx, repositoryIds),
    ),
  );
  if (parts.length === 0) return [];
  const heard = new Map(parts.map(({ environment, called }) => [environment, called]));
  const rows = await outsideOf(tx, itemIds);
  return rows.flatMap(({ id, outside }) => {
    if (!merged.has(id)) return [];
    // What it is told already by the same post, it knows.
    const { deployedTo } = told
      .filter(({ itemId }) => itemId === id)
      .reduce((known, { fact }) => outsideAfter(known, fact), outside);
    return factsOfPresence(of(id), deployedTo, heard).map((fact) => ({
      itemId: id,
      fact,
    }));
  });
}

/** Parts of the repositories that some commits are in. */
function ofRepositories(
  parts: readonly DeployedPart[],
  commits: readonly MergedCommit[],
): DeployedPart[] {
  const own = new Set(commits.map(({ repositoryId }) => repositoryId));
  return parts.filter(({ repositoryId }) => own.has(repositoryId));
}

const ITEMS_OF_COMMITS = namedTemplate<{ item_id: string }>(
  "the items of commits",
  ITEMS_OF_HASHES,
);

/** The items that some commits of a repository belong to. */
export async function itemsOfCommits(
  reader: Reader,
  repositoryId: string,
  hashes: readonly string[],
): Promise<string[]> {
  if (hashes.length === 0) return [];
  const rows = await ITEMS_OF_COMMITS(reader, { repositoryId, hashes: [...hashes] });
  return rows.map((row) => row.item_id);
}
