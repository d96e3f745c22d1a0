import type { ItemCommand } from "@/core/item/command";
import type { Cause } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { NewItem } from "@/core/item/new-item";
import type { Term } from "@/core/item/terms/term";
import type { Workflow } from "@/core/workflow/workflow";
import type { ProjectAccess } from "../people/access";
import type { CommandRequest } from "@/core/item/request";

/** An item that somebody was let in to: their rights were asked, and it is locked. */
export interface Entered {
  itemId: string;
  access: ProjectAccess;
  workflow: Workflow;
  /** Null where it is to be made. */
  before: ItemSnapshot | null;
  /** What its project says of its labels and parts: read once for all that are entered together. */
  terms?: () => Promise<readonly Term[]>;
}

/** An item that follows from one that was entered; it is locked when its turn comes. */
export interface Along {
  itemId: string;
  access: ProjectAccess;
}

/** Where an item stands: directly below or above another, on top of its state, or at the end of all. */
export type Place = { below: string } | { above: string } | "first" | "last";

/** What may be asked at the door. */
export type Ask =
  | CommandRequest
  | { kind: "create"; fields: NewItem; place: Place; overrideReason?: string }
  /** What only the product itself asks for, with all that it is about. */
  | { kind: "prepared"; command: ItemCommand };

/** What made a command, where it was not a person who gave it. */
export interface Made {
  cause: Cause;
  because?: string;
  /** How many moves in a row happened by themselves. */
  depth?: number;
  /** The person whose doing set it off, where it was not done by themselves. */
  setOffBy?: string | null;
}

/** One command on one item, on its way through the door. */
export interface Errand {
  on: Entered | Along;
  /** The same for all that one act does, so that it can be undone as one. */
  commandId: string;
  ask: Ask;
  made?: Made;
  /** What a refusal means: the whole is refused with it (unless said), or the item is left. */
  ifRefused?: "leave";
}
