import { sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import * as table from "@/db/schema";
import type { Viewer } from "@/server/people/viewer";
import { readWhatIsWhere } from "@/server/ship/read-what-is-where";
import { p95, timed, type Row } from "./row";

const ITEMS = 10_000;
const COMMITS = 12_000;
/** How many of the commits, in their order, each environment has. */
const REACHED = { development: 11_900, test: 11_500, acceptance: 11_000, live: 10_000 };
const SHOWN = 300;

/** The picture of what is where over many items, beside one query that is written for it. */
export async function pictureOfAll(viewer: Viewer): Promise<Row> {
  const repositoryId = await makeRepository();
  const bare = () => readBarely(repositoryId);
  const { rows } = await readWhatIsWhere(viewer, "BIG1");
  await timed(3, bare);
  const measured = p95(await timed(30, () => readWhatIsWhere(viewer, "BIG1")));
  const yardstick = p95(await timed(30, bare));
  return {
    what: `what is where over ${ITEMS.toLocaleString("en")} items (${rows.length} on their way shown), p95`,
    measured,
    yardstick,
    against: "one query that reads the same rows",
    reach: 3,
  };
}

/** A main with a commit or two for each item, and four environments that have come so far. */
async function makeRepository(): Promise<string> {
  const db = database();
  const [sourceId, repositoryId] = [newId(), newId()];
  const at = Date.now();
  await db.insert(table.eventSource).values({
    ...{ id: sourceId, projectId: "b1", name: "Host", secret: "whsec_", createdBy: "p0" },
    createdAt: at,
  });
  await db
    .insert(table.codeRepository)
    .values({ id: repositoryId, sourceId, name: "app", firstHeardAt: at });
  await db.execute(sql`
    insert into ${table.codeCommit} (repository_id, hash, parents, author_name, author_mail, message,
      authored_at, branch, pushed_at, main_at)
    select ${repositoryId}::uuid, lpad(n::text, 40, '0'),
      case when n = 1 then '{}'::text[] else array[lpad((n - 1)::text, 40, '0')] end,
      'Person 0', 'p0@saltmarsh.example', 'words', t, 'main', t, t
    from (select n, now() - (${COMMITS} - n) * interval '10 minutes' as t
      from generate_series(1, ${COMMITS}) n) c`);
  await db.execute(sql`
    insert into ${table.itemCode} (item_id, repository_id, kind, name)
    select i.id, ${repositoryId}::uuid, 'commit', lpad(n::text, 40, '0')
    from (select id, row_number() over (order by id) as place from ${table.item}
      where project_id in ('b1', 'b2')) i
    join generate_series(1, ${COMMITS}) n on n = i.place or n = i.place + ${ITEMS}
    where i.place <= ${ITEMS}`);
  const environments = Object.entries(REACHED);
  await db.insert(table.environment).values(
    environments.map(([name], position) => ({
      ...{ id: newId(), projectId: "b1", name, position, live: name === "live" },
    })),
  );
  for (const [environment, reached] of environments) {
    const there = { repositoryId, environment, part: "app" };
    await db.insert(table.deployment).values({
      ...{ id: newId(), ...there, called: environment, outcome: "deployed", complete: true },
      ...{ build: "1", commit: String(reached).padStart(40, "0"), at },
    });
    await db.execute(sql`
      insert into ${table.commitStanding} (repository_id, environment, part, hash, since, first_at)
      select ${repositoryId}::uuid, ${environment}, 'app', lpad(n::text, 40, '0'), t, t
      from (select n, now() - interval '30 days' as t from generate_series(1, ${reached}) n) c`);
  }
  await db.execute(sql`analyze`);
  return repositoryId;
}

/** What the picture shows, as somebody would ask for it who wants nothing else. */
const readBarely = (repositoryId: string) =>
  database().execute(sql`
    with own as (
      select l.item_id, c.hash, c.main_at from ${table.itemCode} l
      join ${table.codeCommit} c on c.repository_id = l.repository_id and c.hash = l.name
      where l.repository_id = ${repositoryId} and l.kind = 'commit' and c.main_at is not null
    ), way as (
      select item_id, max(main_at) as merged_at from own
      where not exists (select 1 from ${table.commitStanding} s
        where s.repository_id = ${repositoryId} and s.hash = own.hash
          and s.environment = 'live' and s.gone_at is null)
      group by item_id order by merged_at desc limit ${SHOWN}
    )
    select i.id, i.number, i.title, i.type_id, w.merged_at, s.environment, count(*), max(s.since)
    from way w
    join ${table.item} i on i.id = w.item_id
    join own on own.item_id = w.item_id
    left join ${table.commitStanding} s on s.repository_id = ${repositoryId}
      and s.hash = own.hash and s.gone_at is null
    group by i.id, i.number, i.title, i.type_id, w.merged_at, s.environment`);
