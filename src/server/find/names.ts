import { and, asc, eq, exists, inArray, isNull, or, sql } from "drizzle-orm";
import { flowPath } from "@/core/across/place";
import { bestOf } from "@/core/find/how-well";
import type { FoundLook, FoundPerson } from "@/core/find/found";
import type { Wanted } from "@/core/find/wanted";
import type { Reader } from "@/db/connection";
import { board, membership, person, view } from "@/db/schema";
import type { Viewer } from "../people/viewer";
import { seesView } from "../view/read";
import { hasAllIn } from "./words";

/** So many names at most are compared; what is called so is told first. */
const COMPARED = 200;

/** People of the projects that somebody may see, and those who look after all of them. */
export async function findPeople(
  reader: Reader,
  { wanted, projectIds, limit }: { wanted: Wanted; projectIds: readonly string[]; limit: number },
): Promise<FoundPerson[]> {
  if (projectIds.length === 0) return [];
  const belongs = reader
    .select({ one: sql`1` })
    .from(membership)
    .where(and(eq(membership.personId, person.id), inArray(membership.projectId, [...projectIds])));
  const rows = await reader
    .select({ id: person.id, name: person.name, calling: person.calling })
    .from(person)
    .where(
      and(
        isNull(person.endedAt),
        or(eq(person.administrator, true), exists(belongs)),
        hasAllIn(person.name, wanted),
      ),
    )
    .orderBy(asc(person.name))
    .limit(COMPARED);
  return bestOf(wanted.words, rows, ({ name }) => [name]).slice(0, limit);
}

/** Something whose items are looked at: a project, or a place above the projects. */
export interface NamedGround {
  id: string;
  key: string;
  name: string;
}

/** The views and boards of some grounds that somebody may see; those of the first grounds first. */
export async function findLooks(
  reader: Reader,
  viewer: Viewer,
  { wanted, grounds, limit }: { wanted: Wanted; grounds: readonly NamedGround[]; limit: number },
): Promise<FoundLook[]> {
  const ids = grounds.map(({ id }) => id);
  if (ids.length === 0) return [];
  const [views, boards] = await Promise.all([
    reader
      .select({ id: view.id, name: view.name, groundId: view.groundId })
      .from(view)
      .where(
        and(
          inArray(view.groundId, ids),
          isNull(view.putAwayAt),
          seesView(viewer),
          hasAllIn(view.name, wanted),
        ),
      )
      .orderBy(asc(view.name), asc(view.id))
      .limit(COMPARED),
    reader
      .select({ id: board.id, name: board.name, groundId: board.projectId })
      .from(board)
      .where(and(inArray(board.projectId, ids), hasAllIn(board.name, wanted)))
      .orderBy(asc(board.name), asc(board.id))
      .limit(COMPARED),
  ]);
  const known = new Map(grounds.map((ground) => [ground.id, ground]));
  const place = (groundId: string) => ids.indexOf(groundId);
  const looks = [
    ...views.map((row) => ({ ...row, kind: "view" as const })),
    ...boards.map((row) => ({ ...row, kind: "board" as const })),
  ]
    .toSorted((a, b) => place(a.groundId) - place(b.groundId))
    .flatMap(({ groundId, ...look }) => {
      const ground = known.get(groundId);
      if (!ground) return [];
      const path = `${flowPath(ground.key)}?${look.kind}=${encodeURIComponent(look.id)}`;
      return [{ ...look, of: ground.name, path }];
    });
  return bestOf(wanted.words, looks, ({ name }) => [name]).slice(0, limit);
}
