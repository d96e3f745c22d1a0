import { eq, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import * as table from "@/db/schema";
import { signatureOf } from "@/server/events/signature";
import { editSource } from "@/server/events/sources";
import type { Viewer } from "@/server/people/viewer";
import { consumeEvents } from "@/worker/consumers";
import { startApplication, type Application } from "./application";
import type { Row } from "./row";

const ITEMS = 500;
/** Of each item a push, a change, a run and a deployment; the change moves these. */
const MOVED = 400;
const ITEMS_A_POST = 5;
const AUTHOR = { name: "Person 0", mail: "p0@saltmarsh.example" };

/**
 * What code hosts and pipelines say, posted and followed to its end, beside verifying the same signatures and
 * writing the same rows; each in a project of its own.
 */
export async function eventsTold(viewer: Viewer): Promise<Row> {
  const [ours, bare] = [await makeProject(viewer, "9"), await makeProject(viewer, "10")];
  await movesByChange("b9");
  const app = await startApplication();
  try {
    const yardstick = await post(app, bare, (place) => {
      const { projectId: project, source, repository } = place;
      return `/api/bench/events?${new URLSearchParams({ source: source.id, project, repository })}`;
    });
    await consumersAtTheEnd();
    const measured = await post(app, ours, ({ source }) => `/api/events/${source.id}`);
    const start = performance.now();
    while ((await consumeEvents()) > 0);
    await allMoved("b9");
    return {
      what: `${(ITEMS * 4).toLocaleString("en")} events of code hosts and pipelines over HTTP, with the ${MOVED.toLocaleString("en")} moves that they make`,
      measured: measured + performance.now() - start,
      yardstick,
      against: "verifying the same signatures and writing the same rows and moves",
      reach: 3,
    };
  } finally {
    await app.stop();
  }
}

interface Place {
  projectId: string;
  key: string;
  source: { id: string; secret: string };
  repository: string;
}

/** The items that are told of are being built, in a project with a source and an environment. */
async function makeProject(viewer: Viewer, number: string): Promise<Place> {
  const db = database();
  const [projectId, key, repository] = [`b${number}`, `BIG${number}`, newId()];
  const source = await editSource(viewer, key, { kind: "add", name: "Host" });
  const at = Date.now();
  await db
    .insert(table.codeRepository)
    .values({ id: repository, sourceId: source.id, name: "app", firstHeardAt: at });
  await db
    .insert(table.environment)
    .values({ id: newId(), projectId, name: "test", position: 0, live: true });
  await db.execute(sql`
    update item set state_id = case when number <= ${MOVED} then ${`${projectId}-2`} else ${`${projectId}-1`} end,
      state_kind = case when number <= ${MOVED} then 'working' else 'waiting' end,
      outcome = null, delivered_at = null, finished_at = null
    where project_id = ${projectId} and number <= ${ITEMS}`);
  await db.execute(sql`
    delete from stay s using item i where i.id = s.item_id and i.project_id = ${projectId}
      and i.number <= ${ITEMS} and s.entered_seq > case when i.number <= ${MOVED} then 3 else 2 end`);
  await db.execute(sql`
    update stay s set left_at = null from item i where i.id = s.item_id and i.project_id = ${projectId}
      and i.number <= ${ITEMS} and s.state_id = i.state_id`);
  await db.execute(sql`analyze`);
  return { projectId, key, source: { id: source.id, secret: source.secret! }, repository };
}

/** The process hands over to review once a change is opened, from its next version on. */
async function movesByChange(projectId: string): Promise<void> {
  const workflowId = `${projectId}-w`;
  const [row] = await database()
    .select()
    .from(table.workflowVersion)
    .where(eq(table.workflowVersion.workflowId, workflowId));
  const before: Workflow = row.definition;
  const version = before.version + 1;
  const transitions = before.transitions.map((t) =>
    t.verb === "Hand to review" ? { ...t, triggers: [{ kind: "change opened" as const }] } : t,
  );
  const definition = { ...before, version, transitions };
  await database()
    .insert(table.workflowVersion)
    .values({ ...row, version, definition, at: Date.now() });
  await database().update(table.workflow).set({ version }).where(eq(table.workflow.id, workflowId));
}

/** What happened before is not followed any more: only what is measured is. */
async function consumersAtTheEnd(): Promise<void> {
  await database().execute(sql`
    update event_consumer set (tx, event_id) = (
      select tx, id from domain_event order by tx desc, id desc limit 1)`);
}

/** @throws Error where some were not moved: what is measured would not have been done */
async function allMoved(projectId: string): Promise<void> {
  const {
    rows: [{ n }],
  } = await database().execute<{ n: number }>(sql`
    select count(*)::int as n from item
    where project_id = ${projectId} and number <= ${MOVED} and state_id = ${`${projectId}-3`}`);
  if (n !== MOVED) throw new Error(`${n} were moved, and not ${MOVED}`);
}

/** Posts all that is said, a batch after the other. @returns how long it took, in milliseconds */
async function post(app: Application, place: Place, addressOf: (place: Place) => string) {
  const bodies = Array.from({ length: ITEMS / ITEMS_A_POST }, (_, at) =>
    JSON.stringify(
      Array.from({ length: ITEMS_A_POST }, (_, i) =>
        eventsOf(place, at * ITEMS_A_POST + i + 1),
      ).flat(),
    ),
  );
  const start = performance.now();
  for (const body of bodies) {
    const [id, timestamp] = [newId(), String(Math.floor(Date.now() / 1000))];
    const answer = await fetch(app.session.base + addressOf(place), {
      method: "POST",
      headers: {
        "content-type": "application/cloudevents-batch+json",
        "webhook-id": id,
        "webhook-timestamp": timestamp,
        "webhook-signature": signatureOf(place.source.secret, id, timestamp, body),
      },
      body,
    });
    if (!answer.ok) throw new Error(`${answer.status}: ${await answer.text()}`);
  }
  return performance.now() - start;
}

const hashOf = (number: number) => String(number).padStart(40, "0");

/** An item's commit comes to main, its change is opened, checked, and deployed. */
function eventsOf({ key }: Place, number: number): object[] {
  const head = hashOf(number);
  const named = `${key}-${number}`;
  const event = (type: string, id: string, content: object, customData: object) => ({
    specversion: "1.0",
    ...{ id: newId(), source: "/bench", type, time: new Date().toISOString() },
    data: {
      context: { version: "0.4.1" },
      subject: { id, content: { repository: { id: "app" }, ...content } },
      customData: { number, ...customData },
    },
  });
  const made = {
    ...{ id: head, parents: number > 1 ? [hashOf(number - 1)] : [], author: AUTHOR },
    ...{ authoredAt: new Date().toISOString(), message: `${named}: words` },
    ...{ files: 2, insertions: 10, deletions: 3 },
  };
  const change = `change of ${named}`;
  return [
    event(
      "dev.cdeventsx.zigzag-commits.pushed.0.1.0",
      "main",
      {},
      { head, main: true, by: AUTHOR, commits: [made] },
    ),
    event(
      "dev.cdevents.change.created.0.3.0",
      change,
      {},
      { author: AUTHOR, title: `${named} words`, head, moves: number <= MOVED },
    ),
    event(
      "dev.cdevents.pipelinerun.finished.0.2.0",
      `run of ${named}`,
      { outcome: "success" },
      { commit: head, change },
    ),
    event(
      "dev.cdevents.service.deployed.0.2.0",
      "app",
      { environment: { id: "test" } },
      { commit: head, build: String(number) },
    ),
  ];
}
