import type { Duty, DutyHolderKind } from "@/core/people/duty";
import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from "drizzle-orm/pg-core";
import type { InvitedRole } from "@/core/people/invitation";
import { instant } from "./columns";
import { project } from "./project";

const at = (name: string) => timestamp(name, { withTimezone: true });

/** People who can sign in. The columns up to `updatedAt` are what better-auth keeps of a user. */
export const person = pgTable("person", {
  id: text("id").primaryKey(),
  name: text("name").notNull(),
  email: text("email").notNull().unique(),
  emailVerified: boolean("email_verified").notNull().default(false),
  image: text("image"),
  createdAt: at("created_at").notNull().defaultNow(),
  updatedAt: at("updated_at").notNull().defaultNow(),
  administrator: boolean("administrator").notNull().default(false),
  /** What they do, in a word or two. */
  calling: text("calling"),
  /** When they left: from then on they cannot sign in, and what they did keeps their name. */
  endedAt: instant("ended_at"),
});

export const session = pgTable(
  "session",
  {
    id: text("id").primaryKey(),
    token: text("token").notNull().unique(),
    userId: text("user_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    expiresAt: at("expires_at").notNull(),
    ipAddress: text("ip_address"),
    userAgent: text("user_agent"),
    createdAt: at("created_at").notNull().defaultNow(),
    updatedAt: at("updated_at").notNull().defaultNow(),
  },
  (t) => [index("session_user").on(t.userId)],
);

export const account = pgTable(
  "account",
  {
    id: text("id").primaryKey(),
    accountId: text("account_id").notNull(),
    providerId: text("provider_id").notNull(),
    userId: text("user_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    accessToken: text("access_token"),
    refreshToken: text("refresh_token"),
    idToken: text("id_token"),
    accessTokenExpiresAt: at("access_token_expires_at"),
    refreshTokenExpiresAt: at("refresh_token_expires_at"),
    scope: text("scope"),
    password: text("password"),
    createdAt: at("created_at").notNull().defaultNow(),
    updatedAt: at("updated_at").notNull().defaultNow(),
  },
  (t) => [index("account_user").on(t.userId)],
);

export const verification = pgTable("verification", {
  id: text("id").primaryKey(),
  identifier: text("identifier").notNull(),
  value: text("value").notNull(),
  expiresAt: at("expires_at").notNull(),
  createdAt: at("created_at").notNull().defaultNow(),
  updatedAt: at("updated_at").notNull().defaultNow(),
});

/**
 * Where a person has signed in from, kept when they sign out: others cannot lock them out there.
 */
export const signedInFrom = pgTable(
  "signed_in_from",
  {
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    address: text("address").notNull(),
    lastAt: at("last_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.personId, t.address] })],
);

/** A link that sets a person's password once. Of the link itself only a digest is kept. */
export const passwordLink = pgTable(
  "password_link",
  {
    digest: text("digest").primaryKey(),
    personId: text("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    madeById: text("made_by_id").references(() => person.id),
    madeAt: instant("made_at").notNull(),
    until: instant("until").notNull(),
    usedAt: instant("used_at"),
  },
  (t) => [index("password_link_person").on(t.personId)],
);

/** A way into a project, for one address or for several people. Of its link only a digest is kept. */
export const invitation = pgTable(
  "invitation",
  {
    id: uuid("id").primaryKey(),
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    role: text("role").$type<InvitedRole>().notNull(),
    digest: text("digest").notNull().unique(),
    /** Whom it was sent to; null for whoever has the link. */
    email: text("email"),
    madeById: text("made_by_id")
      .notNull()
      .references(() => person.id),
    madeAt: instant("made_at").notNull(),
    until: instant("until").notNull(),
    mostUses: integer("most_uses").notNull(),
    uses: integer("uses").notNull().default(0),
    revokedAt: instant("revoked_at"),
  },
  (t) => [
    index("invitation_project").on(t.projectId),
    check("invitation_role", sql`${t.role} in ('member', 'observer')`),
    check("invitation_uses", sql`${t.uses} between 0 and ${t.mostUses}`),
  ],
);

/**
 * Letters about accounts: invitations and links for a new password. What one says is emptied once it
 * is out.
 */
export const accountLetter = pgTable(
  "account_letter",
  {
    id: uuid("id").primaryKey(),
    recipient: text("recipient").notNull(),
    subject: text("subject").notNull(),
    body: text("body").notNull(),
    dueAt: instant("due_at").notNull(),
    tries: integer("tries").notNull().default(0),
    sentAt: instant("sent_at"),
    failed: text("failed"),
  },
  (t) => [
    index("account_letter_due")
      .on(t.dueAt)
      .where(sql`${t.sentAt} is null and ${t.failed} is null`),
  ],
);

/** The one row of what this database was begun with. */
export const installation = pgTable(
  "installation",
  {
    id: integer("id").primaryKey(),
    world: text("world", { enum: ["demo", "own"] }).notNull(),
    begunAt: instant("begun_at").notNull(),
  },
  (t) => [
    check("installation_one", sql`${t.id} = 1`),
    check("installation_world", sql`${t.world} in ('demo', 'own')`),
  ],
);

export const team = pgTable("team", {
  id: text("id").primaryKey(),
  name: text("name").notNull().unique(),
});

export const teamMember = pgTable(
  "team_member",
  {
    teamId: text("team_id")
      .notNull()
      .references(() => team.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
  },
  (t) => [primaryKey({ columns: [t.teamId, t.personId] })],
);

/** Who does what in a project: persons or teams. */
export const duty = pgTable(
  "duty",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    duty: text("duty").$type<Duty>().notNull(),
    holderKind: text("holder_kind").$type<DutyHolderKind>().notNull(),
    holderId: text("holder_id").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.duty, t.holderKind, t.holderId] }),
    check(
      "duty_name",
      sql`${t.duty} in ('triages', 'reviews', 'tests', 'releases', 'accepts', 'plans')`,
    ),
    check("duty_holder", sql`${t.holderKind} in ('person', 'team')`),
  ],
);

/** The role a person has in a project. Administrators need none. */
export const membership = pgTable(
  "membership",
  {
    projectId: text("project_id")
      .notNull()
      .references(() => project.id),
    personId: text("person_id")
      .notNull()
      .references(() => person.id),
    role: text("role", { enum: ["lead", "member", "observer"] }).notNull(),
    /** What they are good for here, in words of the project. */
    trades: text("trades").array().notNull().default([]),
  },
  (t) => [
    primaryKey({ columns: [t.projectId, t.personId] }),
    check("membership_role", sql`${t.role} in ('lead', 'member', 'observer')`),
  ],
);
