import { and, between, eq, inArray, or, sql, type SQL } from "drizzle-orm";
import type { ItemsQuery } from "@/core/find/contract";
import type { FoundItem, FoundItems } from "@/core/find/found";
import type { Fit } from "@/core/find/how-well";
import { numbersBeginning, readWanted, type KeyPart, type Wanted } from "@/core/find/wanted";
import { alias } from "drizzle-orm/pg-core";
import { database, type Reader } from "@/db/connection";
import { item, person, project, state } from "@/db/schema";
import { seenIn } from "../item/list/enter";
import { readCursor } from "../item/list/cursor";
import type { ListKey } from "../item/list/key";
import { readPage } from "../item/list/read";
import { hasKey } from "../item/key";
import { visibleProjects, type ProjectRow } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid } from "../refused";
import { beginsSo, excerpt, excerptOf, hasAllIn, hasPartsIn, hasWords } from "./words";

/** So many items are told at once. */
export const FOUND_AT_ONCE = 12;

/**
 * Items whose key or words fit, in the projects a person may see: what is called so first, then what
 * is open, then what is of the project in which one is, then what changed last.
 * @throws Refused where the list does not go on there
 */
export async function findItems(
  viewer: Viewer,
  { q, project: key, at, after }: ItemsQuery,
  limit = FOUND_AT_ONCE,
): Promise<FoundItems> {
  const reader = database();
  const all = await visibleProjects(reader, viewer);
  return itemsIn(
    reader,
    viewer,
    all.filter((one) => key === undefined || one.key === key),
    { wanted: readWanted(q), here: at, after, limit },
  );
}

interface ItemsAsked {
  wanted: Wanted;
  /** Key of the project in which one is: of two that fit as well its items stand first. */
  here?: string;
  after?: string;
  limit: number;
}

/** The same, in some projects that a person may see. */
export async function itemsIn(
  reader: Reader,
  viewer: Viewer,
  projects: readonly ProjectRow[],
  { wanted, here, after, limit }: ItemsAsked,
): Promise<FoundItems> {
  if (wanted.words.length === 0 || projects.length === 0) return { rows: [], next: null };
  const keys = bestFirst(wanted, projects, here);
  const from = after === undefined ? null : readCursor(after, keys.length);
  if (after !== undefined && from === null)
    throw invalid("This search does not go on there.", "Look for it again.");
  const ids = projects.map(({ id }) => id);
  const seen = seenIn(reader, viewer, ids);
  const of = { reader, where: and(seen.where, fits(wanted, projects)) };
  const { rows, next } = await readPage(of, keys, { after: from, limit });
  const fitOf = new Map(rows.map((row) => [row.id as string, row.fit as Fit]));
  return { rows: await told(reader, fitOf, wanted), next };
}

/** What is called so first, then what is open, then what is of this project, then what changed last. */
const bestFirst = (
  wanted: Wanted,
  projects: readonly ProjectRow[],
  here: string | undefined,
): ListKey[] => [
  { name: "fit", value: fitColumn(wanted, projects), type: "float8", descending: false },
  {
    name: "over",
    value: sql`(${item.stateKind} = 'finished')::int::float8`,
    type: "float8",
    descending: false,
  },
  {
    name: "elsewhere",
    value: sql`(${item.projectId} <> ${projects.find(({ key }) => key === here)?.id ?? ""})::int::float8`,
    type: "float8",
    descending: false,
  },
  {
    name: "changed",
    value: sql`extract(epoch from ${item.updatedAt})::float8`,
    type: "float8",
    descending: true,
  },
  { name: "id", value: sql`(${item.id}::text) collate "C"`, type: "text", descending: false },
];

const within = alias(item, "within");

/**
 * The two indexes are asked one after the other: asked together, the database would read the text of
 * each item that the exact one has found already once more, because the one of parts is not exact.
 * What they find is an array, so that it is made once, whatever the database expects of it.
 */
function hasTheWords(wanted: Wanted, projectIds: readonly string[]): SQL {
  const document = sql`to_tsvector('english', ${within.title} || ' ' || ${within.description})`;
  const found = (which: SQL) =>
    sql`select ${within.id} from ${item} as ${sql.identifier("within")} where ${inArray(within.projectId, [...projectIds])} and ${which}`;
  return sql`${item.id} = any(array(${found(hasWords(document, wanted))} union all ${found(hasPartsIn(within.title, wanted))}))`;
}

function fits(wanted: Wanted, projects: readonly ProjectRow[]): SQL | undefined {
  const part = hasKeyPart(wanted.keyPart, projects);
  // Who writes a whole key means that item.
  if (wanted.key) return or(hasKey([wanted.key]), part);
  const words = hasTheWords(
    wanted,
    projects.map(({ id }) => id),
  );
  return or(part, words);
}

/** Keys that begin so; of a number alone those that have it. */
function hasKeyPart(part: KeyPart | null, projects: readonly ProjectRow[]): SQL | undefined {
  if (part === null) return undefined;
  const { prefix, digits } = part;
  if (prefix === null) return eq(item.number, Number(digits));
  const ids = projects.filter(({ key }) => key === prefix).map(({ id }) => id);
  if (ids.length === 0) return undefined;
  const begins = numbersBeginning(digits).map(([from, to]) => between(item.number, from, to));
  return and(inArray(item.projectId, ids), or(...begins));
}

/** As `Fit`: how well an item fits. */
function fitColumn(wanted: Wanted, projects: readonly ProjectRow[]): SQL {
  const { key, keyPart } = wanted;
  const part = hasKeyPart(keyPart, projects);
  const cases = [
    ...(key ? [sql`when ${hasKey([key])} then 0`] : []),
    ...(part ? [sql`when ${part} then 1`] : []),
    sql`when ${beginsSo(item.title, wanted)} then 1`,
    sql`when ${hasAllIn(item.title, wanted)} then 2`,
  ];
  return sql`(case ${sql.join(cases, sql` `)} else 4 end)::float8`;
}

/** What is told of items that were found, in their order. */
async function told(
  reader: Reader,
  fitOf: ReadonlyMap<string, Fit>,
  wanted: Wanted,
): Promise<FoundItem[]> {
  const inText = [...fitOf].filter(([, fit]) => fit === 4).map(([id]) => id);
  const rows = await reader
    .select({
      id: item.id,
      projectKey: project.key,
      number: item.number,
      title: item.title,
      stateName: state.name,
      finished: sql<boolean>`${item.stateKind} = 'finished'`,
      projectName: project.name,
      typeId: item.typeId,
      assignee: person.name,
      inTitle: hasAllIn(item.title, wanted).mapWith(Boolean),
      excerpt: sql<
        string | null
      >`case when ${inText.length === 0 ? sql`false` : inArray(item.id, inText)} then ${excerpt(item.description, wanted)} end`,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .where(inArray(item.id, [...fitOf.keys()]));
  const known = new Map(rows.map((row) => [row.id, row]));
  return [...fitOf].flatMap(([id, fit]) => {
    const row = known.get(id);
    if (!row) return [];
    const { projectKey, number, inTitle, excerpt: marked, ...rest } = row;
    const by = fit === 4 ? "text" : inTitle ? "title" : "key";
    return [{ ...rest, key: `${projectKey}-${number}`, fit, by, excerpt: excerptOf(marked) }];
  });
}
