import { z } from "zod";
import { nameSchema } from "./name";
import { mailSchema, passwordSchema } from "./request";

/** As what somebody is invited; whoever is to lead is made so by a lead once they are there. */
export const INVITED_ROLES = ["member", "observer"] as const;
export type InvitedRole = (typeof INVITED_ROLES)[number];

/** For so many days an invitation can be used. */
export const INVITATION_DAYS = [1, 7, 14, 30] as const;
/** So many people one link lets in at most. */
export const MOST_USES = 500;
/** So many addresses are written to at once. */
export const MOST_INVITED = 50;

const terms = {
  role: z.enum(INVITED_ROLES),
  days: z.union(INVITATION_DAYS.map((days) => z.literal(days))),
};

export const inviteBody = z.discriminatedUnion("kind", [
  /** A letter to each of some addresses, with a link that only they can use. */
  z.object({
    kind: z.literal("mail"),
    emails: z
      .array(mailSchema)
      .min(1, "Name at least one mail address.")
      .max(MOST_INVITED, `Invite at most ${MOST_INVITED} people at once.`),
    ...terms,
  }),
  /** One link for several people. */
  z.object({
    kind: z.literal("link"),
    uses: z.number().int().min(1).max(MOST_USES, `A link lets in at most ${MOST_USES} people.`),
    ...terms,
  }),
  z.object({ kind: z.literal("revoke"), id: z.uuid() }),
]);
export type InviteRequest = z.output<typeof inviteBody>;

/** Whoever comes by an invitation and has no account yet. */
export const joinBody = z.object({ name: nameSchema, email: mailSchema, password: passwordSchema });
export type JoinRequest = z.output<typeof joinBody>;

/** How it stands with an invitation. */
export type InvitationStanding = "open" | "used up" | "ended" | "revoked";

interface Invited {
  until: number;
  uses: number;
  mostUses: number;
  revokedAt: number | null;
}

/** @param now milliseconds since 1970 */
export function standingOf(
  { until, uses, mostUses, revokedAt }: Invited,
  now: number,
): InvitationStanding {
  if (revokedAt !== null) return "revoked";
  if (uses >= mostUses) return "used up";
  return until <= now ? "ended" : "open";
}

/** An invitation as the leads of its project see it; of its link nothing is kept. */
export interface InvitationRow extends Invited {
  id: string;
  role: InvitedRole;
  /** Whom it was sent to; null where it is a link for several. */
  email: string | null;
  by: string;
  madeAt: number;
  standing: InvitationStanding;
}

export interface InvitationsView {
  /** Those that are open first, the newest first. */
  invitations: InvitationRow[];
  /** Whether letters leave the product; without, links are handed over. */
  mailGoesOut: boolean;
}

/** What was just made: a link that is shown once. Null where it went out by mail. */
export interface Invitations extends InvitationsView {
  links: { email: string | null; token: string; until: number }[];
}

/** What an invitation says to whoever holds its link. */
export interface JoinView {
  projectName: string;
  role: InvitedRole;
  by: string;
  /** Whom it was sent to. */
  email: string | null;
  /** Who is signed in just now. */
  signedInAs: string | null;
}
