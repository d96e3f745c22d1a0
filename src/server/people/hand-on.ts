import { and, asc, count, eq, isNull, ne, or, type SQL } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { HandsView } from "@/core/people/account";
import type { EndPersonRequest } from "@/core/people/request";
import { database, type Reader, type Transaction } from "@/db/connection";
import { item, membership, person, project } from "@/db/schema";
import { throughDoor } from "../item/door";
import { onlyAdministrators } from "./accounts";
import { checkMembers } from "./belonging";
import type { Viewer } from "./viewer";

/** That an item is not over, as a condition on it. */
const isOpen = and(ne(item.stateKind, "finished"), isNull(item.withdrawnAt));
const isIn = (personId: string): SQL =>
  and(isOpen, or(eq(item.assigneeId, personId), eq(item.reviewerId, personId)))!;

/** What somebody has in hand, by project, and who could have it. @throws Refused */
export async function readHands(viewer: Viewer, personId: string): Promise<HandsView> {
  onlyAdministrators(viewer);
  const db = database();
  const of = async (column: typeof item.assigneeId | typeof item.reviewerId) =>
    new Map(
      (
        await db
          .select({ projectId: item.projectId, n: count() })
          .from(item)
          .where(and(isOpen, eq(column, personId)))
          .groupBy(item.projectId)
      ).map(({ projectId, n }) => [projectId, n]),
    );
  const [assigned, reviews] = [await of(item.assigneeId), await of(item.reviewerId)];
  const projects = await db
    .select({ id: project.id, key: project.key, name: project.name })
    .from(project)
    .orderBy(asc(project.name));
  const concerned = projects.filter(({ id }) => assigned.has(id) || reviews.has(id));
  return {
    projects: await Promise.all(
      concerned.map(async (one) => ({
        ...one,
        assigned: assigned.get(one.id) ?? 0,
        reviews: reviews.get(one.id) ?? 0,
        people: await othersIn(db, one.id, personId),
      })),
    ),
  };
}

const othersIn = (reader: Reader, projectId: string, personId: string) =>
  reader
    .select({ id: person.id, name: person.name })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .where(
      and(
        eq(membership.projectId, projectId),
        ne(membership.role, "observer"),
        ne(membership.personId, personId),
        isNull(person.endedAt),
      ),
    )
    .orderBy(asc(person.name));

/**
 * Gives the open items of somebody to others, by project; where nobody is named, to nobody. What a
 * rule or a limit refuses is left without an owner rather than with somebody who is gone. Also in
 * projects that are put away: once brought back nothing in them is with somebody who is gone.
 * @returns how many were handed on, and how many have nobody now against what was wanted
 */
export async function handOn(
  tx: Transaction,
  viewer: Viewer,
  personId: string,
  to: EndPersonRequest["handOn"],
): Promise<{ handedOn: number; left: number }> {
  const rows = await tx
    .select({
      id: item.id,
      version: item.version,
      assigneeId: item.assigneeId,
      reviewerId: item.reviewerId,
      project,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(isIn(personId))
    .orderBy(asc(item.id));
  const heirs = new Map(to.map((one) => [one.projectId, one.personId]));
  for (const [projectId, heir] of heirs) await checkMembers(tx, projectId, [heir]);
  let left = 0;
  for (const { id, version, assigneeId, reviewerId, project: of } of rows) {
    const heir = heirs.get(of.id) ?? null;
    const give = async (who: string | null) => {
      const changes = {
        ...(assigneeId === personId ? { assigneeId: who } : {}),
        ...(reviewerId === personId ? { reviewerId: who } : {}),
      };
      const after = await throughDoor(tx, viewer, {
        on: { itemId: id, access: { project: of, role: "administrator", may: () => true } },
        commandId: newId(),
        ask: { kind: "edit", seenVersion: version, changes },
        ifRefused: "leave",
      });
      return after.assigneeId !== personId && after.reviewerId !== personId;
    };
    if (await give(heir)) continue;
    left += 1;
    await give(null);
  }
  return { handedOn: rows.length - left, left };
}
