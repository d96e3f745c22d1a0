import { sql } from "drizzle-orm";
import { database, pool } from "@/db/connection";
import { membership } from "@/db/schema";
import type { Viewer } from "@/server/people/viewer";
import { readToday } from "@/server/today/read";
import { PROJECTS } from "./organisation";
import { p95, timed, type Row } from "./row";

const BUSY: Viewer = { personId: "p7", name: "Person 7", administrator: false };
const EACH = 15;

/** What a day is made of, as anybody would ask the database for it. */
const BARE = [
  `select * from item where assignee_id = $1 and state_kind in ('waiting', 'working')
    and withdrawn_at is null`,
  `select * from item where assignee_id = $1 and due_on is not null
    and state_kind <> 'finished' and withdrawn_at is null`,
  `select * from item where reviewer_id = $1 and state_kind in ('waiting', 'working')
    and withdrawn_at is null`,
  `select c.* from comment c where c.asks <> '[]' and c.asks @> to_jsonb(array[$1::text])`,
  `select * from alert where person_id = $1 and read_at is null order by last_at desc limit 100`,
  `select i.* from item i where i.project_id = 'b1' and i.state_kind = 'unstarted'
    and i.withdrawn_at is null and $1 <> '' order by i.rank limit 100`,
];

/** The day of somebody with 300 open items over 20 projects, beside its bare queries. */
export async function dayOfTheBusiest(): Promise<Row> {
  const db = database();
  for (let p = 1; p <= PROJECTS; p++) {
    await db
      .insert(membership)
      .values({ projectId: `b${p}`, personId: "p7", role: "member" })
      .onConflictDoNothing();
    await db.execute(sql`update item set assignee_id = 'p7' where id in (
      select id from item where project_id = ${`b${p}`} and state_kind in ('waiting', 'working')
      and withdrawn_at is null limit ${EACH})`);
  }
  const ours = () => readToday(BUSY, "BIG1");
  const bare = () => Promise.all(BARE.map((text) => pool().query(text, ["p7"])));
  await timed(3, ours);
  await timed(3, bare);
  return {
    what: `Today of a person with ${PROJECTS * EACH} open items over ${PROJECTS} projects, p95`,
    measured: p95(await timed(30, ours)),
    yardstick: p95(await timed(30, bare)),
    against: "its bare queries",
    reach: 3,
  };
}
