import type { OwnField } from "@/core/item/own-field";
import type { NamedThings } from "@/core/item/fields";
import type { StateKind } from "@/core/workflow/state";

interface Named {
  id: string;
  name: string;
}

/** What names in a table of items can mean in a project. */
export interface TableGround extends Record<NamedThings, readonly Named[]> {
  /** The states of each type's workflow, in their order; items begin in the first. */
  states: Readonly<Record<string, readonly (Named & { kind: StateKind })[]>>;
  /** Fields of the project's own that are there now. */
  own: readonly OwnField[];
}
