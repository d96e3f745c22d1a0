import { cutText } from "@/core/formats/cut-text";
import { MOST_TITLE } from "@/core/item/fields";
import type { StateKind } from "@/core/workflow/state";
import type { FailureCourse } from "./step-result";
import type { TestStep } from "./test-case";

/** A step that failed. */
export interface Failure {
  caseId: string;
  /** TIX-T88 */
  caseKey: string;
  caseTitle: string;
  step: TestStep;
  /** As people count: the first is 1. */
  number: number;
  /** What was seen. */
  note: string;
  course: FailureCourse | null;
  givenTo: string | null;
  /** The item that the case was tried for. */
  itemId: string | null;
}

/** What comes of a failure when its run ends. */
export type Finding =
  /** A task under an item that is still being built. */
  | { kind: "task"; under: string; failure: Failure }
  /** A bug of its own. @param foundIn the item that it was found in */
  | { kind: "bug"; foundIn: string | null; expedite: boolean; failure: Failure };

/** An item that a run tested. */
export interface TestedItem {
  id: string;
  stateKind: StateKind;
}

/** What becomes of a run. */
export interface RunEnd {
  findings: Finding[];
  /** The items that go back, each once, with all that speaks against it. */
  returns: { itemId: string; reason: string }[];
}

/** Whether what failed is part of an item that is still being built; without a word it is. */
export const becomesTask = (
  course: FailureCourse | null,
  { stateKind }: Pick<TestedItem, "stateKind">,
): boolean => stateKind !== "finished" && (course === null || course === "belongs to it");

const MOST_REASON = 2_000;

/**
 * What comes of what failed: where it belongs to an item that is still being built, a task under that;
 * else a bug of its own, linked to where it was found. Only what is still being built goes back, once,
 * with all its reasons; finished work stays finished.
 * @param run how it is named in the reason
 */
export function endOfRun(
  failures: readonly Failure[],
  items: readonly TestedItem[],
  run: string,
): RunEnd {
  const byId = new Map(items.map((item) => [item.id, item]));
  const findings = failures.map((failure): Finding => {
    const { course, itemId } = failure;
    const item = byId.get(itemId ?? "");
    if (item && becomesTask(course, item)) return { kind: "task", under: item.id, failure };
    return { kind: "bug", foundIn: itemId, expedite: course === "mend now", failure };
  });
  const back = new Map<string, string[]>();
  for (const one of findings)
    if (one.kind === "task")
      back.set(one.under, [...(back.get(one.under) ?? []), seenWords(one.failure)]);
  const returns = [...back].map(([itemId, reasons]) => ({
    itemId,
    reason: cutText([`${run} failed.`, ...reasons].join("\n"), MOST_REASON),
  }));
  return { findings, returns };
}

/** "Step 4 of TIX-T88: the gate stayed open (expected: it closes within a second)" */
export const seenWords = ({ number, caseKey, step, note }: Failure): string =>
  `Step ${number} of ${caseKey}: ${note}` + (step.expected ? ` (expected: ${step.expected})` : "");

/** What the task or bug of a failure is called: what was seen, and where. */
export function findingTitle({ number, caseKey, note }: Failure): string {
  const [first] = note.split("\n");
  const where = ` (step ${number} of ${caseKey})`;
  return cutText(first.trim(), MOST_TITLE - where.length) + where;
}

/** The whole of a failure, in Markdown, for whoever mends it. */
export function findingDescription(failure: Failure, run: string): string {
  const { caseKey, caseTitle, number, step, note } = failure;
  return [
    note,
    `### Where\n\nStep ${number} of ${caseKey}, ${caseTitle}. ${run}.`,
    ...(step.action ? [`### What was done\n\n${step.action}`] : []),
    ...(step.expected ? [`### What was expected\n\n${step.expected}`] : []),
  ].join("\n\n");
}
