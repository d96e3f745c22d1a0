import { createHmac, randomBytes, timingSafeEqual } from "node:crypto";

/** Somebody as a stand-in knows them. */
export interface EnteredPerson {
  name: string;
  mail: string;
}

/** So long a link of the product lets somebody in, and so long they stay. */
const DAY = 86_400_000;

/**
 * Who is signed in, by a link from the product: it says who comes, until when the link holds and where
 * to, and is signed with a secret that both know. A link lets in once.
 */
export class Entry {
  private readonly sessions = new Map<string, { person: EnteredPerson; until: number }>();
  private readonly used = new Set<string>();

  constructor(
    private readonly secret: string,
    /** Cookies know no ports: each stand-in has a name of its own for its session. */
    private readonly cookie: string,
  ) {}

  /** @returns the session that begins, and where somebody wanted to; null where the link is none */
  enter(query: URLSearchParams, now = Date.now()): { session: string; to: string } | null {
    const [person, mail, until, to, given] = ["person", "mail", "until", "to", "signed"].map(
      (name) => query.get(name) ?? "",
    );
    const wanted = Buffer.from(signEntry(this.secret, { person, mail, until, to }));
    const signed = Buffer.from(given);
    if (wanted.length !== signed.length || !timingSafeEqual(wanted, signed)) return null;
    if (!(Number(until) > now) || this.used.has(given)) return null;
    this.used.add(given);
    const session = randomBytes(24).toString("base64url");
    this.sessions.set(session, { person: { name: person, mail }, until: now + DAY });
    return { session, to: /^\/(?!\/)/.test(to) ? to : "/" };
  }

  /** The cookie of a session, or the one that ends it. */
  cookieOf(session: string | null): string {
    return session === null
      ? `${this.cookie}=; Path=/; Max-Age=0`
      : `${this.cookie}=${session}; Path=/; HttpOnly; SameSite=Lax`;
  }

  personOf(cookie: string | undefined, now = Date.now()): EnteredPerson | null {
    const said = new RegExp(`(?:^|;\\s*)${this.cookie}=([\\w-]+)`).exec(cookie ?? "");
    const session = said?.[1] ?? "";
    const found = this.sessions.get(session);
    return found && found.until > now ? found.person : null;
  }
}

/** What the product signs. */
export const signEntry = (
  secret: string,
  said: { person: string; mail: string; until: string; to: string },
): string =>
  createHmac("sha256", secret)
    .update(JSON.stringify([said.person, said.mail, said.until, said.to]))
    .digest("base64url");
