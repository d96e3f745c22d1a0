import { auth } from "./auth";

/** On whose behalf something is done to an item: a signed-in person, or nobody in particular. */
export interface Principal {
  personId: string | null;
  name: string;
  administrator: boolean;
  /** The person behind a report, who has no account and only makes the moves that are theirs. */
  requester?: boolean;
}

/** The signed-in person on whose behalf a use case runs. */
export interface Viewer extends Principal {
  personId: string;
}

/** What happens by itself: it may do what any rule allows, and goes beyond no limit. */
export const AUTOMATION: Principal = { personId: null, name: "Zigzag Lane", administrator: true };

/** Somebody known by the token of a private page, whose report led to an item. */
export const REQUESTER: Principal = {
  personId: null,
  name: "The requester",
  administrator: true,
  requester: true,
};

/** The account that a request's session belongs to; null without a valid session. */
export async function accountOf(
  headers: Headers,
): Promise<{ id: string; name: string; email: string; administrator?: boolean | null } | null> {
  if (!headers.get("cookie")) return null;
  const session = await auth().api.getSession({ headers });
  return session?.user ?? null;
}

/** Who sends this request; null without a valid session. */
export async function viewerOf(headers: Headers): Promise<Viewer | null> {
  const account = await accountOf(headers);
  return (
    account && {
      personId: account.id,
      name: account.name,
      administrator: account.administrator === true,
    }
  );
}
