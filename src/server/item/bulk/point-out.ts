import { and, asc, eq, inArray, ne, or, sql } from "drizzle-orm";
import type { PointedOut, PointOutAsked } from "@/core/item/bulk/contract";
import { transact, type Transaction } from "@/db/connection";
import { item, membership, person, teamMember } from "@/db/schema";
import { keepAlerts } from "../../alerts/keep";
import { seesItem } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid, notAllowed } from "../../refused";
import { onlyProject } from "../../across/ground";
import { enterList, type EnteredList } from "../list/enter";
import { readIds } from "../list/read";
import { itemsMeant } from "./items";

/** So many items are pointed out at once. */
const MOST_POINTED_OUT = 500;

/**
 * Points items out to people and teams of a project, in one alert each. Each is told of those that
 * they may see, and whoever may see none of them is not told; nobody tells themselves.
 */
export async function pointOut(
  viewer: Viewer,
  projectKey: string,
  asked: PointOutAsked,
  now = Date.now(),
): Promise<PointedOut> {
  const entered = await enterList(viewer, projectKey, now);
  if (!onlyProject(entered.ground).may("comment item")) throw notAllowed("pointing items out");
  const ids = await itemsMeant(entered, asked.items);
  if (ids.length === 0) throw invalid("None of these items is there.", "Choose others.");
  if (ids.length > MOST_POINTED_OUT)
    throw invalid(
      `More than ${MOST_POINTED_OUT} items are no alert that anybody reads.`,
      "Choose fewer of them.",
    );
  return transact(async (tx) => {
    const people = await peopleMeant(tx, entered, asked);
    if (people.length === 0)
      throw invalid("Nobody of this project is meant.", "Choose people or a team.");
    const result: PointedOut = { told: [], untold: [] };
    for (const one of people) {
      const seen = await seenBy(tx, one, ids);
      if (seen.length === 0) {
        result.untold.push(one.name);
        continue;
      }
      const [itemId, ...otherIds] = seen;
      const text = `${viewer.name} points out: ${asked.sentence}`;
      const told = { personId: one.personId, rules: ["pointed"], said: text, otherIds };
      await keepAlerts(tx, { itemId, expedite: false }, [told], now);
      result.told.push({ name: one.name, items: seen.length });
    }
    return result;
  });
}

/** The members of a project who are named, or belong to a team that is. */
async function peopleMeant(
  tx: Transaction,
  { viewer, ground }: EnteredList,
  { personIds, teamIds }: PointOutAsked,
): Promise<Viewer[]> {
  const ofTeams = tx
    .select({ id: teamMember.personId })
    .from(teamMember)
    .where(inArray(teamMember.teamId, teamIds));
  return tx
    .select({
      personId: person.id,
      name: person.name,
      administrator: sql<boolean>`coalesce(${person.administrator}, false)`,
    })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .where(
      and(
        eq(membership.projectId, ground.id),
        ne(person.id, viewer.personId),
        or(inArray(person.id, personIds), inArray(person.id, ofTeams)),
      ),
    )
    .orderBy(asc(person.name));
}

/** Of some items the ones that somebody may see, in their order. */
async function seenBy(tx: Transaction, by: Viewer, ids: readonly string[]): Promise<string[]> {
  const where = and(inArray(item.id, [...ids]), seesItem(tx, by));
  const seen = new Set(await readIds({ reader: tx, where }, ids.length));
  return ids.filter((id) => seen.has(id));
}
