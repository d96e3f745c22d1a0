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

/** The query of a board's rows, answered with as many bytes as the board's own answer has. */
export async function sendRows(request: Request): Promise<Response> {
  if (!(await viewerOf(request.headers))) return notSignedIn();
  const { searchParams } = new URL(request.url);
  const states = searchParams.get("states")!.split(",");
  await pool().query(BOARD_ROWS, [states]);
  const bytes = Number(searchParams.get("bytes"));
  return new Response("x".repeat(bytes), { headers: { "Content-Type": "application/json" } });
}

/** Everything that stands in some states, finished in the last two weeks. */
export const BOARD_ROWS =
  "select * from item where state_id = any($1) and withdrawn_at is null and (state_kind <> 'finished' or entered_state_at >= now() - interval '14 days') order by rank";
