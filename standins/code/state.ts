import type { EnteredPerson } from "../entry";
import { KeptMemory } from "../kept-memory";
import type { SendingState } from "../sender";

/** Somebody as the host knows them. */
export type HostPerson = EnteredPerson;

export interface HostReview {
  by: HostPerson;
  verdict: "approved" | "sent back";
  words: string;
  at: number;
  head: string;
}

/** A branch that is proposed to be merged into main. */
export interface HostChange {
  repository: string;
  number: number;
  title: string;
  branch: string;
  status: "open" | "merged" | "abandoned";
  author: HostPerson;
  head: string;
  openedAt: number;
  endedAt: number | null;
  mergedAs: string | null;
  reviews: HostReview[];
}

/** What a person pushes with, in place of a password; only its hash is kept. */
export interface HostToken {
  hash: string;
  person: HostPerson;
  madeAt: number;
}

export interface HostState extends SendingState {
  changes: HostChange[];
  tokens: HostToken[];
  /** Whether those who are told have to hear how open changes stand, once, when it starts. */
  owesNews: boolean;
}

const EMPTY: HostState = { changes: [], tokens: [], targets: [], events: [], owesNews: false };
/** What the host remembers beside its repositories. */
export class HostMemory extends KeptMemory<HostState> {
  constructor(root: string) {
    super(root, "host.json", EMPTY);
  }

  change(repository: string, number: number): HostChange | undefined {
    return this.state.changes.find((one) => one.repository === repository && one.number === number);
  }

  openChangeOf(repository: string, branch: string): HostChange | undefined {
    return this.state.changes.find(
      (one) => one.repository === repository && one.branch === branch && one.status === "open",
    );
  }
}
