import { counted } from "@/core/formats/counted";
import { isInProgress, type State } from "@/core/workflow/state";
import type { Around } from "./around";
import type { Card } from "./card";

/**
 * What has happened to an item that its state does not say: somebody has forgotten to move it, or to
 * name who works on it.
 */
export interface Reality {
  kind: "no reviewer" | "children done" | "begun below" | "talked about";
  words: string;
}

type Told = Pick<Card, "stateKind" | "reviewerId" | "withdrawn">;

/** From so many days of talk, or of time recorded, on somebody is at it, whatever its state says. */
export const TALK_DAYS = 3;

/**
 * Where what happened says something else than the state of an item; null where they agree.
 * @param state where it stands
 * @param around what stands around it, as far as that is known
 */
export function realityOf(
  { stateKind, reviewerId, withdrawn }: Told,
  state: Pick<State, "byReviewer"> | undefined,
  around: Pick<Around, "children" | "finishedChildren" | "talked" | "worked"> | undefined,
): Reality | null {
  if (withdrawn) return null;
  const { children = 0, finishedChildren = 0, talked = 0, worked = false } = around ?? {};
  // What waits for its review has not been given to anybody yet.
  if (state?.byReviewer && stateKind === "working" && reviewerId === null)
    return { kind: "no reviewer", words: "nobody is its reviewer" };
  if (isInProgress(stateKind) && children > 0 && finishedChildren === children)
    return {
      kind: "children done",
      words: children === 1 ? "its only child is done" : `all ${children} children are done`,
    };
  if (stateKind === "unstarted" && finishedChildren > 0)
    return {
      kind: "begun below",
      words: `begun: ${finishedChildren} of ${counted(children, "child", "children")} done`,
    };
  if (stateKind === "unstarted" && talked >= TALK_DAYS)
    return {
      kind: "talked about",
      words: `${worked ? "worked on for" : "talked about on"} ${talked} days, not begun`,
    };
  return null;
}
