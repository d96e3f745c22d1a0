import { isInProgress, type State } from "./state";

type Known = Pick<State, "name" | "stage" | "kind" | "byReviewer">;

/** What it means for people that an item is in a state. */
export interface StateMeaning {
  /** The reviewer works in it, or it waits for a review of the same stage. */
  ofReview: boolean;
  ofTest: boolean;
}

/**
 * What it means that an item is in a state. That items are tested in it, or wait there for it, a
 * process does not say in any other way than by its words: the stage, or the state where it belongs
 * to none, has "test" in its name.
 * @param states all of its workflow
 */
export function meaningOf(state: Known, states: readonly Known[]): StateMeaning {
  const { name, stage, byReviewer } = state;
  if (!isInProgress(state.kind)) return { ofReview: false, ofTest: false };
  const reviewed = stage !== null && states.some((s) => s.byReviewer && s.stage === stage);
  return { ofReview: byReviewer || reviewed, ofTest: /\btest/i.test(stage ?? name) };
}
