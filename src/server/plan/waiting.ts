import { and, asc, eq, inArray, isNull, ne, or, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { WaitsFor } from "@/core/plan/dependencies";
import { sprintStanding } from "@/core/plan/sprint";
import type { WaitingItem, WaitingView } from "@/core/plan/waiting-view";
import { database, type Reader } from "@/db/connection";
import { item, itemLink, person, sprint, team } from "@/db/schema";
import { keyColumn } from "../item/key";
import { enterProject, isSeen, seesAnywhere } from "../people/access";
import type { Viewer } from "../people/viewer";
import { loadSprints } from "./timeboxes";

/** So many sprints are columns of the picture. */
const SPRINTS_SHOWN = 5;
/** So many links are drawn at most. */
const MOST_LINKS = 400;

/**
 * What waits for what: the open items of a project with dependencies on open items, their own and
 * other projects'. Of what somebody may not see it is said only that it is there.
 */
export async function readWaiting(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<WaitingView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const of = access.project;
  const today = isoDate(dayNumber(now, of.zone));
  const all = of.usesSprints ? await loadSprints(reader, of.id) : [];
  const links = await openLinks(reader, of.id);
  const ids = [...new Set(links.flatMap(({ id, forId }) => [id, forId]))];
  const items = await readItems(reader, viewer, of.id, ids);
  // A dependency of the project's own that somebody does not see at all says nothing to them.
  const seen = new Set(items.filter((one) => one.seen !== null).map(({ id }) => id));
  const waits = links.filter(({ id, forId }) => seen.has(id) || seen.has(forId));
  const drawn = new Set(waits.flatMap(({ id, forId }) => [id, forId]));
  return {
    project: { key: of.key, name: of.name },
    sprints: all
      .filter((one) => ["running", "coming"].includes(sprintStanding(one, today)))
      .slice(0, SPRINTS_SHOWN)
      .map((one) => ({
        id: one.id,
        name: one.name,
        startsOn: one.startsOn,
        endsOn: one.endsOn,
        running: sprintStanding(one, today) === "running",
      })),
    items: items.filter(({ id }) => drawn.has(id)),
    waits,
    defaultSize: of.defaultSize,
    rights: { plan: access.may("plan work") && access.may("edit item") },
  };
}

/** The dependencies between open items of which one is of a project. */
async function openLinks(reader: Reader, projectId: string): Promise<WaitsFor[]> {
  const [waiting, wanted] = [alias(item, "waiting"), alias(item, "wanted")];
  return reader
    .select({ id: itemLink.fromItemId, forId: itemLink.toItemId })
    .from(itemLink)
    .innerJoin(waiting, eq(waiting.id, itemLink.fromItemId))
    .innerJoin(wanted, eq(wanted.id, itemLink.toItemId))
    .where(
      and(
        eq(itemLink.kind, "waits for"),
        or(eq(waiting.projectId, projectId), eq(wanted.projectId, projectId)),
        isNull(waiting.withdrawnAt),
        isNull(wanted.withdrawnAt),
        ne(waiting.stateKind, "finished"),
        ne(wanted.stateKind, "finished"),
      ),
    )
    .orderBy(asc(waiting.rank), asc(wanted.rank))
    .limit(MOST_LINKS);
}

async function readItems(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
  ids: readonly string[],
): Promise<WaitingItem[]> {
  if (ids.length === 0) return [];
  const rows = await reader
    .select({
      id: item.id,
      key: keyColumn,
      title: item.title,
      typeId: item.typeId,
      version: item.version,
      teamId: item.teamId,
      team: team.name,
      assignee: person.name,
      points: item.estimate,
      stateKind: item.stateKind,
      sprintId: item.sprintId,
      until: sprint.endsOn,
      own: sql<boolean>`${item.projectId} = ${projectId}`,
      isSeen: isSeen(seesAnywhere(reader, viewer)),
    })
    .from(item)
    .leftJoin(sprint, eq(sprint.id, item.sprintId))
    .leftJoin(team, eq(team.id, item.teamId))
    .leftJoin(person, eq(person.id, item.assigneeId))
    .where(inArray(item.id, [...ids]))
    .orderBy(asc(item.rank), asc(item.id));
  return rows.map(
    ({ key, title, typeId, version, team: teamName, assignee, points, isSeen: shown, ...of }) =>
      shown
        ? { ...of, seen: { key, title, typeId, version, team: teamName, assignee, points } }
        : hiddenItem(of),
  );
}

/** Of what is hidden neither whose it is nor where it is planned. */
const hiddenItem = ({ id, own }: { id: string; own: boolean }): WaitingItem => ({
  id,
  own,
  seen: null,
  teamId: null,
  stateKind: "unstarted",
  sprintId: null,
  until: null,
});
