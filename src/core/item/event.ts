import type { Instant } from "@/core/calendar/instant";
import type { LimitBreak } from "@/core/board/limit";
import type { StateId, StateKind } from "@/core/workflow/state";
import type {
  Approval,
  EditableField,
  EditableFields,
  ItemSnapshot,
  LinkKind,
  Tick,
} from "./fields";
import type { Named, Said, TalkClosing } from "@/core/talk/comment";
import type { TimeEntry } from "@/core/time/entry";
import type { OutsideFact } from "./outside";
import type { OwnValue, OwnValues } from "./own-field";

/** Why an event happened, apart from who did it. */
export type Cause =
  | "person"
  | "verdict"
  | "undo"
  | "workflow change"
  | "follow-up"
  | "trigger"
  | "outside"
  | "requester"
  | "demo"
  /** A newer version of the product, for what it keeps in another way now. */
  | "upgrade";

export interface CreatedData extends EditableFields {
  projectId: string;
  number: number;
  parentId: string | null;
  own: OwnValues;
  stateId: StateId;
  stateKind: StateKind;
  rank: string;
}

/** An item that another one waits for. */
export interface Dependency {
  itemId: string;
  key: string;
}

/** Where an item is, and what it is called there. */
export interface InProject {
  projectId: string;
  number: number;
  key: string;
}

/** A file as histories name it. */
export interface FileNamed {
  fileId: string;
  name: string;
}

/** What was agreed about an item in the state it is in. */
export interface Agreed {
  ticks: Tick[];
  approvals: Approval[];
}

/** What happened to an item, with the value before and after. */
export type ItemChange =
  | { kind: "created"; new: CreatedData }
  | { kind: "changed"; field: EditableField | "outcome"; old: unknown; new: unknown }
  | {
      kind: "moved";
      /** With the ticks and approvals that ended there. */
      old: { stateId: StateId; kind: StateKind } & Partial<Agreed>;
      /** With those that an undo brings back. */
      new: {
        stateId: StateId;
        kind: StateKind;
        isReturn: boolean;
        rank: string | null;
      } & Partial<Agreed>;
      note: string | null;
    }
  /** A field of the project's own, by its id. */
  | { kind: "own changed"; field: string; old: OwnValue | null; new: OwnValue | null }
  /** Something that happened outside, and who said so. */
  | { kind: "reported"; new: OutsideFact; note: string }
  /** Something happened that should have moved the item, and why it stayed. */
  | { kind: "held"; new: { transitionId: string; to: StateId }; note: string }
  /** Under another item, or under none. */
  | {
      kind: "put under";
      old: { parentId: string; key: string } | null;
      new: { parentId: string; key: string } | null;
    }
  /** It is in another project, with another key. What it says there comes behind it. */
  | { kind: "changed project"; old: InProject; new: InProject }
  | { kind: "ranked"; old: string; new: string }
  /** Went beyond a limit: a firm one with a reason, advice without. */
  | { kind: "overrode"; new: LimitBreak; note: string | null }
  | { kind: "commented"; new: Said }
  | {
      kind: "comment edited";
      old: { body: string };
      new: { commentId: string; body: string; named: Named };
    }
  /** By whoever wrote it, or by a lead with a reason. */
  | { kind: "comment taken back"; new: { commentId: string }; note: string | null }
  /** The talk was closed, or opened again. */
  | { kind: "talk closed"; old: TalkClosing | null; new: TalkClosing | null }
  | {
      kind: "blocked";
      new: {
        blockId: string;
        cause: string;
        waitingFor: string | null;
        /** Where the blocker comes from a dependency. */
        dependency?: Dependency;
      };
    }
  | { kind: "lifted"; old: { blockId: string; cause: string } }
  /** The work in its state is done. A move or a blocker ends that too, without saying so. */
  | { kind: "marked ready" }
  | { kind: "ready taken back" }
  | {
      kind: "linked";
      new: { linkId: string; kind: LinkKind; otherId: string; otherKey: string; outward: boolean };
    }
  | {
      kind: "unlinked";
      old: { linkId: string; kind: LinkKind; otherId: string; otherKey: string; outward: boolean };
    }
  /** A point of an agreement, by its policy; or one of the item's own criteria, by its id. */
  | { kind: "ticked"; new: { policyId: string; text: string; criterion?: true } }
  | { kind: "unticked"; old: { policyId: string; text: string; criterion?: true } }
  | { kind: "approved"; new: { role: "lead" | "member" } }
  | { kind: "approval withdrawn" }
  /**
   * Takes the steps of a command back as if they had not been; with everything about the item as it
   * was before them.
   */
  | {
      kind: "undone";
      old: { commandId: string; fromSeq: number; toSeq: number };
      new: Partial<ItemSnapshot>;
    }
  | { kind: "withdrawn"; note: string }
  /** Put to it, or put back after it was taken off. */
  | { kind: "file added"; new: FileNamed }
  | { kind: "file removed"; old: FileNamed }
  /** Time that somebody spent on it: recorded, changed, or removed. */
  | { kind: "time recorded"; old: TimeEntry | null; new: TimeEntry | null }
  /** What was withdrawn is there again, in the state that it was in. */
  | { kind: "brought back" }
  /** A text was taken out of the item and out of all its history; with what it says since, and why. */
  | { kind: "emptied"; old: { textId: string }; new: Partial<ItemSnapshot>; note: string };

/** One line of an item's append-only history. */
export type ItemEvent = ItemChange & {
  itemId: string;
  /** 1 for the first event of the item, then without gaps. */
  seq: number;
  at: Instant;
  /** Null when no signed-in person did it. */
  actorId: string | null;
  cause: Cause;
  commandId: string;
};

export type ItemEventKind = ItemChange["kind"];

/** The kind of an item's event as typed data for one kind. */
export type EventOf<K extends ItemEventKind> = Extract<ItemEvent, { kind: K }>;
