import { FINISHED_CARDS_SENT } from "@/core/board/finished";
import { pool } from "@/db/connection";
import { viewerOf } from "@/server/people/viewer";
import { writeMove } from "./bare-move";

/*
 * What routes are measured against: handlers that know who asks and do the database's part alone.
 * They are built for measuring only (next.config.ts).
 */

const notSignedIn = () => new Response(null, { status: 401 });

/** The rows of a move, without a rule asked. */
export async function moveBarely(request: Request): Promise<Response> {
  if (!(await viewerOf(request.headers))) return notSignedIn();
  const { itemId, to, limitOf } = (await request.json()) as Record<string, string>;
  const client = await pool().connect();
  try {
    await writeMove(client, itemId, to, limitOf ?? null);
  } finally {
    client.release();
  }
  return Response.json({ done: true });
}

/** The queries of a board's rows, answered with as many bytes as the board's own answer has. */
export async function sendRows(request: Request): Promise<Response> {
  if (!(await viewerOf(request.headers))) return notSignedIn();
  const { searchParams } = new URL(request.url);
  const states = searchParams.get("states")!.split(",");
  await readRowsBarely(states);
  const bytes = Number(searchParams.get("bytes"));
  return new Response("x".repeat(bytes), { headers: { "Content-Type": "application/json" } });
}

/** The rows that a board with some states reads; answers how many. */
export async function readRowsBarely(states: readonly string[]): Promise<number> {
  const finished = await pool().query<{ id: string }>(FINISHED_TIMES, [states]);
  const latest = finished.rows.slice(0, FINISHED_CARDS_SENT).map((row) => row.id);
  const cards = await pool().query(BOARD_ROWS, [states, latest]);
  return finished.rows.length + cards.rows.length;
}

/** When everything began and ended that stands in some states and finished in the last two weeks. */
const FINISHED_TIMES =
  "select id, state_id, class_of_service, clock, delivered_at, finished_at from item where state_id = any($1) and withdrawn_at is null and state_kind = 'finished' and entered_state_at >= now() - interval '14 days' order by entered_state_at desc";

/** Everything open that stands in some states, and the latest of what has finished. */
const BOARD_ROWS =
  "select * from item where state_id = any($1) and withdrawn_at is null and (state_kind <> 'finished' or id = any($2::uuid[])) order by rank";
