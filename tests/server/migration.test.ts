import { loadSprints } from "@/server/plan/timeboxes";
import { settingAt } from "@/server/workflow/dated-settings";
import { historyOf } from "@/server/item/history";
import { cpSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { randomUUID } from "node:crypto";
import os from "node:os";
import path from "node:path";
import { drizzle } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import { eq } from "drizzle-orm";
import { Client } from "pg";
import { database } from "@/db/connection";
import { migrateDatabase } from "@/db/migrate";
import { readEvent } from "@/core/events/catalogue";
import { domainEvent, item, wipLimit, workflowDraft } from "@/db/schema";
import { formFaults } from "@/core/intake/form";
import { publicForm, submitForm } from "@/server/intake/forms";
import { undoVerdict } from "@/server/intake/triage-report";
import { privateFile, readPrivatePage } from "@/server/intake/private-page";
import { checkReports } from "@/server/intake/check";
import { checkItems } from "@/server/item/check";
import { CONSUMERS } from "@/worker/consumers";
import { unfollowed } from "./setup/unfollowed";
import { loadWorkflows } from "@/server/workflow/load";
import { send } from "./setup/board";
import { BARE, givenTestDatabase } from "./setup/test-database";

givenTestDatabase(BARE);

const MIGRATIONS = path.join(process.cwd(), "src/db/migrations");
const LEAD = { personId: "una", name: "Una Marsh", administrator: true };
const [ITEM, REPORT, VERDICT] = [randomUUID(), randomUUID(), randomUUID()];
const TOKEN = "old-token-old-token-old-token-ab";

/** The schema as it was after so many migrations. */
async function migrateTo(client: Client, steps: number): Promise<void> {
  const folder = mkdtempSync(path.join(os.tmpdir(), "zigzag-migrations-"));
  cpSync(MIGRATIONS, folder, { recursive: true });
  const file = path.join(folder, "meta/_journal.json");
  const journal = JSON.parse(readFileSync(file, "utf8"));
  writeFileSync(file, JSON.stringify({ ...journal, entries: journal.entries.slice(0, steps) }));
  await migrate(drizzle(client), { migrationsFolder: folder });
}

const TWICE = randomUUID();
/**
 * An item that was declined, begun again, delivered by a follow-up after its move, and reopened, as
 * it was stored before milestones.
 */
const FINISHED_TWICE = (() => {
  const steps: [
    seq: number,
    day: number,
    kind: string,
    field: string | null,
    old: object | string | null,
    is: object | string | null,
  ][] = [
    [
      2,
      3,
      "moved",
      null,
      { stateId: "s-todo", kind: "unstarted" },
      { stateId: "s-doing", kind: "working", isReturn: false, rank: null },
    ],
    [3, 4, "changed", "outcome", null, "declined"],
    [
      4,
      4,
      "moved",
      null,
      { stateId: "s-doing", kind: "working" },
      { stateId: "s-done", kind: "finished", isReturn: false, rank: null },
    ],
    [5, 5, "changed", "outcome", "declined", null],
    [
      6,
      5,
      "moved",
      null,
      { stateId: "s-done", kind: "finished" },
      { stateId: "s-doing", kind: "working", isReturn: true, rank: null },
    ],
    [
      7,
      6,
      "moved",
      null,
      { stateId: "s-doing", kind: "working" },
      { stateId: "s-done", kind: "finished", isReturn: false, rank: null },
    ],
    [8, 6, "changed", "outcome", null, "delivered"],
    [9, 7, "changed", "outcome", "delivered", null],
    [
      10,
      7,
      "moved",
      null,
      { stateId: "s-done", kind: "finished" },
      { stateId: "s-doing", kind: "working", isReturn: true, rank: null },
    ],
  ];
  const on = (day: number) => `2026-03-0${day}T08:00:00Z`;
  const json = (value: object | string | null) => `'${JSON.stringify(value)}'`;
  const stays: [seq: number, state: string, kind: string, from: number, to: number | null][] = [
    [1, "s-todo", "unstarted", 2, 3],
    [2, "s-doing", "working", 3, 4],
    [4, "s-done", "finished", 4, 5],
    [6, "s-doing", "working", 5, 6],
    [7, "s-done", "finished", 6, 7],
    [10, "s-doing", "working", 7, null],
  ];
  const clock = [
    [3, 4],
    [5, 6],
    [7, null],
  ].map(([from, to]) => ({ from: Date.parse(on(from!)), to: to && Date.parse(on(to)) }));
  return `
    insert into item (id, project_id, number, type_id, title, description, priority, class_of_service, origin, state_id, state_kind, entered_state_at, rank, clock, returns, open_blockers, created_at, updated_at, version)
      values ('${TWICE}', 'old', 2, 'job', 'Paint the pier', '', 'normal', 'standard', 'planned', 's-doing', 'working', '${on(7)}', 'a1', ${json(clock)}, 2, '[]', '${on(2)}', '${on(7)}', 10);
    insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, new) select '${TWICE}', 1, at, null, 'demo', '${randomUUID()}', 'created', new || '{"number":2,"rank":"a1"}' from item_event where item_id = '${ITEM}';
    ${steps.map(([seq, day, kind, field, old, is]) => `insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, field, old, new) values ('${TWICE}', ${seq}, '${on(day)}', 'una', 'person', '${randomUUID()}', '${kind}', ${field ? `'${field}'` : "null"}, ${json(old)}, ${json(is)});`).join("\n")}
    ${stays.map(([seq, state, kind, from, to]) => `insert into stay (item_id, entered_seq, state_id, kind, entered_at, left_at) values ('${TWICE}', ${seq}, '${state}', '${kind}', '${on(from)}', ${to ? `'${on(to)}'` : "null"});`).join("\n")}`;
})();

test("every migration runs on a database with data, and nothing of it is lost", async () => {
  const client = new Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await client.query("set client_min_messages = warning");
  await migrateTo(client, 2);
  await client.query(`
    insert into person (id, name, email, administrator) values ('una', 'Una Marsh', 'una@saltmarsh.example', true);
    insert into project (id, key, name, visibility, zone, next_item_number, expectation_days, expectation_share) values ('old', 'OLD', 'Old', 'everyone', 'UTC', 3, 10, 0.85);
    insert into workflow (id, project_id, name, version) values ('old-w', 'old', 'Two steps', 4);
    insert into state (id, workflow_id, name, kind, stage, position) values
      ('s-todo', 'old-w', 'To do', 'unstarted', null, 0), ('s-doing', 'old-w', 'Doing', 'working', 'Work', 1), ('s-done', 'old-w', 'Done', 'finished', null, 2);
    insert into transition (id, workflow_id, from_state_id, to_state_id, verb, requirements) values
      ('t-start', 'old-w', 's-todo', 's-doing', 'Start', '[{"kind":"reason"}]'), ('t-close', 'old-w', null, 's-done', 'Close', '[]');
    insert into item_type (project_id, id, name, level, workflow_id) values ('old', 'job', 'Job', 1, 'old-w');
    insert into item (id, project_id, number, type_id, title, description, priority, class_of_service, origin, state_id, state_kind, entered_state_at, rank, clock, returns, open_blockers, created_at, updated_at, version)
      values ('${ITEM}', 'old', 1, 'job', 'Paint the pier', '', 'normal', 'standard', 'planned', 's-todo', 'unstarted', '2026-03-02T08:00:00Z', 'a0', '[]', 0, '[]', '2026-03-02T08:00:00Z', '2026-03-02T08:00:00Z', 1);
    insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, new) values ('${ITEM}', 1, '2026-03-02T08:00:00Z', null, 'demo', '${randomUUID()}', 'created',
      '{"projectId":"old","number":1,"parentId":null,"stateId":"s-todo","stateKind":"unstarted","rank":"a0","title":"Paint the pier","description":"","typeId":"job","severity":null,"priority":"normal","classOfService":"standard","origin":"planned","estimate":null,"teamId":null,"assigneeId":null,"reviewerId":null,"place":null,"howToTest":null,"dueOn":null}');
    insert into stay (item_id, entered_seq, state_id, kind, entered_at) values ('${ITEM}', 1, 's-todo', 'unstarted', '2026-03-02T08:00:00Z');
    insert into report (id, project_id, reference, token, title, happened, reproduce, place, mail, status, parked_until, received_at, version)
      values ('${REPORT}', 'old', 'R-OLD', '${TOKEN}', 'Pier is grey', 'It was white.', '', 'Outer Pier', 'p@post.saltmarsh.example', 'parked', '2999-01-01', '2026-03-01T08:00:00Z', 2);
    insert into report_picture (report_id, media_type, content) values ('${REPORT}', 'image/png', '\\x89504e470d0a1a0a');
    insert into report_verdict (id, report_id, verdict, before, after, by_id, at) values ('${VERDICT}', '${REPORT}', '{"kind":"park","until":"2999-01-01"}',
      '{"status":"unjudged","itemId":null,"parkedUntil":null,"declineReason":null}', '{"status":"parked","itemId":null,"parkedUntil":"2999-01-01","declineReason":null}', 'una', '2026-03-01T09:00:00Z');
  `);
  await client.query(FINISHED_TWICE);
  // What was told before the product kept events: one change was followed up, the next not yet.
  await migrateTo(client, 18);
  await client.query(`
    insert into outbox (project_id, at, kind, item_id, from_version, version, done_at) values ('old', now(), 'item', '${TWICE}', 9, 10, now());
    insert into outbox (project_id, at, kind, report_id) values ('old', now(), 'intake', '${REPORT}');
    insert into outbox (project_id, at, kind, item_id, from_version, version) values ('old', now(), 'item', '${ITEM}', 0, 1);
  `);
  // Texts that stood in the history itself.
  await migrateTo(client, 29);
  const said = (seq: number, what: string) => `
    insert into item_event (item_id, seq, at, cause, command_id, kind, field, old, new, note)
    select id, version + ${seq}, updated_at, 'upgrade', '${randomUUID()}', ${what} from item where id = '${ITEM}';`;
  await client.query(`
    ${said(1, `'changed', 'title', '"Paint the pier"'::jsonb, '"Paint the outer pier"'::jsonb, null`)}
    ${said(2, `'own changed', 'brush', null::jsonb, '"A wide one"'::jsonb, null`)}
    ${said(3, `'commented', null, null::jsonb, '{"commentId":"c","body":"Grey \\"again\\""}'::jsonb, null`)}
    ${said(4, `'held', null, null::jsonb, '{"transitionId":"t-start","to":"s-doing"}'::jsonb, 'No paint.'`)}
    insert into sprint (id, project_id, name, goal, starts_on, ends_on) values ('old-s', 'old', 'First', '', '2026-03-02', '2026-03-15');
    insert into board (id, project_id, name) values ('old-b', 'old', 'All');
    insert into board_column (id, board_id, stage, name, part, position, max, max_firm) values
      ('old-c', 'old-b', 'Work', 'Doing', 'working', 0, 4, true), ('old-d', 'old-b', 'Work', 'More', 'working', 1, null, false);
    insert into column_state (board_id, column_id, state_id) values ('old-b', 'old-c', 's-doing');
    update workflow_version set definition = jsonb_set(definition, '{states,1,limit}', '{"max": 7, "firm": false}')
      where workflow_id = 'old-w' and version = 4;
    insert into workflow_draft (workflow_id, definition, base_version, revision, by_id, at)
      select workflow_id, jsonb_set(definition, '{states,0,limit}', '{"max": 9, "firm": true}'), 4, 2, 'una', now()
      from workflow_version where workflow_id = 'old-w' and version = 4;
    update item set title = 'Paint the outer pier', own = '{"brush":"A wide one"}', version = version + 4
      where id = '${ITEM}';
  `);
  await client.end();

  await migrateDatabase(process.env.DATABASE_URL!);

  const workflow = (await loadWorkflows(database(), ["old-w"])).get("old-w")!;
  expect(workflow.version).toBe(4);
  expect(workflow.states.map((s) => s.name)).toEqual(["To do", "Doing", "Done"]);
  expect(workflow.transitions.map((t) => t.verb).sort()).toEqual(["Close", "Start"]);
  expect((await checkItems()).findings).toEqual([]);
  const history = await historyOf(database(), ITEM);
  expect(history[0]).toMatchObject({ new: { title: "Paint the pier", description: "" } });
  expect(history.slice(-4)).toMatchObject([
    { old: "Paint the pier", new: "Paint the outer pier" },
    { old: null, new: "A wide one" },
    { new: { commentId: "c", body: 'Grey "again"' } },
    { new: { to: "s-doing" }, note: "No paint." },
  ]);
  const [first] = await loadSprints(database(), "old");
  expect(first).toMatchObject({ id: "old-s", name: "First" });
  const at = Date.parse("2026-03-02T08:00:00Z");
  expect(await settingAt(database(), "old", { setting: "expectation", at })).toEqual({
    days: 10,
    share: 0.85,
  });
  // A column of one state and that state had each a limit: the stricter is the state's now.
  const limits = await database().select().from(wipLimit).orderBy(wipLimit.ownerId, wipLimit.max);
  expect(
    limits.map((l) => [l.ownerKind, l.ownerId, l.min, l.max, l.maxFirm, l.validTo === null]),
  ).toEqual([
    ["column", "old-c", null, 4, true, false],
    ["state", "s-doing", null, 4, true, true],
    ["state", "s-doing", null, 7, false, false],
  ]);
  // A draft goes on with it, and keeps what it had changed itself.
  const [draft] = await database().select().from(workflowDraft);
  expect([draft.revision, ...draft.definition.states.map((s) => s.limit ?? null)]).toEqual([
    3,
    { max: 9, firm: true },
    { max: 4, firm: true, min: null, minFirm: false },
    null,
  ]);
  const [twice] = await database().select().from(item).where(eq(item.id, TWICE));
  expect([twice.firstStartedAt, twice.deliveredAt, twice.finishedAt]).toEqual([
    Date.parse("2026-03-03T08:00:00Z"),
    Date.parse("2026-03-06T08:00:00Z"),
    null,
  ]);

  expect(await checkReports()).toEqual({ reports: 1, findings: [] });
  const told = await database().select().from(domainEvent).orderBy(domainEvent.id);
  expect(told.map((e) => readEvent(e))).toMatchObject([
    { kind: "item changed", data: { itemId: TWICE, fromVersion: 9, kinds: ["moved"] } },
    { kind: "report changed", data: { reportId: REPORT } },
    { kind: "item changed", data: { itemId: ITEM, fromVersion: 0, kinds: ["created"] } },
  ]);
  // Consumers go on with the first that was not followed up.
  expect(await unfollowed()).toBe(2 * CONSUMERS.length);

  const start = (answers: object) =>
    send(LEAD, ITEM, { kind: "move", from: "s-todo", to: "s-doing", answers });
  await expect(start({})).rejects.toThrow("This move says why.");
  expect((await start({ reason: "The paint is here." })).card.stateId).toBe("s-doing");
  expect((await checkItems()).findings).toEqual([]);

  // Its report keeps picture, parking and a verdict that can be undone; the project's one page is a
  // form now.
  const page = await readPrivatePage(TOKEN);
  expect(page).toMatchObject({
    reference: "R-OLD",
    wrote: { place: "Outer Pier" },
    files: [{ name: "picture", picture: true }],
    status: { headline: "Put aside for now" },
  });
  expect((await privateFile(TOKEN, page.files[0].id)).content.toString("hex")).toBe(
    "89504e470d0a1a0a",
  );
  expect(await undoVerdict(LEAD, REPORT, VERDICT)).toMatchObject({ status: "unjudged" });
  const { definition, open } = await publicForm("OLD", "report");
  expect([open, formFaults(definition)]).toEqual([true, []]);
  const { token } = await submitForm({
    projectKey: "OLD",
    name: "report",
    raw: { title: ["New"], happened: ["Something."], mail: ["n@post.saltmarsh.example"] },
    sent: [],
  });
  expect((await readPrivatePage(token)).title).toBe("New");
});
