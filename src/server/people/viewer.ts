import { auth } from "./auth";

/** The signed-in person on whose behalf a use case runs. */
export interface Viewer {
  personId: string;
  name: string;
  administrator: boolean;
}

/** Who sends this request; null without a valid session. */
export async function viewerOf(headers: Headers): Promise<Viewer | null> {
  if (!headers.get("cookie")) return null;
  const session = await auth().api.getSession({ headers });
  if (!session) return null;
  const { id, name, administrator } = session.user as { id: string; name: string; administrator?: boolean | null };
  return { personId: id, name, administrator: administrator === true };
}
