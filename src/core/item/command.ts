import type { Outcome, StateId } from "@/core/workflow/state";
import type { Cause, CreatedData, Dependency, FileNamed, InProject, ItemEvent } from "./event";
import type { DemandedItemField, EditableFields, LinkKind } from "./fields";
import type { Named, Said, TalkClosing } from "@/core/talk/comment";
import type { TimeCommand } from "@/core/time/decide-time";
import type { OutsideFact } from "./outside";
import type { OwnValue, OwnValues } from "./own-field";

/** A demanded field that is answered says something. */
type AnsweredFields = { [F in DemandedItemField]: NonNullable<EditableFields[F]> };

/** What a person answered in place so that a transition's requirements are met. */
export interface MoveAnswers extends Partial<AnsweredFields> {
  reason?: string;
  comment?: string;
  outcome?: Outcome;
  /** Ids of the policies found true. */
  ticks?: string[];
  /** Own fields by id. */
  own?: Record<string, OwnValue>;
}

/** What an item stands under, as histories name it. */
export interface ParentNamed {
  parentId: string;
  key: string;
}

/** A comment as it stands before a command on it. */
export interface CommentNow {
  commentId: string;
  authorId: string | null;
  body: string;
  /** Whether it went to people outside, by mail. */
  sentOut: boolean;
  gone: boolean;
}

/**
 * Everything that can be asked of an item. Whoever handles one calls `decide` and stores the events
 * it gives.
 */
export type ItemCommand =
  | {
      kind: "create";
      data: CreatedData;
      /** A lead's reason for going beyond a firm limit. */
      overrideReason?: string;
    }
  | {
      kind: "move";
      /** The state the person saw the item in. */
      from: StateId;
      to: StateId;
      answers: MoveAnswers;
      /** A lead's reason for going beyond a firm limit. */
      overrideReason?: string;
      /** Where it stands in its new state; needed where a follow-up puts it on top. */
      rank?: string;
      /** For the comment that the move may leave. */
      commentId?: string;
      /** Of a move that nobody made by hand: what made it. */
      because?: string;
    }
  | {
      kind: "edit";
      seenVersion: number;
      changes: Partial<EditableFields>;
      own?: Record<string, OwnValue | null>;
      /** A lead's reason for going beyond a firm limit. */
      overrideReason?: string;
    }
  /**
   * Under another item by its key, or under none; whether the types allow it is for whoever knows
   * them.
   */
  | {
      kind: "put under";
      parent: { parentId: string; key: string } | null;
      before: { parentId: string; key: string } | null;
    }
  | { kind: "rank"; rank: string }
  | ({ kind: "comment"; closed?: TalkClosing; fromOutside?: boolean } & Said)
  | { kind: "edit comment"; was: CommentNow; body: string; named: Named }
  /** A lead takes back what others wrote, with a reason. */
  | { kind: "take back comment"; was: CommentNow; byLead: boolean; why: string }
  | { kind: "close talk"; was: TalkClosing | null; closing: TalkClosing | null }
  | {
      kind: "block";
      blockId: string;
      cause: string;
      waitingFor: string | null;
      dependency?: Dependency;
    }
  | { kind: "lift"; blockId: string }
  /** Whether the work in its state is done. */
  | { kind: "ready"; on: boolean }
  | {
      kind: "link";
      linkId: string;
      linkKind: LinkKind;
      otherId: string;
      otherKey: string;
      outward: boolean;
    }
  | {
      kind: "unlink";
      linkId: string;
      linkKind: LinkKind;
      otherId: string;
      otherKey: string;
      outward: boolean;
    }
  | { kind: "tick"; policyId: string; on: boolean }
  | { kind: "meet"; criterionId: string; on: boolean }
  | { kind: "approve"; on: boolean }
  /** Something happened outside, or several things one after the other. */
  | { kind: "report"; facts: readonly OutsideFact[]; source: string }
  /** A move that should have happened by itself and did not, with why. */
  | { kind: "hold"; transitionId: string; to: StateId; note: string }
  /** Puts the item into another state because the one it was in is gone; asks for nothing. */
  | { kind: "place in state"; to: StateId; note: string }
  /** Takes back a command, the item's last, by its whole history. */
  | { kind: "undo"; undoneId: string; history: readonly ItemEvent[] }
  | ({ kind: "add file" | "remove file" } & FileNamed)
  | TimeCommand
  | { kind: "withdraw"; note: string }
  /**
   * @param withdrawnBy why it was withdrawn last
   * @param leaves what it stood under, where that has gone to another project meanwhile
   */
  | { kind: "bring back"; withdrawnBy: Cause; leaves?: ParentNamed | null }
  /** Into a type of any workflow; the context's workflow is that of the type. */
  | { kind: "change type"; typeId: string; to: StateId; typeName: string }
  /** Into another project; the context's workflow is that of the type there. */
  | {
      kind: "change project";
      was: InProject;
      becomes: InProject;
      projectName: string;
      /** In the workflow of its type there. */
      to: StateId;
      /** What it says there otherwise than here; labels and parts as they are called there. */
      fields: Partial<EditableFields>;
      /** All that its own fields say there. */
      own: OwnValues;
      /** What it leaves that it stood under. */
      leaves: ParentNamed | null;
    }
  /** Takes a text out of the item and out of its history, wherever it says the same. */
  | { kind: "empty"; textId: string; body: string; why: string };
