import { rmSync } from "node:fs";
import path from "node:path";
import type { EnteredPerson } from "../entry";
import { KeptMemory } from "../kept-memory";
import type { SendingState } from "../sender";

/** A repository that the pipeline works for. */
export interface Followed {
  repository: string;
  /** With which the code host signs what it tells. */
  hostSecret: string;
  /** Where builds are deployed to, in their order. */
  environments: { name: string; automatic: boolean }[];
}

export type RunKind = "check" | "build" | "deploy";

/** Something that was run, or waits for its turn. */
export interface Run {
  id: string;
  repository: string;
  kind: RunKind;
  commit: string;
  branch: string | null;
  /** The change that is checked. */
  change: string | null;
  build: string | null;
  environment: string | null;
  /** Whether an older build is put back. */
  back: boolean;
  by: EnteredPerson | null;
  /** The request of the product that it answers. */
  request: string | null;
  status: "waiting" | "running" | "passed" | "failed";
  askedAt: number;
  startedAt: number | null;
  endedAt: number | null;
}

export interface Build {
  repository: string;
  name: string;
  commit: string;
  at: number;
}

/** What is on an environment. */
export interface Standing {
  repository: string;
  environment: string;
  build: string;
  at: number;
}

export interface PipelineState extends SendingState {
  followed: Followed[];
  runs: Run[];
  builds: Build[];
  standing: Standing[];
  /** Open changes by their branches, as the code host told. */
  changes: { repository: string; branch: string; name: string }[];
  /** What is to fail the next time: "check", "build", or "deploy" with an environment. */
  failing: { repository: string; what: string }[];
}

const EMPTY: PipelineState = {
  ...{ targets: [], events: [], followed: [], runs: [], builds: [], standing: [] },
  ...{ changes: [], failing: [] },
};
const MOST_RUNS = 400;

/** What the pipeline remembers. */
export class PipelineMemory extends KeptMemory<PipelineState> {
  constructor(root: string) {
    super(root, "pipeline.json", EMPTY);
    // What ran when it was stopped begins anew.
    for (const run of this.state.runs) if (run.status === "running") run.status = "waiting";
  }

  override keep(): void {
    const { runs } = this.state;
    const before = new Set(runs);
    this.state.runs = runs.filter(
      ({ status }, i) => status === "waiting" || i >= runs.length - MOST_RUNS,
    );
    for (const run of this.state.runs) before.delete(run);
    for (const run of before) rmSync(this.logOf(run), { force: true });
    super.keep();
  }

  /** Where it stands what a run said. */
  logOf({ id }: Pick<Run, "id">): string {
    return path.join(this.root, "runs", `${id}.log`);
  }

  followed(repository: string): Followed | undefined {
    return this.state.followed.find((one) => one.repository === repository);
  }

  builds(repository: string): Build[] {
    return this.state.builds.filter((one) => one.repository === repository);
  }

  standingAt(repository: string, environment: string): Standing | undefined {
    return this.state.standing.find(
      (one) => one.repository === repository && one.environment === environment,
    );
  }
}
