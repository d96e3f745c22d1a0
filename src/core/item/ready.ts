import { isInProgress } from "@/core/workflow/state";
import type { ItemSnapshot } from "./fields";

/** Whether an item can be marked ready for its next step, or is. */
export const mayBeReady = ({
  stateKind,
  openBlockers,
}: Pick<ItemSnapshot, "stateKind" | "openBlockers">): boolean =>
  isInProgress(stateKind) && openBlockers.length === 0;
