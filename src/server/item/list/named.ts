import { and, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { TestResult } from "@/core/item/outside";
import type { StateKind } from "@/core/workflow/state";
import { database, type Reader } from "@/db/connection";
import { item, person, project, state } from "@/db/schema";
import { seesItem, visibleTo } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { hasKeyAmong } from "../key";

/** What names an item to somebody who may see it, wherever it is spoken of. */
export interface NamedRow {
  id: string;
  key: string;
  title: string;
  typeId: string;
  projectId: string;
  projectKey: string;
  projectName: string;
  stateName: string;
  stateKind: StateKind;
  assigneeId: string | null;
  assignee: string | null;
  reviewerId: string | null;
  /** What its last test run said; null where none was told of. */
  testResult: TestResult | null;
  withdrawn: boolean;
}

const columns = {
  id: item.id,
  number: item.number,
  title: item.title,
  typeId: item.typeId,
  projectId: item.projectId,
  projectKey: project.key,
  projectName: project.name,
  stateName: state.name,
  stateKind: item.stateKind,
  assigneeId: item.assigneeId,
  assignee: person.name,
  reviewerId: item.reviewerId,
  testResult: sql<TestResult | null>`${item.outside} ->> 'testResult'`,
  withdrawn: sql<boolean>`${item.withdrawnAt} is not null`,
};

/** Items that are meant, those that were withdrawn too, as far as somebody may see them. */
async function namedWhere(
  reader: Reader,
  viewer: Viewer,
  which: SQL | undefined,
): Promise<NamedRow[]> {
  const rows = await reader
    .select(columns)
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .where(and(which, visibleTo(reader, viewer), seesItem(reader, viewer)));
  return rows.map(({ number, ...row }) => ({ ...row, key: `${row.projectKey}-${number}` }));
}

/** Some items by their ids, as far as somebody may see them. */
export async function namedItems(
  viewer: Viewer,
  ids: readonly string[],
  reader: Reader = database(),
): Promise<Map<string, NamedRow>> {
  if (ids.length === 0) return new Map();
  const rows = await namedWhere(reader, viewer, inArray(item.id, [...new Set(ids)]));
  return new Map(rows.map((row) => [row.id, row]));
}

/** Items by their keys, as far as somebody may see them; by the key that is theirs now. */
export async function namedByKeys(
  viewer: Viewer,
  keys: readonly string[],
): Promise<Map<string, NamedRow>> {
  if (keys.length === 0) return new Map();
  const rows = await namedWhere(database(), viewer, hasKeyAmong([...keys]));
  return new Map(rows.map((row) => [row.key, row]));
}

/** Of some items the ones that a person may see and that are not withdrawn. */
export async function seenOf(viewer: Viewer, ids: readonly string[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const db = database();
  const rows = await db
    .select({ id: item.id })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(
        sql`${item.id} = any(${sql.param([...ids])}::uuid[])`,
        visibleTo(db, viewer),
        seesItem(db, viewer),
        isNull(item.withdrawnAt),
      ),
    );
  return new Set(rows.map((row) => row.id));
}
