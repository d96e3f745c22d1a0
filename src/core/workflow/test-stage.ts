import type { State } from "./state";

/**
 * Whether items are tested in a state, or wait there for it. A process does not say so in any other
 * way than by its words: the stage, or the state where it belongs to none, has "test" in its name.
 */
export const isOfTest = ({ name, stage }: Pick<State, "name" | "stage">): boolean =>
  /\btest/i.test(stage ?? name);
