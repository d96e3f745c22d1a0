import { NOTHING_AROUND } from "@/core/condition/facts";
import { and, eq, gte, inArray, isNull } from "drizzle-orm";
import { type z } from "zod";
import { DAY } from "@/core/calendar/instant";
import type { ItemEvent } from "@/core/item/event";
import { replayMoves, type ReplayView } from "@/core/workflow/replay";
import { database } from "@/db/connection";
import { item, itemLink, itemType, stay, workflow, workflowDraft } from "@/db/schema";
import { workflowSchema } from "@/core/workflow/definition";
import { historiesOf } from "../item/history";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { publishedWorkflow } from "./load";
import { projectPeople } from "./people";
import { checkSurroundings } from "./surroundings";
import { type replayQuery } from "@/core/workflow/request";

/**
 * Holds the moves of the past against the stored draft, or against what runs where there is none.
 */
export async function replayDraft(
  viewer: Viewer,
  projectKey: string,
  query: z.infer<typeof replayQuery>,
  now = Date.now(),
): Promise<ReplayView> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "edit workflow",
  });
  const [head] = await db
    .select({ version: workflow.version, draft: workflowDraft.definition })
    .from(workflow)
    .leftJoin(workflowDraft, eq(workflowDraft.workflowId, workflow.id))
    .where(and(eq(workflow.id, query.workflow), eq(workflow.projectId, project.id)));
  if (!head) throw notFound("workflow");
  const definition = head.draft
    ? workflowSchema.parse(head.draft)
    : await publishedWorkflow(db, query.workflow, head.version);
  const since = now - query.days * DAY;
  const moved = db.select({ id: stay.itemId }).from(stay).where(gte(stay.enteredAt, since));
  const items = await db
    .select({ id: item.id, number: item.number, level: itemType.level })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        eq(itemType.workflowId, query.workflow),
        inArray(item.id, moved),
      ),
    );
  const ids = items.map((i) => i.id);
  const [histories, links, people, around] = await Promise.all([
    loadEvents(ids),
    linksOf(ids),
    projectPeople(db, project.id),
    checkSurroundings(db, project.id),
  ]);
  const levelOf = new Map(items.map(({ id, level }) => [id, level]));
  const personOf = new Map(people.map((p) => [p.id, p]));
  const { vocabulary } = around;
  const nameIn = (things: { id: string; name: string }[], id: string, otherwise: string) =>
    things.find((t) => t.id === id)?.name ?? otherwise;
  const replay = replayMoves(definition, histories, since, {
    actorOf: (id) => ({
      personId: id,
      role: personOf.get(id ?? "")?.role === "lead" ? "lead" : "member",
      teamIds: personOf.get(id ?? "")?.teamIds ?? [],
    }),
    aroundOf: (id, everIn) => ({
      ...NOTHING_AROUND,
      everIn,
      level: levelOf.get(id) ?? null,
      links: links.get(id) ?? [],
    }),
    ownFields: vocabulary.own,
    asker: { personId: null, teamIds: [], now, zone: project.zone },
    teamsOf: (id) => personOf.get(id)?.teamIds ?? [],
    vocabulary,
    nameOf: (id) => nameIn(vocabulary.people, id, "that person"),
    teamName: (id) => nameIn(vocabulary.teams, id, "a team that is gone"),
  });
  const numberOf = new Map(items.map((i) => [i.id, i.number]));
  return {
    ...replay,
    days: query.days,
    keys: Object.fromEntries(
      replay.refusals.map((r) => [r.itemId, `${project.key}-${numberOf.get(r.itemId)}`]),
    ),
  };
}

const BATCH = 2_000;

async function loadEvents(ids: readonly string[]): Promise<ItemEvent[][]> {
  const histories: ItemEvent[][] = [];
  for (let i = 0; i < ids.length; i += BATCH) {
    const some = await historiesOf(database(), ids.slice(i, i + BATCH));
    histories.push(...some.values());
  }
  return histories;
}

async function linksOf(
  ids: readonly string[],
): Promise<Map<string, (typeof itemLink.$inferSelect)["kind"][]>> {
  const links = new Map<string, (typeof itemLink.$inferSelect)["kind"][]>();
  if (ids.length === 0) return links;
  for (const { id, kind } of await database()
    .select({ id: itemLink.fromItemId, kind: itemLink.kind })
    .from(itemLink)
    .where(inArray(itemLink.fromItemId, [...ids])))
    links.set(id, [...(links.get(id) ?? []), kind]);
  return links;
}
