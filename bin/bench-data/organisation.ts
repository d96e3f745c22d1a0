import { NO_LIMIT } from "@/core/board/limit";
import { setLimit } from "@/server/board/limits";
import { sql } from "drizzle-orm";
import { fromTemplate } from "@/core/workflow/template";
import { BUILD_REVIEW_TEST_DEPLOY } from "@/core/workflow/templates/build-review-test-deploy";
import { partOf } from "@/core/board/column";
import { PROBLEM_WORDS } from "@demo/words/reports";
import { FINDINGS, PLACES, WHY_STORIES } from "@demo/words/stock";
import { QUAY_GATES } from "@demo/words/quay-gates";
import { TICKET_APP } from "@demo/words/ticket-app";
import { TIMETABLES } from "@demo/words/timetables";
import { database } from "@/db/connection";
import * as table from "@/db/schema";

export const PROJECTS = 20;
export const ITEMS_PER_PROJECT = 5_000;
export const COMMENTS_PER_ITEM = 4;
/** Items in progress on the board that is opened. */
export const ON_BOARD = 2_000;
const PEOPLE = 400;

/**
 * A large made-up organisation, made by the database itself: every item has a creation and a walk
 * through the states with as many events as real items have. In project 1 as many items are in
 * progress as the board test wants.
 */
export async function makeOrganisation(): Promise<void> {
  const db = database();
  await db.insert(table.person).values(
    Array.from({ length: PEOPLE }, (_, i) => ({
      id: `p${i}`,
      name: `Person ${i}`,
      email: `p${i}@saltmarsh.example`,
      administrator: i === 0,
    })),
  );
  for (let p = 1; p <= PROJECTS; p++) {
    const id = `b${p}`;
    let n = 0;
    const workflow = {
      ...fromTemplate(BUILD_REVIEW_TEST_DEPLOY, () => `${id}-${n++}`),
      id: `${id}-w`,
    };
    await db.insert(table.project).values({
      id,
      key: `BIG${p}`,
      name: `Project ${p}`,
      visibility: "everyone",
      zone: "Europe/London",
      expectationDays: 10,
      expectationShare: 0.85,
      nextItemNumber: ITEMS_PER_PROJECT + 1,
    });
    await db.insert(table.membership).values(
      Array.from({ length: 20 }, (_, i) => ({
        projectId: id,
        personId: `p${(p - 1) * 20 + i}`,
        role: "member" as const,
      })),
    );
    await db
      .insert(table.workflow)
      .values({ id: workflow.id, projectId: id, name: workflow.name, version: 1 });
    await db
      .insert(table.state)
      .values(workflow.states.map((s) => ({ ...s, workflowId: workflow.id })));
    await db.insert(table.workflowVersion).values({
      workflowId: workflow.id,
      version: 1,
      definition: { ...workflow, version: 1 },
      at: Date.now(),
      byId: "p0",
      summary: "as it was agreed",
    });
    await db
      .insert(table.itemType)
      .values({ projectId: id, id: "story", name: "Story", level: 1, workflowId: workflow.id });
    await db.insert(table.board).values({ id: `${id}-board`, projectId: id, name: "Everything" });
    for (const [position, state] of workflow.states.slice(1, 9).entries()) {
      await db.insert(table.boardColumn).values({
        id: `${id}-c${position}`,
        boardId: `${id}-board`,
        stage: state.stage!,
        name: state.name,
        part: partOf(state.kind),
        position,
      });
      const owner = { projectId: id, kind: "state", id: state.id } as const;
      const limit = { ...NO_LIMIT, max: 4_000, maxFirm: state.name === "In review" };
      await db.transaction((tx) => setLimit(tx, owner, limit));
      await db
        .insert(table.columnState)
        .values({ boardId: `${id}-board`, columnId: `${id}-c${position}`, stateId: state.id });
    }
    await fillProject(
      id,
      workflow.states.map((s) => s.id),
      p === 1 ? ON_BOARD : 40,
    );
  }
  await db.execute(sql`analyze`);
}

/**
 * One of some texts for each item, so that words are as common and as rare as in what people write.
 */
const pickFor = (id: string) => (texts: readonly string[], step: number) =>
  sql`(${sql.param(texts)}::text[])[1 + (n * ${step}::bigint + abs(hashtext(${id} || n))) % ${texts.length}]`;

/** Items 1..N; the last `open` of them stand somewhere in progress, the others are live. */
async function fillProject(id: string, states: string[], open: number): Promise<void> {
  const db = database();
  const kinds = [
    "unstarted",
    "waiting",
    "working",
    "waiting",
    "working",
    "waiting",
    "working",
    "waiting",
    "finished",
  ];
  const stateList = sql.raw(
    `array[${states
      .slice(0, 9)
      .map((s) => `'${s}'`)
      .join(",")}]`,
  );
  const kindList = sql.raw(`array[${kinds.map((k) => `'${k}'`).join(",")}]`);
  const pick = pickFor(id);
  // Where item n stands: 9 is live, 2 to 8 are in progress. It was created n/13 days ago and took
  // steps of 3 to 30 hours.
  await db.execute(sql`
    insert into item (id, project_id, number, type_id, title, description, priority, class_of_service, origin, estimate, assignee_id, reviewer_id, how_to_test,
      state_id, state_kind, entered_state_at, rank, outcome, first_started_at, delivered_at, finished_at, clock, returns, open_blockers, created_at, updated_at, version)
    select gen_random_uuid(), ${id}, n, 'story', ${pick(TICKET_APP.things.concat(QUAY_GATES.things, TIMETABLES.things), 7919)} || ' ' || ${pick(TICKET_APP.faults.concat(QUAY_GATES.faults, TIMETABLES.faults), 104729)} || ' ' || ${pick(TICKET_APP.when.concat(QUAY_GATES.when, TIMETABLES.when), 1299709)},
      ${pick(PROBLEM_WORDS, 31)} || ' ' || ${pick(FINDINGS, 127)} || ' Seen at ' || ${pick(PLACES, 8191)} || ', number ' || n || '. ' || ${pick(WHY_STORIES, 524287)},
      'normal', 'standard', 'planned', 3, 'p1', 'p2', 'look',
      (${stateList})[at], (${kindList})[at], now() - interval '1 hour' * (n % 300), 'a' || lpad(n::text, 6, '0') || 'V', case when at = 9 then 'delivered' end,
      now() - interval '10 days', case when at = 9 then now() - interval '1 hour' * (n % 300) end, case when at = 9 then now() - interval '1 hour' * (n % 300) end,
      jsonb_build_array(jsonb_build_object('from', extract(epoch from now() - interval '10 days')::bigint * 1000, 'to', case when at = 9 then extract(epoch from now())::bigint * 1000 end)),
      0, '[]', now() - interval '300 days' + interval '1 hour' * n, now(), 15
    from (select n, case when n > ${ITEMS_PER_PROJECT - open} then 2 + n % 7 else 9 end as at from generate_series(1, ${ITEMS_PER_PROJECT}) n) x`);
  await db.execute(sql`
    insert into item_key (prefix, number, item_id, since)
    select p.key, i.number, i.id, i.created_at from item i join project p on p.id = i.project_id where p.id = ${id}`);
  await db.execute(sql`
    insert into stay (item_id, project_id, entered_seq, state_id, kind, entered_at, left_at)
    select i.id, i.project_id, s, (${stateList})[s], (${kindList})[s], i.created_at + interval '1 hour' * (s * (3 + i.number % 27)),
      case when (${stateList})[s] = i.state_id then null else i.created_at + interval '1 hour' * ((s + 1) * (3 + i.number % 27)) end
    from item i cross join generate_series(1, 9) s
    where i.project_id = ${id} and s <= array_position(${stateList}, i.state_id)`);
  await db.execute(sql`
    insert into flow_passage (item_id, seq, project_id, at, kind, outcome, elapsed_ms, since_last_ms, times)
    select s.item_id, s.entered_seq, ${id}, s.entered_at, 'start', null, null, null, null
    from stay s join item i on i.id = s.item_id where i.project_id = ${id} and s.entered_seq = 2
    union all
    select s.item_id, s.entered_seq, ${id}, s.entered_at, 'delivered', i.outcome, t.ms, t.ms,
      (select jsonb_object_agg(b.state_id, jsonb_build_object('kind', b.kind, 'spentMs', t.ms / 7, 'blockedMs', 0))
        from stay b where b.item_id = s.item_id and b.kind in ('waiting', 'working'))
    from stay s join item i on i.id = s.item_id
    cross join lateral (select (extract(epoch from interval '1 hour' * (7 * (3 + i.number % 27))) * 1000)::bigint as ms) t
    where i.project_id = ${id} and s.kind = 'finished'`);
  await db.execute(sql`
    insert into comment (id, item_id, author_id, body, at)
    select gen_random_uuid(), i.id, 'p1', ${pick(FINDINGS, 8191)} || ' ' || ${pick(WHY_STORIES, 131071)} || ' Number ' || n || '.', i.created_at + interval '1 hour' * c
    from item i cross join generate_series(1, ${COMMENTS_PER_ITEM}) c cross join lateral (select i.number * ${COMMENTS_PER_ITEM} + c as n) x
    where i.project_id = ${id}`);
  await db.execute(sql`
    insert into item_event (item_id, seq, at, actor_id, cause, command_id, kind, field, old, new)
    select i.id, s, i.created_at + interval '1 hour' * s, 'p1', 'demo', gen_random_uuid(), case when s = 1 then 'created' else 'changed' end, 'estimate', '1', '2'
    from item i cross join generate_series(1, 15) s where i.project_id = ${id}`);
}
