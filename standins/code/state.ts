import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import path from "node:path";

/** Somebody as the host knows them. */
export interface HostPerson {
  name: string;
  mail: string;
}

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

/** Whom the host tells of a repository. */
export interface HostTarget {
  repository: string;
  /** Where events are posted to; a path stands for one of the product that runs beside it. */
  address: string;
  secret: string;
}

/** An event on its way, or that arrived. */
export interface HostEvent {
  id: string;
  repository: string;
  address: string;
  body: object;
  madeAt: number;
  tries: number;
  nextAt: number;
  arrivedAt: number | null;
  /** What the other side said last. */
  said: string;
}

export interface HostState {
  changes: HostChange[];
  tokens: HostToken[];
  targets: HostTarget[];
  events: HostEvent[];
  /** Whether those who are told have to hear how open changes stand, once, when it starts. */
  owesNews: boolean;
}

const EMPTY: HostState = { changes: [], tokens: [], targets: [], events: [], owesNews: false };
/** Those that arrived longest ago are forgotten first. */
const MOST_ARRIVED = 500;

/** What the host remembers beside its repositories, in a file that is never half written. */
export class HostMemory {
  readonly state: HostState;
  private readonly file: string;

  constructor(readonly root: string) {
    mkdirSync(root, { recursive: true });
    this.file = path.join(root, "host.json");
    this.state = existsSync(this.file)
      ? { ...EMPTY, ...(JSON.parse(readFileSync(this.file, "utf8")) as Partial<HostState>) }
      : structuredClone(EMPTY);
  }

  keep(): void {
    const { events } = this.state;
    const arrived = events.filter(({ arrivedAt }) => arrivedAt !== null).slice(-MOST_ARRIVED);
    const kept = new Set(arrived);
    this.state.events = events.filter((event) => event.arrivedAt === null || kept.has(event));
    writeFileSync(`${this.file}.new`, JSON.stringify(this.state), { mode: 0o600 });
    renameSync(`${this.file}.new`, this.file);
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
