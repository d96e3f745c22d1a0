import { execFile } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { promisify } from "node:util";
import { makeEmpty } from "../../../standins/code/repository";
import { startCodeStandIn, type CodeStandIn } from "../../../standins/code/server";
import { startPipelineStandIn, type PipelineStandIn } from "../../../standins/pipeline/server";
import { freePort } from "./application";
import type { Person } from "./person";

const SECRET = "for the browser alone";
const run = promisify(execFile);

/** The code host and the pipeline that come along, for an application that is started with their addresses. */
export class CodeAndPipeline {
  host!: CodeStandIn;
  pipeline!: PipelineStandIn;
  private folder!: string;

  /** @param settings how the application knows of both, filled in before it starts */
  constructor(readonly settings: Record<string, string>) {}

  async start(product: string): Promise<void> {
    const { CODE_URL, PIPELINE_URL } = this.settings;
    this.folder = mkdtempSync(path.join(tmpdir(), "zigzag-code-and-pipeline-"));
    const settings = (address: string, root: string) => ({
      ...{ port: Number(new URL(address).port), root: path.join(this.folder, root) },
      ...{ secret: SECRET, product },
    });
    this.host = await startCodeStandIn(settings(CODE_URL, "host"));
    this.pipeline = await startPipelineStandIn({
      ...settings(PIPELINE_URL, "pipeline"),
      code: CODE_URL,
    });
    this.host.pipelineIsAt(this.pipeline.address);
  }

  async stop(): Promise<void> {
    await this.pipeline.close();
    await this.host.close();
    rmSync(this.folder, { recursive: true, force: true });
  }

  /** Makes a repository of which each of both tells a source of the product, and the host the pipeline. */
  async tellOf(
    repository: string,
    environments: readonly { name: string; automatic: boolean }[],
    sources: Record<"code" | "pipeline", { address: string; secret: string }>,
  ): Promise<void> {
    await makeEmpty(path.join(this.folder, "host"), repository);
    const secret = this.pipeline.pipeline.follow(repository, [...environments]);
    const { targets } = this.host.memory.state;
    targets.push({ repository, ...sources.code });
    targets.push({ repository, address: `pipeline:/events/${repository}`, secret });
    this.pipeline.memory.state.targets.push({ repository, ...sources.pipeline });
  }

  /** Clones a repository as somebody who comes to the host from the product, with a new token of theirs. */
  async clone(who: Person, name: string, mail: string, repository: string): Promise<Clone> {
    await who.page.goto(`${who.address}/api/code-host?to=%2Fme`);
    await who.press("Make a new one");
    const token = await who.text("main pre");
    const address = this.host.address.replace("://", `://${encodeURIComponent(mail)}:${token}@`);
    const clone = new Clone(path.join(this.folder, repository), this.folder);
    await clone.inHome("clone", "--quiet", `${address}/git/${repository}.git`, clone.folder);
    await clone.git("config", "user.name", name);
    await clone.git("config", "user.email", mail);
    return clone;
  }
}

/** A clone of a repository in a folder, as its owner works in it at a terminal. */
export class Clone {
  constructor(
    readonly folder: string,
    private readonly home: string,
  ) {}

  async inHome(...args: string[]): Promise<void> {
    const env = { ...process.env, GIT_TERMINAL_PROMPT: "0", GIT_CONFIG_NOSYSTEM: "1" };
    await run("git", args, { env: { ...env, HOME: this.home } });
  }

  git(...args: string[]): Promise<void> {
    return this.inHome("-C", this.folder, ...args);
  }

  /** Commits a file as it is now; one below `.pipeline` can be run. */
  async commit(file: string, text: string, message: string): Promise<void> {
    const at = path.join(this.folder, file);
    mkdirSync(path.dirname(at), { recursive: true });
    writeFileSync(at, text, { mode: file.startsWith(".pipeline/") ? 0o755 : 0o644 });
    await this.git("add", file);
    await this.git("commit", "--quiet", "--message", message);
  }
}

/** Addresses of a code host and a pipeline that are started later, with what the application must know of them. */
export function givenCodeAndPipeline(): CodeAndPipeline {
  const settings: Record<string, string> = { CODE_SECRET: SECRET, PIPELINE_SECRET: SECRET };
  beforeAll(async () => {
    settings.PIPELINE_URL = `http://localhost:${await freePort()}`;
    settings.CODE_URL = `http://localhost:${await freePort()}`;
  });
  return new CodeAndPipeline(settings);
}
