import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { eventSource } from "./alerts";
import type { ChangeChecks } from "@/core/item/outside";
import { instant } from "./columns";
import { item } from "./item";
import { person } from "./people";

/** A repository that a source of events speaks of. */
export const codeRepository = pgTable(
  "code_repository",
  {
    id: uuid("id").primaryKey(),
    sourceId: text("source_id")
      .notNull()
      .references(() => eventSource.id),
    /** As the code host names it. */
    name: text("name").notNull(),
    firstHeardAt: instant("first_heard_at").notNull(),
  },
  (t) => [uniqueIndex("code_repository_named").on(t.sourceId, t.name)],
);

const repositoryId = () =>
  uuid("repository_id")
    .notNull()
    .references(() => codeRepository.id);

export const codeBranch = pgTable(
  "code_branch",
  {
    repositoryId: repositoryId(),
    name: text("name").notNull(),
    /** Whether everything is merged into it. */
    main: boolean("main").notNull().default(false),
    /** The hash that it stands at; null where nobody said. */
    head: text("head"),
    firstAt: instant("first_at").notNull(),
    /** When something was pushed to it last. */
    pushedAt: instant("pushed_at"),
    pushedByName: text("pushed_by_name"),
    pushedByMail: text("pushed_by_mail"),
    /** Where it can be proposed to be merged. */
    url: text("url"),
    goneAt: instant("gone_at"),
    /** What the newest event about it says of the time. */
    toldAt: instant("told_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.repositoryId, t.name] })],
);

/** Commits with what came before each: the graph says which contain which. */
export const codeCommit = pgTable(
  "code_commit",
  {
    repositoryId: repositoryId(),
    hash: text("hash").notNull(),
    parents: text("parents").array().notNull(),
    authorName: text("author_name").notNull(),
    authorMail: text("author_mail").notNull(),
    message: text("message").notNull(),
    authoredAt: instant("authored_at").notNull(),
    files: integer("files"),
    insertions: integer("insertions"),
    deletions: integer("deletions"),
    url: text("url"),
    /** Where it was pushed first. */
    branch: text("branch").notNull(),
    pushedAt: instant("pushed_at").notNull(),
    /** Since when the main branch contains it. */
    mainAt: instant("main_at"),
    /** When a push left it behind. */
    leftBehindAt: instant("left_behind_at"),
    /** The commit on main that took it back. */
    revertedBy: text("reverted_by"),
  },
  (t) => [
    primaryKey({ columns: [t.repositoryId, t.hash] }),
    index("code_commit_branch").on(t.repositoryId, t.branch),
  ],
);

/** Commits that are proposed to be merged together. */
export const codeChange = pgTable(
  "code_change",
  {
    id: uuid("id").primaryKey(),
    repositoryId: repositoryId(),
    /** As the code host names it. */
    name: text("name").notNull(),
    title: text("title").notNull().default(""),
    branch: text("branch"),
    head: text("head"),
    status: text("status", { enum: ["open", "merged", "abandoned"] }).notNull(),
    authorName: text("author_name"),
    authorMail: text("author_mail"),
    files: integer("files"),
    insertions: integer("insertions"),
    deletions: integer("deletions"),
    /** How many commits of main it does not have. */
    behind: integer("behind"),
    mergesCleanly: boolean("merges_cleanly"),
    mergedAs: text("merged_as"),
    url: text("url"),
    openedAt: instant("opened_at").notNull(),
    /** When it was merged or given up. */
    endedAt: instant("ended_at"),
    /** What the newest event about it says of the time. */
    toldAt: instant("told_at").notNull(),
    /** What checks said of what it ends with; null while none has. */
    checks: text("checks").$type<ChangeChecks>(),
    /** What the newest event about its checks says of the time. */
    checksAt: instant("checks_at"),
  },
  (t) => [
    uniqueIndex("code_change_named").on(t.repositoryId, t.name),
    index("code_change_branch").on(t.repositoryId, t.branch),
    check("code_change_status", sql`${t.status} in ('open', 'merged', 'abandoned')`),
  ],
);

/** What somebody who looked at a change said. */
export const codeReview = pgTable(
  "code_review",
  {
    changeId: uuid("change_id")
      .notNull()
      .references(() => codeChange.id),
    byMail: text("by_mail").notNull(),
    at: instant("at").notNull(),
    byName: text("by_name").notNull(),
    verdict: text("verdict", { enum: ["approved", "sent back"] }).notNull(),
    /** What they had looked at; null where nobody said. */
    head: text("head"),
  },
  (t) => [primaryKey({ columns: [t.changeId, t.byMail, t.at] })],
);

/** What of a repository belongs to an item: by its key in a name, a title or a message. */
export const itemCode = pgTable(
  "item_code",
  {
    itemId: uuid("item_id")
      .notNull()
      .references(() => item.id),
    repositoryId: repositoryId(),
    kind: text("kind", { enum: ["branch", "commit", "change"] }).notNull(),
    /** The name of a branch or a change, the hash of a commit. */
    name: text("name").notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.itemId, t.repositoryId, t.kind, t.name] }),
    index("item_code_named").on(t.repositoryId, t.kind, t.name),
    check("item_code_kind", sql`${t.kind} in ('branch', 'commit', 'change')`),
  ],
);

/**
 * What commits on main have done by their words. The same work has the same identity when it is
 * rebased, so it acts once.
 */
export const codeActed = pgTable(
  "code_acted",
  {
    repositoryId: repositoryId(),
    /** SHA-256 of author, time of writing and message. */
    work: text("work").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.repositoryId, t.work] })],
);

/** A further mail address under which somebody commits. */
export const codeAddress = pgTable("code_address", {
  /** In small letters. */
  mail: text("mail").primaryKey(),
  personId: text("person_id")
    .notNull()
    .references(() => person.id),
  setBy: text("set_by")
    .notNull()
    .references(() => person.id),
  setAt: instant("set_at").notNull(),
});
