import type { Vocabulary } from "@/core/condition/vocabulary";
import type { State, StateId } from "./state";
import type { Transition, Workflow } from "./workflow";

/**
 * trap: items would be stuck, so it cannot be published; weak: it will hurt; hint: worth a look.
 */
export type Severity = "trap" | "weak" | "hint";

/** A repair of the draft itself; carried out by `repair`. */
export type DraftRepair = Exclude<Repair, { kind: "show workflow" }>;

/** A change that mends a finding. */
export type Repair =
  | { kind: "add move"; from: StateId; to: StateId; verb: string; words: string }
  | { kind: "remove state"; stateId: StateId; words: string }
  | { kind: "remove requirement"; transitionId: string; index: number; words: string }
  | { kind: "change state"; stateId: StateId; change: Partial<State>; words: string }
  | { kind: "change move"; transitionId: string; change: Partial<Transition>; words: string }
  /** Out of every state and every rule. */
  | { kind: "take team off"; teamId: string; words: string }
  /** Out of every rule that asks for it or sets it. */
  | { kind: "take field off"; fieldId: string; words: string }
  /** Not of the draft: the board shows what runs, at once. */
  | { kind: "show workflow"; workflowId: string; words: string };

export interface Finding {
  severity: Severity;
  /** What kind of finding, for tests and for leaving known ones aside. */
  code: string;
  sentence: string;
  place: { stateId?: StateId; transitionId?: string };
  repair: Repair | null;
  /** What is behind it, where the same may be behind several: they are told as one. */
  cause?: Cause;
}

export interface Cause {
  /** The same for all that it is behind. */
  of: string;
  /** Where it shows, such as “In test”; told of several together. */
  at: string;
  /** As a sentence over several places. */
  sentence: (places: string) => string;
}

/** What the check knows of the project around the workflow. */
export interface CheckSurroundings {
  vocabulary: Vocabulary;
  /** People who work in the project, by team; and how many leads and members it has. */
  peopleOfTeam: Record<string, number>;
  leads: number;
  workers: number;
  /** How many items are in each state in progress that runs now and that no board shows. */
  unshown: Readonly<Record<StateId, number>>;
}

/** Something that a check found, at a state or a move where there is one. */
export const finding = (
  severity: Severity,
  code: string,
  sentence: string,
  place: Finding["place"] = {},
): Finding => ({ severity, code, sentence, place, repair: null });

/** A move as findings call it: “Start review” to In review. */
export const moveAt = ({ states }: Workflow, { verb, to }: Transition): string =>
  `“${verb}” to ${states.find((s) => s.id === to)?.name ?? "?"}`;

/** A finding that the product can mend by itself, where it knows how. */
export const repairable = (found: Finding, repair: Repair | null): Finding => ({
  ...found,
  repair,
});
