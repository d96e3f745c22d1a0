import { health } from "@/server/health";

export const dynamic = "force-dynamic";

/**
 * The state of database and worker. 200 while the application can work, 503 while the database is
 * away.
 */
export async function GET(): Promise<Response> {
  const state = await health();
  return Response.json(state, {
    status: state.database === "up" ? 200 : 503,
    headers: { "Cache-Control": "no-store" },
  });
}
