import type { AgreedChanges } from "./agreed";
import type { Age } from "@/core/flow/age";
import type { Card } from "@/core/board/card";
import type { Zigzag } from "@/core/flow/zigzag";
import type { TargetState } from "@/core/intake/service-target";
import type { RosterPerson } from "@/core/people/roster";
import type { Listed, Release, Sprint } from "@/core/plan/sprint";
import type { StateKind } from "@/core/workflow/state";
import type { Transition } from "@/core/workflow/workflow";
import type { ItemCode } from "@/core/ship/item-code";
import type { ItemTime } from "@/core/time/item-time";
import type { Talk } from "@/core/talk/talk-view";
import type { Agreement } from "./agreement";
import type { ItemSnapshot } from "./fields";
import type { ItemType } from "./item-type";
import type { OwnField } from "./own-field";
import type { ItemFileView } from "./item-file";
import type { Votes } from "./vote";

/** How the promises about an item stand. */
export interface ItemPromise {
  target: string;
  answer: TargetState | null;
  resolve: TargetState | null;
}

/** Another item that an item is linked to. */
export interface ItemViewLink {
  id: string;
  otherId: string;
  /** "duplicates", and seen from the other side "is duplicated by". */
  words: string;
  key: string;
  title: string;
  stateName: string;
  /** Whether nothing is to be done about it any more. */
  finished: boolean;
  /** Who has it in hand. */
  owner: string | null;
  sprintName: string | null;
  /** Where the item waits for the other one: whether that is still to come, or will not come. */
  wait: "open" | "ended otherwise" | null;
}

export interface ItemView {
  item: ItemSnapshot;
  card: Card;
  key: string;
  project: { id: string; key: string; name: string; zone: string };
  state: { id: string; name: string };
  transitions: (Transition & { toName: string })[];
  talk: Talk;
  /** The id of whoever reads it. */
  me: string;
  history: {
    seq: number;
    who: string;
    whoId: string | null;
    words: string;
    note: string | null;
    at: number;
    commandId: string;
    mine: boolean;
    kind: string;
  }[];
  children: {
    id: string;
    key: string;
    title: string;
    stateName: string;
    finished: boolean;
    card: Card;
    finish: Transition | null;
  }[];
  parent: { key: string; title: string } | null;
  /** What of it is different from what was agreed when work began; null where nothing is. */
  agreed:
    | (Omit<AgreedChanges, "by"> & {
        by: { name: string; changes: number }[];
        /** Who has the item or reviews it and has not said that they saw the last change. */
        unseenBy: { id: string; name: string }[];
        /** Up to which event whoever looks now sees it. */
        seq: number;
      })
    | null;
  links: ItemViewLink[];
  /** How many items it waits for that this person may not see. */
  waitsUnseen: number;
  reports: {
    id: string;
    reference: string;
    title: string;
    receivedAt: number;
    status: string;
    /** What came with it from outside. */
    files: { id: string; name: string; mediaType: string }[];
  }[];
  /** Who wants it, and how many told of it, by reports or by saying that it happens to them too. */
  votes: Votes;
  /** Whether its project counts votes against items. */
  votesAgainst: boolean;
  /** By which words people outside know of it; null where they do not. */
  knownAs: string | null;
  zigzag: Zigzag;
  /** When it came to which environment. */
  arrivals: { at: number; environment: string }[];
  agreement: Agreement;
  stateNames: Record<string, string>;
  /** Of what is finished, what it took until its first delivery. */
  age: Age;
  /** Of what finished once more after its first delivery: the days of its whole clock. */
  againDays: number | null;
  time: ItemTime;
  /** What it has in the code hosts that its project hears of. */
  code: ItemCode;
  promise: ItemPromise | null;
  people: RosterPerson[];
  teams: { id: string; name: string }[];
  types: ItemType[];
  /** The states of the workflows that its project's types follow, in their order. */
  workflowStates: Record<string, { id: string; name: string; kind: StateKind }[]>;
  sprints: Listed<Sprint>[];
  releases: Listed<Release>[];
  ownFields: OwnField[];
  /** What its fields show from what it is linked to, by id. */
  shown: Record<string, string | number>;
  /** Put to it by its people, the first one first; those that were taken off left out. */
  files: ItemFileView[];
  /** Where it is withdrawn: by whom and why, and whether one may bring it back. */
  withdrawn: { who: string; why: string; at: number; mayBringBack: boolean } | null;
  rights: {
    move: boolean;
    withdraw: boolean;
    create: boolean;
    edit: boolean;
    comment: boolean;
    /** Closing the talk, and removing what it says for good. */
    moderate: boolean;
    block: boolean;
    overrideLimits: boolean;
    judge: boolean;
  };
  now: number;
}
