import { isInProgress, type StateKind } from "@/core/workflow/state";

/**
 * Whether an item that comes into a state without a move begins and ends nothing there: what is not
 * begun stays so, what is finished stays finished; what is in progress can go back.
 */
export const keepsStanding = (is: StateKind, to: StateKind): boolean =>
  is === "finished"
    ? to === "finished"
    : to === "unstarted" || (isInProgress(is) && isInProgress(to));
