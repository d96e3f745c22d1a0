import { and, inArray, isNull } from "drizzle-orm";
import { factsIn, type Condition } from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import type { Instant } from "@/core/calendar/instant";
import { database, type Reader } from "@/db/connection";
import { item } from "@/db/schema";
import { loadBoard } from "../../board/load";
import { standingIn } from "../../board/standing";
import { compileCondition } from "../../condition/compile";
import { groundAsker } from "../../across/asker";
import { enterGround, type Ground } from "../../across/ground";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { knowingPromises } from "../../intake/promise-asker";
import { invalid } from "../../refused";
import { knowingFormerTerms } from "../terms/load";
import { readCursor, type Cursor } from "./cursor";
import { listKeys } from "./key";
import type { ListOf } from "./read";
import type { ListQuery } from "@/core/item/list/query";

export interface EnteredList {
  viewer: Viewer;
  ground: Ground;
  /** All of it that the person may see, what was withdrawn too. */
  seen: ListOf;
}

/**
 * Lets a person in at the items of a project, or of a place above the projects: what is read of
 * them, they may see.
 */
export async function enterList(viewer: Viewer, key: string, now: Instant): Promise<EnteredList> {
  const reader = database();
  const ground = await enterGround(reader, viewer, key, "read project");
  const { asker } = await groundAsker(reader, viewer, ground, now);
  const where = and(ground.items, seesItem(reader, viewer));
  return { viewer, ground, seen: { reader, where, asker } };
}

/** All items that a person may see in some projects, but what was withdrawn. */
export function seenIn(
  reader: Reader,
  viewer: Viewer,
  projectIds: readonly string[],
): Pick<ListOf, "reader" | "where"> {
  const where = and(
    inArray(item.projectId, [...projectIds]),
    isNull(item.withdrawnAt),
    seesItem(reader, viewer),
  );
  return { reader, where };
}

/** Of these items the ones that somebody named, in the order in which they did. */
export const namedOf = ({ seen }: EnteredList, ids: readonly string[]): ListOf => ({
  ...seen,
  where: and(seen.where, inArray(item.id, [...ids])),
  asker: { ...seen.asker, named: ids },
});

/** The same items with all that some facts need to be asked. */
export async function knowing(
  { ground, seen }: Pick<EnteredList, "ground" | "seen">,
  facts: Iterable<FactName>,
): Promise<ListOf> {
  const projects = ground.projects.map((access) => access.project);
  return { ...seen, asker: await knowingPromises(seen.asker, projects, facts) };
}

interface Narrowing {
  /** Whose scope holds; null: whatever the project's boards are about. */
  board: string | null;
  /** Only what stands in the columns of the board, which is the project's first where none is named. */
  standing?: boolean;
  /** What else the list asks for. */
  facts?: readonly FactName[];
}

/**
 * Of these items the ones that a condition is true of and that are not withdrawn, within the scope
 * of a board.
 */
export async function narrowed(
  entered: EnteredList,
  asked: Condition,
  { board, standing = false, facts = [] }: Narrowing,
): Promise<ListOf> {
  const { ground } = entered;
  const { reader } = entered.seen;
  const projectIds = ground.projects.map((access) => access.project.id);
  const condition = await knowingFormerTerms(reader, projectIds, asked);
  // Above the projects boards show all of what is looked at.
  const drawn =
    ground.place !== null || (board === null && !standing)
      ? null
      : await loadBoard(reader, ground.id, board);
  const scope = drawn?.board.scope ?? null;
  const named = [condition, ...(scope === null ? [] : [scope])].flatMap((one) => [...factsIn(one)]);
  const seen = await knowing(entered, [...named, ...facts]);
  const { asker } = seen;
  const where = and(
    seen.where,
    isNull(item.withdrawnAt),
    standing && drawn ? standingIn(reader, drawn, asker.now) : undefined,
    scope === null ? undefined : compileCondition(scope, asker),
    compileCondition(condition, asker),
  );
  return { ...seen, where };
}

/** Where a list goes on. @throws Refused where the text is no place of this list */
export function placeIn(of: ListOf, query: ListQuery, after: string | null): Cursor | null {
  if (after === null) return null;
  const cursor = readCursor(after, listKeys(query, of.asker).length);
  if (cursor === null)
    throw invalid("This list does not go on there.", "Open it again from its beginning.");
  return cursor;
}
