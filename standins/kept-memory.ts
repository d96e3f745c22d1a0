import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import path from "node:path";
import type { SendingState } from "./sender";

/** Those that arrived longest ago are forgotten first. */
const MOST_ARRIVED = 500;

/** What a stand-in remembers, in a file that is never half written. */
export class KeptMemory<State extends SendingState> {
  readonly state: State;
  private readonly file: string;

  constructor(
    readonly root: string,
    name: string,
    empty: State,
  ) {
    mkdirSync(root, { recursive: true });
    this.file = path.join(root, name);
    this.state = existsSync(this.file)
      ? { ...empty, ...(JSON.parse(readFileSync(this.file, "utf8")) as Partial<State>) }
      : structuredClone(empty);
  }

  keep(): void {
    const { events } = this.state;
    const arrived = events.filter(({ arrivedAt }) => arrivedAt !== null).slice(-MOST_ARRIVED);
    const kept = new Set(arrived);
    this.state.events = events.filter((event) => event.arrivedAt === null || kept.has(event));
    writeFileSync(`${this.file}.new`, JSON.stringify(this.state), { mode: 0o600 });
    renameSync(`${this.file}.new`, this.file);
  }
}
