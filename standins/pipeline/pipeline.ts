import { randomBytes, randomUUID } from "node:crypto";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { EnteredPerson } from "../entry";
import type { Sender } from "../sender";
import { buildTold, deploymentTold, resultsTold, runTold } from "./events";
import { makeResultsFolder, resultsFolder, takeResults } from "./results";
import { handOver, LIMITS, runProgram, runScript, type Limits } from "./script";
import type { Build, Followed, PipelineMemory, Run } from "./state";

/** What somebody asked for cannot be done, in words for them. */
export class PipelineRefusal extends Error {}

const MAIN = "main";
const FIRST_BUILD = 1;

interface Setting {
  /** Its own address, for links. */
  address: string;
  /** Where the code host serves repositories. */
  code: string;
  limits?: Limits;
}

/** The pipeline: what it is told, what it runs for that, and what it tells. */
export class Pipeline {
  private working: Promise<void> | null = null;
  private stopped = false;

  constructor(
    private readonly memory: PipelineMemory,
    private readonly sender: Sender,
    private readonly setting: Setting,
  ) {}

  get address(): string {
    return this.setting.address;
  }

  logOf(run: Pick<Run, "id">): string {
    return this.memory.logOf(run);
  }

  /** Begins to work for a repository. @returns the secret with which its code host has to sign */
  follow(repository: string, environments: Followed["environments"]): string {
    if (!/^[a-z0-9][a-z0-9-]{0,60}$/.test(repository))
      throw new PipelineRefusal("A repository has small letters, figures and hyphens in its name.");
    if (this.memory.followed(repository))
      throw new PipelineRefusal(`${repository} is followed already.`);
    const hostSecret = `whsec_${randomBytes(32).toString("base64")}`;
    this.memory.state.followed.push({ repository, hostSecret, environments });
    this.memory.keep();
    return hostSecret;
  }

  /** Takes what the code host tells: what is pushed is checked, what comes to main is built too. */
  hear(repository: string, events: readonly HostTold[]): void {
    for (const { type, data } of events) {
      const { subject, customData = {} } = data;
      if (type.startsWith("dev.cdeventsx.zigzag-commits.pushed.") && isHash(customData.head))
        this.check(repository, { commit: customData.head, branch: subject.id });
      if (type.startsWith("dev.cdevents.change.")) this.hearOfChange(repository, type, data);
    }
    this.memory.keep();
    this.work();
  }

  private hearOfChange(
    repository: string,
    type: string,
    { subject, customData = {} }: HostTold["data"],
  ) {
    const { branch, head } = customData;
    const { state } = this.memory;
    const others = state.changes.filter((one) => one.name !== subject.id);
    const ended = /\.change\.(merged|abandoned)\./.test(type);
    if (ended || !branch) return void (state.changes = others);
    const isNew = others.length === state.changes.length;
    state.changes = [...others, { repository, branch, name: subject.id }];
    if (isNew && isHash(head)) this.check(repository, { commit: head, branch });
  }

  /** Checks a commit; what waits already for the same branch is not run any more. */
  private check(repository: string, { commit, branch }: { commit: string; branch: string }): void {
    const { state } = this.memory;
    const change = state.changes.find(
      (one) => one.repository === repository && one.branch === branch,
    );
    state.runs = state.runs.filter(
      (run) =>
        !(
          run.status === "waiting" &&
          run.kind === "check" &&
          run.branch === branch &&
          branch !== MAIN &&
          run.repository === repository
        ),
    );
    this.put({ repository, kind: "check", commit, branch, change: change?.name ?? null });
  }

  /**
   * Puts a deployment of a build in the line.
   * @throws PipelineRefusal where there is no such build or environment
   */
  deploy(
    repository: string,
    {
      build: name,
      environment,
      back = false,
      by = null,
      request = null,
    }: {
      build: string;
      environment: string;
      back?: boolean;
      by?: EnteredPerson | null;
      request?: string | null;
    },
  ): Run {
    const followed = this.memory.followed(repository);
    if (!followed) throw new PipelineRefusal(`No repository ${repository} is followed here.`);
    const build = this.memory.builds(repository).find((one) => one.name === name);
    if (!build) throw new PipelineRefusal(`There is no build ${name} of ${repository}.`);
    const there = followed.environments.find(
      (one) => one.name.toLowerCase() === environment.toLowerCase(),
    );
    if (!there) throw new PipelineRefusal(`${repository} has no environment ${environment}.`);
    const run = this.put({
      ...{ repository, kind: "deploy", commit: build.commit, build: build.name },
      ...{ environment: there.name, back, by, request },
    });
    this.memory.keep();
    this.work();
    return run;
  }

  private put(wanted: Pick<Run, "repository" | "kind" | "commit"> & Partial<Run>): Run {
    const run: Run = {
      ...{ branch: null, change: null, build: null, environment: null, back: false },
      ...{ by: null, request: null, startedAt: null, endedAt: null },
      ...wanted,
      ...{ id: randomUUID(), status: "waiting", askedAt: Date.now() },
    };
    this.memory.state.runs.push(run);
    return run;
  }

  /** Works off what waits, one after the other. */
  work(): void {
    if (this.working || this.stopped) return;
    this.working = this.workOff().finally(() => {
      this.working = null;
    });
  }

  private async workOff(): Promise<void> {
    for (;;) {
      const next = this.memory.state.runs.find(({ status }) => status === "waiting");
      if (!next || this.stopped) return;
      await this.run(next);
    }
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await this.working;
  }

  /** Waits until nothing is in the line any more. */
  async idle(): Promise<void> {
    while (this.working) await this.working;
  }

  private async run(run: Run): Promise<void> {
    Object.assign(run, { status: "running", startedAt: Date.now() });
    mkdirSync(path.join(this.memory.root, "runs"), { recursive: true });
    writeFileSync(this.logOf(run), "");
    if (run.kind === "check") this.tell(run.repository, runTold(this.address, run, "started"));
    const folder = mkdtempSync(path.join(tmpdir(), "zigzag-run-"));
    handOver(folder);
    makeResultsFolder(folder);
    try {
      const passed = await this.runIn(folder, run).catch((error: Error) => {
        writeFileSync(this.logOf(run), `${error.message}\n`, { flag: "a" });
        return false;
      });
      Object.assign(run, { status: passed ? "passed" : "failed", endedAt: Date.now() });
      await this.follows(run, folder);
    } finally {
      for (const one of [folder, resultsFolder(folder)])
        rmSync(one, { recursive: true, force: true });
      this.memory.keep();
    }
  }

  private async runIn(folder: string, run: Run): Promise<boolean> {
    const where = this.running(folder, run);
    const clone = ["clone", "--quiet", `${this.setting.code}/git/${run.repository}.git`, "."];
    if (!(await runProgram("git", clone, where))) return false;
    const out = ["-c", "advice.detachedHead=false", "checkout", "--quiet", run.commit];
    if (!(await runProgram("git", out, where))) return false;
    if (this.mustFail(run)) {
      writeFileSync(where.log, "It was made to fail on purpose, on the pipeline's own page.\n", {
        flag: "a",
      });
      return false;
    }
    return run.kind === "deploy"
      ? runScript("deploy", [run.environment!], where)
      : runScript("check", [], where);
  }

  private running(folder: string, run: Run) {
    const env = {
      ...{ COMMIT: run.commit, BUILD: run.build ?? "", ENVIRONMENT: run.environment ?? "" },
      RESULTS: resultsFolder(folder),
    };
    return { folder, log: this.logOf(run), env, limits: this.setting.limits ?? LIMITS };
  }

  /** Whether it was asked to fail, once. */
  private mustFail({ repository, kind, environment }: Run): boolean {
    const { state } = this.memory;
    const what = kind === "deploy" ? `deploy ${environment}` : kind;
    const at = state.failing.findIndex((one) => one.repository === repository && one.what === what);
    if (at < 0) return false;
    state.failing = state.failing.filter((_, i) => i !== at);
    return true;
  }

  /** What comes of a run that ended: it is told, and what comes to main is built and deployed. */
  private async follows(run: Run, folder: string): Promise<void> {
    const { repository, status, kind } = run;
    if (kind === "deploy") {
      if (status === "passed") this.stand(run);
      return this.tell(repository, deploymentTold(this.address, run));
    }
    for (const found of takeResults(folder, this.logOf(run)))
      this.tell(repository, resultsTold(this.address, run, found));
    this.tell(repository, runTold(this.address, run, "finished"));
    if (status !== "passed" || run.branch !== MAIN) return;
    const build = await this.build(run, folder);
    if (!build) return;
    const followed = this.memory.followed(repository);
    for (const { name, automatic } of followed?.environments ?? [])
      if (automatic) this.deploy(repository, { build: build.name, environment: name });
  }

  private async build(run: Run, folder: string): Promise<Build | null> {
    const { repository, commit } = run;
    const numbers = this.memory.builds(repository).map(({ name }) => Number(name));
    const name = String(Math.max(FIRST_BUILD - 1, ...numbers.filter(Number.isInteger)) + 1);
    const made = this.put({ repository, kind: "build", commit, branch: run.branch, build: name });
    const good = !this.mustFail(made) && (await runScript("build", [], this.running(folder, made)));
    Object.assign(made, {
      ...{ status: good ? "passed" : "failed", startedAt: run.endedAt, endedAt: Date.now() },
    });
    if (!good) return null;
    const build: Build = { repository, name, commit, at: Date.now() };
    this.memory.state.builds.push(build);
    this.tell(repository, buildTold(this.address, build, made));
    return build;
  }

  private stand({ repository, environment, build }: Run): void {
    const { state } = this.memory;
    state.standing = [
      ...state.standing.filter(
        (one) => one.repository !== repository || one.environment !== environment,
      ),
      { repository, environment: environment!, build: build!, at: Date.now() },
    ];
  }

  private tell(repository: string, event: object): void {
    this.sender.tell(repository, [event]);
  }

  /** Says what is to fail the next time, or is not to any more. */
  failNext(repository: string, what: string): void {
    const { state } = this.memory;
    const isIt = (one: { repository: string; what: string }) =>
      one.repository === repository && one.what === what;
    state.failing = state.failing.some(isIt)
      ? state.failing.filter((one) => !isIt(one))
      : [...state.failing, { repository, what }];
    this.memory.keep();
  }
}

/** Hashes are given to git as arguments: nothing else may stand in their place. */
const isHash = (said: unknown): said is string =>
  typeof said === "string" && /^[0-9a-f]{40,64}$/.test(said);

/** What the pipeline reads of the code host's events. */
export interface HostTold {
  type: string;
  data: {
    subject: { id: string };
    customData?: { head?: string; branch?: string };
  };
}
