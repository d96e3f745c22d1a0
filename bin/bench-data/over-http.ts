import { gzipSync } from "node:zlib";
import { v7 as newId } from "uuid";
import { boardContract } from "@/core/board/contract";
import { flowContract } from "@/core/flow/contract";
import { itemContract } from "@/core/item/contract";
import { pool } from "@/db/connection";
import { boardInBrowser } from "./board-in-browser";
import { timelineInBrowser } from "./timeline-in-browser";
import { givePassword, startApplication, type Application } from "./application";
import { PROJECTS } from "./organisation";
import { median, p95, timed, type Row } from "./row";

/*
 * What people wait for, asked as their browsers ask, beside bare handlers in the same process
 * (bare-routes.ts).
 */

const WRITERS = 64;
const BUILDING = "b1-2";
const WAITING_FOR_REVIEW = "b1-3";

const idsIn = async (stateId: string, most: number) =>
  (
    await pool().query<{ id: string }>(
      "select id from item where state_id = $1 and withdrawn_at is null order by number desc limit $2",
      [stateId, most],
    )
  ).rows.map((row) => row.id);

const move = (app: Application, itemId: string, from: string, to: string) =>
  app.ask(itemContract.command, {
    body: { commandId: newId(), itemId, command: { kind: "move", from, to, answers: {} } },
  });

const moveBarely = (app: Application, itemId: string, to: string, limitOf?: string) =>
  app.send("/api/bench/move", { method: "POST", body: JSON.stringify({ itemId, to, limitOf }) });

async function oneMove(app: Application): Promise<Row> {
  const ids = await idsIn(BUILDING, 230);
  const there = (i: number) => move(app, ids[i], BUILDING, WAITING_FOR_REVIEW);
  const bare = (i: number) => moveBarely(app, ids[i], BUILDING);
  await timed(30, there);
  await timed(30, bare);
  const measured = p95(await timed(200, (i) => there(30 + i)));
  const yardstick = p95(await timed(200, (i) => bare(30 + i)));
  return {
    what: "move an item, over HTTP, p95",
    measured,
    yardstick,
    against: "a bare route that reads the session and writes the same rows",
    reach: 2,
  };
}

/** So many at once, each its own items one after the other. @returns moves a second */
async function moved(
  ids: readonly string[],
  one: (id: string) => Promise<unknown>,
): Promise<number> {
  const start = performance.now();
  await Promise.all(
    Array.from({ length: WRITERS }, async (_, writer) => {
      for (let i = writer; i < ids.length; i += WRITERS) await one(ids[i]);
    }),
  );
  return ids.length / ((performance.now() - start) / 1000);
}

async function manyMoves(app: Application): Promise<Row> {
  const limitOf = "b1-c2";
  await pool().query("update wip_limit set max_firm = true where owner_id = $1", [limitOf]);
  const ids = await idsIn(WAITING_FOR_REVIEW, 256);
  const back = (id: string) => move(app, id, WAITING_FOR_REVIEW, BUILDING);
  const forth = (id: string) => move(app, id, BUILDING, WAITING_FOR_REVIEW);
  const bare = (id: string) => moveBarely(app, id, WAITING_FOR_REVIEW, limitOf);
  await moved(ids, back);
  const measured = await moved(ids, forth);
  await moved(ids, bare);
  const yardstick = await moved(ids, bare);
  return {
    what: `moves a second, ${WRITERS} writers against one firm limit, over HTTP`,
    measured,
    yardstick,
    against: "the bare route, which takes the same limit row first",
    reach: 0.5,
    moreIsBetter: true,
    unit: "a second",
  };
}

async function measures(app: Application, before: number): Promise<Row[]> {
  const all = async () => {
    for (let p = 1; p <= PROJECTS; p++)
      await app.ask(flowContract.learn, {
        params: { key: `BIG${p}` },
        query: { period: "39 weeks" },
      });
  };
  const pass = () =>
    pool().query(
      "select i.project_id, s.state_id, count(*), sum(extract(epoch from coalesce(s.left_at, now()) - s.entered_at)) from stay s join item i on i.id = s.item_id join item_type t on t.project_id = i.project_id and t.id = i.type_id where t.level >= 1 and i.withdrawn_at is null group by 1, 2",
    );
  await pass();
  const [first] = await timed(1, all);
  const yardstick = median(await timed(5, pass));
  return [
    {
      what: "all measures of all projects, over HTTP, the first time after a start",
      measured: first,
      yardstick,
      against: "one plain pass over the same rows in SQL",
      reach: 3,
    },
    {
      what: "memory of the application after them",
      measured: app.memory(),
      yardstick: before + 150,
      against: `after its start (${before.toFixed(0)} MB), and 150 MB`,
      reach: 1,
      unit: "MB",
    },
  ];
}

async function board(app: Application): Promise<Row[]> {
  const states = (
    await pool().query("select state_id from column_state where board_id = 'b2-board'")
  ).rows.map((row) => String(row.state_id));
  const page = async () => (await app.send("/p/BIG2/flow")).text();
  const html = await page();
  const data = async () =>
    (await app.ask(boardContract.read, { params: { key: "BIG2" }, query: {} })).text();
  const bytes = (await data()).length;
  const bare = async () =>
    (await app.send(`/api/bench/board?states=${states.join(",")}&bytes=${bytes}`)).text();
  await timed(5, data);
  await timed(5, bare);
  const perSecond = (times: number[]) => 1000 / median(times);
  return [
    {
      what: "page of a board with 40 items in progress and 5,000 finished, compressed",
      measured: gzipSync(html).length / 1000,
      yardstick: 60,
      against: "60 kB",
      reach: 1,
      unit: "kB",
    },
    {
      what: `its data, answers a second (${(bytes / 1000).toFixed(0)} kB)`,
      measured: perSecond(await timed(40, data)),
      yardstick: perSecond(await timed(40, bare)),
      against: "an answer that runs the same rows' query and sends as many bytes",
      reach: 0.5,
      moreIsBetter: true,
      unit: "a second",
    },
  ];
}

const LONG_BACKLOG = 10_000;
const SHORT_BACKLOG = 100;

/**
 * Two projects have a backlog and a past until today to foretell from: one a backlog of all its items
 * and of another project's, one of few, as the others are finished.
 */
async function onlyBacklogs(): Promise<void> {
  await pool().query(
    "update item set project_id = 'b20', number = number + 100000 where project_id = 'b18'",
  );
  const into = "state_id = project_id || '-0', state_kind = 'unstarted', finished_at = null";
  await pool().query(
    `update item set ${into} where project_id = 'b20' or (project_id = 'b19' and number <= $1)`,
    [SHORT_BACKLOG],
  );
  await pool().query(
    `update item set state_id = 'b19-8', state_kind = 'finished', outcome = 'delivered',
      finished_at = coalesce(finished_at, now()) where project_id = 'b19' and number > $1`,
    [SHORT_BACKLOG],
  );
  await pool().query(
    `update flow_passage p set at = p.at + (now() - last.at)
    from (select project_id, max(at) as at from flow_passage group by 1) last
    where last.project_id = p.project_id and p.project_id in ('b19', 'b20')`,
  );
  await pool().query("analyze item");
  await pool().query("analyze flow_passage");
}

async function backlog(app: Application): Promise<Row[]> {
  await onlyBacklogs();
  const open = (key: string) => async () => (await app.send(`/p/${key}/plan`)).text();
  await timed(3, open("BIG20"));
  await timed(3, open("BIG19"));
  const long = LONG_BACKLOG.toLocaleString("en");
  const against = `the same of ${SHORT_BACKLOG}`;
  return [
    {
      what: `open a backlog of ${long}, median`,
      measured: median(await timed(15, open("BIG20"))),
      yardstick: median(await timed(15, open("BIG19"))),
      against,
      reach: 1.5,
    },
    {
      what: `give a row of a backlog of ${long} another place, median`,
      measured: median(await timed(60, await placing(app, "b20"))),
      yardstick: median(await timed(60, await placing(app, "b19"))),
      against,
      reach: 1.5,
    },
  ];
}

/** Puts rows of a backlog behind others, one after the other. */
async function placing(app: Application, projectId: string) {
  const { rows } = await pool().query<{ id: string }>(
    'select id from item where project_id = $1 and withdrawn_at is null order by rank collate "C" limit 100',
    [projectId],
  );
  const place = (i: number) =>
    app.ask(itemContract.command, {
      body: {
        commandId: newId(),
        itemId: rows[i % 50].id,
        command: { kind: "place", below: rows[50 + (i % 50)].id },
      },
    });
  await timed(10, place);
  return place;
}

/** All that is measured through the product as it runs. */
export async function overHttp(): Promise<Row[]> {
  await givePassword();
  const app = await startApplication();
  try {
    await app.send("/api/health");
    const before = app.memory();
    return [
      ...(await measures(app, before)),
      await oneMove(app),
      await manyMoves(app),
      ...(await board(app)),
      ...(await boardInBrowser(app)),
      await timelineInBrowser(app),
      ...(await backlog(app)),
    ];
  } finally {
    await app.stop();
  }
}
