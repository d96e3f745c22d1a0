import { counted } from "@/core/formats/counted";
import type { Tested } from "@/core/ship/testing/case-standing";
import type { Accepted } from "../acceptance/enough";
import type { StateKind } from "@/core/workflow/state";

/** What of an item can stand against a release, the gravest first. */
export const AGAINST = [
  "blocked",
  "failed",
  "something missing",
  "not begun",
  "nobody",
  "open",
  "not reviewed",
  "not merged",
  "not on acceptance",
  "not accepted",
  "not tested",
  "no case",
  "stale",
  "no words",
] as const;
export type AgainstKind = (typeof AGAINST)[number];

/** One thing that stands against an item going out. */
export interface Against {
  kind: AgainstKind;
  /** "blocked: waits for the feed", "nobody has it" */
  words: string;
}

/** What is known of an item of a release. */
export interface ReleaseFacts {
  stateKind: StateKind;
  stateName: string;
  /** For how many calendar days it has been in its state, today counted. */
  days: number;
  ofReview: boolean;
  assigned: boolean;
  /** Why it is blocked; null where it is not. */
  blocked: string | null;
  openChanges: number;
  /** Whether anything of it is on main. */
  merged: boolean;
  /** Whether all of it is on the environment before live; null where there is none such. */
  onAcceptance: boolean | null;
  /** What that environment is called. */
  acceptance: string;
  tested: Tested;
  /** Which steps failed last, in words. */
  failed: string;
  /** To how many it was shown, and how many of them accept it. */
  shown: Accepted;
  /** Whether somebody it was shown to misses something. */
  missing: boolean;
  /** Whether the notes leave it out, or somebody wrote what they say of it. */
  hasWords: boolean;
}

/**
 * What stands against an item going out, the gravest first; nothing where it can. Of what is finished only
 * what is said of it can be missing, and what has failed since.
 */
export function againstOf(of: ReleaseFacts): Against[] {
  const open = of.stateKind !== "finished";
  const began = open && of.stateKind !== "unstarted";
  const found: (Against | false)[] = [
    of.blocked !== null && { kind: "blocked", words: `blocked: ${of.blocked}` },
    of.tested === "failed" && {
      kind: "failed",
      words: of.failed ? `failed ${of.failed}` : "failed its last test",
    },
    of.missing && { kind: "something missing", words: "somebody it was shown to misses something" },
    open && of.stateKind === "unstarted" && { kind: "not begun", words: "not begun" },
    open && !of.assigned && { kind: "nobody", words: "nobody has it" },
    began && {
      kind: of.ofReview ? "not reviewed" : "open",
      words: `${of.stateName}, day ${of.days}`,
    },
    began &&
      of.openChanges > 0 && {
        kind: "not merged",
        words: `${counted(of.openChanges, "change")} not merged`,
      },
    began &&
      of.merged &&
      of.onAcceptance === false && {
        kind: "not on acceptance",
        words: `not all of it on ${of.acceptance}`,
      },
    began &&
      of.shown.given < of.shown.asked && {
        kind: "not accepted",
        words: `accepted by ${of.shown.given} of ${of.shown.asked}`,
      },
    began &&
      (of.tested === "not tried" || of.tested === "blocked") && {
        kind: "not tested",
        words: of.tested === "blocked" ? "could not be tested" : "not tested yet",
      },
    began && of.tested === "no case" && { kind: "no case", words: "no case tests it" },
    of.tested === "stale" && { kind: "stale", words: "changed since it was tested" },
    !of.hasWords && { kind: "no words", words: "its notes are only its title" },
  ];
  return found.filter((one) => one !== false);
}

/** Whether an item can go out: nothing but its words stands against it, and nothing is left to do. */
export const isReady = (
  of: Pick<ReleaseFacts, "stateKind">,
  against: readonly Against[],
): boolean =>
  of.stateKind === "finished" &&
  against.every(({ kind }) => kind === "no words" || kind === "stale");

/** By the gravest thing that stands against each. */
export const byGravity = (a: readonly Against[], b: readonly Against[]): number =>
  rankOf(a) - rankOf(b);

const rankOf = ([first]: readonly Against[]): number =>
  first ? AGAINST.indexOf(first.kind) : AGAINST.length;
