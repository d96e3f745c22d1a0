import { sql } from "drizzle-orm";
import { forecastReach, type PastWeek } from "@/core/forecast/reach";
import { seededRandom } from "@/core/forecast/random";
import { database, pool } from "@/db/connection";
import { progressOf } from "@/server/plan/large-pieces";
import { median, timed, type Row } from "./row";

const TRIALS = 10_000;
const WEEKS = 52;

/** Ten thousand trials of a year, with all that is asked of them, beside the draws alone. */
export async function forecast(): Promise<Row> {
  const random = seededRandom(3);
  const weeks: PastWeek[] = Array.from({ length: 26 }, () =>
    Array.from({ length: 7 }, (_, day) => (day < 5 ? random.index(4) : 0)),
  );
  const facts = { weeks, ahead: 30, took: Array.from({ length: 200 }, (_, i) => (i % 20) + 1) };
  const measured = median(
    await timed(5, async () => void forecastReach(facts, { rows: 2_000, seed: 7, trials: TRIALS })),
  );
  const yardstick = median(await timed(5, async () => void bareDraws(weeks)));
  return {
    what: "10,000 trials of 52 weeks of a backlog of 2,000",
    measured,
    yardstick,
    against: "drawing the same weeks and adding up their days",
    reach: 2,
  };
}

/** As many draws, and nothing but the sums of their days. */
function bareDraws(weeks: readonly PastWeek[]): number {
  const daily = Uint32Array.from(weeks.flat());
  const random = seededRandom(7);
  let sum = 0;
  for (let trial = 0; trial < TRIALS; trial++) {
    let delivered = 0;
    for (let week = 0; week < WEEKS; week++) {
      const drawn = random.index(weeks.length) * 7;
      for (let day = 0; day < 7; day++) delivered += daily[drawn + day];
    }
    sum += delivered;
  }
  return sum;
}

const PIECES = 100;

/**
 * What is under the large pieces of ten projects, added up: a tree of 50,000 items. The pieces are
 * made of items that are there, and everything else is put under them.
 */
export async function rollUp(): Promise<Row> {
  const db = database();
  const projects = Array.from({ length: 10 }, (_, i) => `b${i + 11}`);
  const among = sql`${sql.param(projects)}::text[]`;
  await db.execute(sql`
    insert into item_type (project_id, id, name, glyph, level, workflow_id, position)
    select t.project_id, 'piece', 'Piece', 'wave', 2, t.workflow_id, 99
    from item_type t where t.project_id = any(${among}) and t.level = 1
    on conflict do nothing`);
  const { rows } = await db.execute<{ id: string }>(sql`
    update item set type_id = 'piece', parent_id = null where id in (
      select id from item where project_id = any(${among}) order by id limit ${PIECES})
    returning id`);
  const ids = rows.map(({ id }) => id);
  await db.execute(sql`
    update item set parent_id = (${sql.param(ids)}::uuid[])[1 + (number % ${PIECES})]
    where project_id = any(${among}) and type_id <> 'piece'`);
  await db.execute(sql`analyze item`);
  const bare = () =>
    pool().query(
      `with recursive under (piece, id) as (
        select p.id, p.id from unnest($1::uuid[]) as p (id)
        union all
        select u.piece, i.id from under u join item i on i.parent_id = u.id
      )
      select u.piece, count(*), sum(i.estimate), count(*) filter (where i.state_kind = 'finished')
      from under u join item i on i.id = u.id group by 1`,
      [ids],
    );
  await bare();
  await progressOf(db, ids);
  const measured = median(await timed(7, () => progressOf(db, ids)));
  const yardstick = median(await timed(7, bare));
  return {
    what: "how far 100 large pieces are, over a tree of 50,000 items, median",
    measured,
    yardstick,
    against: "one recursive SQL query",
    reach: 3,
  };
}
