import { z } from "zod";
import type { Day } from "@/core/calendar/month";
import type { Instant } from "@/core/calendar/instant";
import type { BurnUpDayView, ReleaseLine } from "@/core/plan/release-view";
import type { Until } from "@/core/plan/reach-view";
import type { StateKind } from "@/core/workflow/state";
import type { Tested } from "../testing/case-standing";
import type { ItemCase } from "../testing/testing-view";
import type { Against } from "./readiness";
import type { ReleaseNote } from "./release-notes";

/** An item of a release with what stands against it. */
export interface ReadinessRow {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  stateName: string;
  stateKind: StateKind;
  assignee: string | null;
  /** Whether a move leads from where it is to its end. */
  canFinish: boolean;
  against: Against[];
}

/** An item of a release with the cases that test it, and what came of each. */
export interface TestedRow {
  id: string;
  key: string;
  title: string;
  typeId: string;
  tested: Tested;
  cases: ItemCase[];
}

/** How many items of a release are in a state. */
export interface ReleaseStage {
  stateName: string;
  kind: StateKind;
  /** All of them, also those that whoever looks may not see. */
  n: number;
  ids: string[];
}

/** A tag that a code host was asked for. */
export interface ReleaseTagView {
  repositoryId: string;
  repository: string;
  name: string;
  commit: string;
  /** Why the host did not take it; null where it did. */
  refused: string | null;
  /** When it was there; null while the host has not said so. */
  tagAt: Instant | null;
}

/** A release as those see it who send it out. */
export interface ReleasePage {
  project: { key: string; name: string; zone: string };
  today: Day;
  /** Those to come, and the last ones that are out. */
  releases: Pick<ReleaseLine, "id" | "name" | "dueOn" | "releasedAt">[];
  /** Null where there is none. */
  release: ReleaseLine | null;
  until: Until | null;
  days: BurnUpDayView[];
  stages: ReleaseStage[];
  /** What can go out as it is. */
  ready: number;
  /** What stands against it, by item, the gravest first. */
  rows: ReadinessRow[];
  /** By what its items are tested, the worst first; those that no case tests are not among them. */
  tests: TestedRow[];
  /** The items that no case tests. */
  untested: string[];
  notes: ReleaseNote[];
  /** How many of its items whoever looks may not see. */
  unseen: number;
  /** Its notes as they went out; null while it has not. */
  outNotes: string | null;
  /** When it was taken back, and why; null where it was not. */
  withdrawn: { at: Instant; why: string } | null;
  /** What is finished in it: only of what is out, for what becomes of it when that is taken back. */
  finished: { id: string; key: string; title: string; canReopen: boolean }[];
  /** The tags that code hosts were asked for. */
  tags: ReleaseTagView[];
  /** Where it could be tagged: what is live there, or what main ends with. */
  taggable: { repositoryId: string; repository: string; commit: string; live: boolean }[];
  /** How many people reported what is in it. */
  reporters: number;
  /** The release after it that unfinished items may go to. */
  next: { id: string; name: string } | null;
  /** Whether the notes may be read without an account, and where. */
  published: { on: boolean; address: string };
  rights: { plan: boolean; publish: boolean };
  now: Instant;
}

/** What anyone may read of a project's releases. */
export interface PublicReleases {
  key: string;
  name: string;
  zone: string;
  /** The latest first. */
  releases: {
    id: string;
    name: string;
    outAt: Instant;
    notes: string;
    /** When it was taken back; null where it was not. */
    withdrawnAt: Instant | null;
  }[];
  /** Problems that are known, in the words for outside. */
  known: string[];
  feed: string;
}

/** What becomes of an unfinished item when its release goes out. */
export const UNFINISHED = ["next release", "is out too", "no release", "stays"] as const;
export type Unfinished = (typeof UNFINISHED)[number];

const MOST_NOTE = 1_000;

export const noteBody = z.object({
  itemId: z.uuid(),
  words: z.string().max(MOST_NOTE, `Use at most ${MOST_NOTE.toLocaleString("en")} characters.`),
  internal: z.boolean(),
});

export const outBody = z.object({
  /** By it what becomes of the items is known when it is sent twice. */
  id: z.uuid(),
  out: z.boolean(),
  /** Of all that is not finished. */
  unfinished: z.enum(UNFINISHED).default("stays"),
  /** Of some another one, by their ids. */
  except: z.record(z.uuid(), z.enum(UNFINISHED)).default({}),
});
export type OutBody = z.output<typeof outBody>;
