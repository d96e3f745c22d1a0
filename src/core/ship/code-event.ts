import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { saidTime } from "@/core/formats/said-time";

/** Somebody as a code host knows them. */
export interface CodeAuthor {
  name: string;
  mail: string;
}

/** How large a difference is, as git counts it. */
export interface DiffSize {
  files: number;
  insertions: number;
  deletions: number;
}

/** A commit as it was pushed. */
export interface PushedCommit {
  /** The whole hash, in small letters. */
  hash: string;
  parents: string[];
  author: CodeAuthor;
  authoredAt: Instant;
  message: string;
  size: DiffSize | null;
  url: string | null;
}

/** Where something happened. */
interface InRepository {
  /** As the code host names it. */
  repository: string;
  /** When it happened there. */
  at: Instant;
}

/** A branch appeared, or is gone. */
export interface BranchNews extends InRepository {
  kind: "branch";
  branch: string;
  gone: boolean;
  by: CodeAuthor | null;
  /** Where it can be looked at, and proposed to be merged. */
  url: string | null;
}

/** Commits came to a branch. */
export interface PushNews extends InRepository {
  kind: "push";
  branch: string;
  /** Whether it is the branch that everything is merged into. */
  main: boolean;
  /** The hash that the branch stands at now. */
  head: string;
  /** Whether it left commits behind that it had before. */
  forced: boolean;
  by: CodeAuthor | null;
  url: string | null;
  commits: PushedCommit[];
}

/** A change was proposed, or something of it is different. */
export interface ChangeNews extends InRepository {
  kind: "change";
  /** As the code host names it. */
  change: string;
  /** What became of it; null where only something of it is different. */
  status: "open" | "merged" | "abandoned" | null;
  title: string | null;
  branch: string | null;
  head: string | null;
  author: CodeAuthor | null;
  size: DiffSize | null;
  /** How many commits of main it does not have. */
  behind: number | null;
  /** Whether it could be merged as it is. */
  mergesCleanly: boolean | null;
  /** The commit on main that it became. */
  mergedAs: string | null;
  url: string | null;
  /** Keys of items that the host names beside it. */
  items: string[];
}

/** Somebody looked at a change and said what they think. */
export interface ReviewNews extends InRepository {
  kind: "review";
  change: string;
  by: CodeAuthor;
  verdict: "approved" | "sent back";
  /** What they had looked at. */
  head: string | null;
}

/** A commit was tagged. */
export interface TagNews extends InRepository {
  kind: "tag";
  tag: string;
  commit: string | null;
}

/** What a code host says of branches, commits, changes and tags. */
export type CodeNews = BranchNews | PushNews | ChangeNews | ReviewNews | TagNews;

const text = z.string().max(500);
/** The hash of a commit, or its beginning. */
export const hash = z
  .string()
  .toLowerCase()
  .regex(/^[0-9a-f]{7,64}$/, "This is no hash of a commit.");
/** Somebody, as events name them. */
export const author = z.looseObject({ name: text.default(""), mail: text.toLowerCase() });
const count = z.number().int().min(0).max(1_000_000_000);
const size = { files: count.optional(), insertions: count.optional(), deletions: count.optional() };

/** More belong into a further event. */
export const MOST_COMMITS = 500;

const commitSchema = z.looseObject({
  id: hash,
  parents: z.array(hash).max(64).default([]),
  author,
  authoredAt: saidTime,
  message: z.string().max(100_000),
  ...size,
  url: text.optional(),
});

const customSchema = z.looseObject({
  branch: text.optional(),
  title: text.optional(),
  main: z.boolean().optional(),
  head: hash.optional(),
  forced: z.boolean().optional(),
  by: author.optional(),
  author: author.optional(),
  commits: z
    .array(commitSchema)
    .max(MOST_COMMITS, `One event tells of ${MOST_COMMITS} commits at most.`)
    .optional(),
  commit: hash.optional(),
  items: z.array(text).max(100).optional(),
  behind: count.optional(),
  mergesCleanly: z.boolean().optional(),
  verdict: text.optional(),
  ...size,
  url: text.optional(),
});

const documentSchema = z.looseObject({
  subject: z.looseObject({
    id: text.min(1),
    content: z
      .looseObject({ repository: z.looseObject({ id: text.min(1) }).optional() })
      .default({}),
  }),
  customData: customSchema.default({}),
});

/**
 * The types that are read. Those of changes and branches are CDEvents' own (cdevents.dev, v0.4). It
 * has no words for commits that were pushed and for tags: those are made as it says tools make theirs.
 */
const TYPE =
  /^dev\.cdevents\.(branch|change)\.([a-z]+)\.|^dev\.cdeventsx\.zigzag-(commits)\.(pushed)\.|^dev\.cdeventsx\.zigzag-(tag)\.(created)\./;

const STATUS: Record<string, ChangeNews["status"]> = {
  created: "open",
  updated: null,
  merged: "merged",
  abandoned: "abandoned",
};

/** Only pages of the web become links. */
export const linkOf = (url: string | undefined): string | null =>
  url !== undefined && /^https?:\/\//i.test(url) ? url : null;

const sizeOf = ({ files, insertions, deletions }: Partial<DiffSize>): DiffSize | null =>
  files === undefined ? null : { files, insertions: insertions ?? 0, deletions: deletions ?? 0 };

const commitOf = (said: z.output<typeof commitSchema>): PushedCommit => ({
  hash: said.id,
  parents: said.parents,
  author: said.author,
  authoredAt: Date.parse(said.authoredAt),
  message: said.message,
  size: sizeOf(said),
  url: linkOf(said.url),
});

/**
 * Reads what an event says of a code host. An event that names no repository is about none: what it
 * says of items is read by `readDeliveryEvent` alone.
 * @param now when it came, for an event that does not say when it happened
 * @returns null for an event of another kind
 * @throws ZodError when it is of such a kind and lacks what it needs
 */
export function readCodeEvent(event: CloudEvent, now: Instant): CodeNews | null {
  const [, subject, predicate, push, , tag] = TYPE.exec(event.type) ?? [];
  if (!subject && !push && !tag) return null;
  const { subject: about, customData: said } = documentSchema.parse(event.data);
  const repository = about.content.repository?.id;
  if (repository === undefined) return null;
  const at = event.time ? Date.parse(event.time) : now;
  const where = { repository, at };
  const by = said.by ?? null;
  const url = linkOf(said.url);
  if (tag) return { ...where, kind: "tag", tag: about.id, commit: said.commit ?? null };
  if (push) {
    const needed = z.object({ head: hash, commits: z.array(z.unknown()) }).parse(said);
    return {
      ...where,
      kind: "push",
      branch: about.id,
      main: said.main ?? false,
      head: needed.head,
      forced: said.forced ?? false,
      ...{ by, url },
      commits: said.commits!.map(commitOf),
    };
  }
  if (subject === "branch") {
    if (predicate !== "created" && predicate !== "deleted") return null;
    const gone = predicate === "deleted";
    return { ...where, kind: "branch", branch: about.id, gone, by, url };
  }
  if (predicate === "reviewed") {
    if (said.verdict !== "approved" && said.verdict !== "sent back") return null;
    if (by === null) return null;
    return {
      ...where,
      kind: "review",
      change: about.id,
      by,
      verdict: said.verdict,
      head: said.head ?? null,
    };
  }
  if (!Object.hasOwn(STATUS, predicate)) return null;
  return {
    ...where,
    kind: "change",
    change: about.id,
    status: STATUS[predicate],
    title: said.title ?? null,
    branch: said.branch ?? null,
    head: said.head ?? null,
    author: said.author ?? by,
    size: sizeOf(said),
    behind: said.behind ?? null,
    mergesCleanly: said.mergesCleanly ?? null,
    mergedAs: said.commit ?? null,
    url,
    items: said.items ?? [],
  };
}
