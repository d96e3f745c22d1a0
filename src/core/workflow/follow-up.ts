import type { EditableFields, ITEM_FIELDS, SetField } from "@/core/item/fields";
import type { OwnValue } from "@/core/item/own-field";
import type { Outcome } from "./state";

/** A field that a follow-up can set, with the value; null clears it. */
export type FieldValue =
  | {
      [F in SetField]: {
        field: F;
        value: (typeof ITEM_FIELDS)[F]["followUp"] extends "nothing" ? null : EditableFields[F];
      };
    }[SetField]
  /** A field of the project's own. */
  | { field: "own"; fieldId: string; value: OwnValue | null };

/** Who is told of something. */
export type Recipient =
  | { kind: "assignee" | "reviewer" | "creator" | "requester" | "leads" }
  | { kind: "person"; personId: string }
  | { kind: "team"; teamId: string };

/** Whom a follow-up gives the item to. */
export type NewAssignee =
  | { kind: "person"; personId: string }
  | { kind: "nobody" }
  | { kind: "mover" }
  | { kind: "creator" }
  | { kind: "reviewer" }
  | { kind: "previous assignee" }
  | { kind: "least loaded"; teamId: string }
  | { kind: "in turn"; teamId: string };

/** What a transition does afterwards, in this order, as part of the same change. */
export type FollowUp =
  | { kind: "set field"; change: FieldValue }
  | { kind: "assign"; to: NewAssignee }
  | { kind: "set outcome"; outcome: Outcome }
  | { kind: "comment"; text: string }
  | { kind: "create sub-tasks"; titles: string[] }
  | { kind: "finish duplicates" }
  | { kind: "reopen duplicates" }
  | { kind: "tell"; whom: Recipient[]; text: string }
  | { kind: "put on top" };

export type FollowUpKind = FollowUp["kind"];
export const FOLLOW_UP_KINDS: readonly FollowUpKind[] = [
  "set field",
  "assign",
  "set outcome",
  "comment",
  "create sub-tasks",
  "finish duplicates",
  "reopen duplicates",
  "tell",
  "put on top",
];
