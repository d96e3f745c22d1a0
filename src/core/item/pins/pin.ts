import type { StateKind } from "@/core/workflow/state";

/** An item in somebody's private list. */
export interface Pin {
  id: string;
  key: string;
  title: string;
  typeId: string;
  stateName: string;
  stateKind: StateKind;
}
