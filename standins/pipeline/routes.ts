import { existsSync, readFileSync } from "node:fs";
import type { IncomingMessage } from "node:http";
import { formRefused, readForm, readText, type Answer } from "../answer";
import { plain, readAsked } from "../asked";
import type { EnteredPerson, Entry } from "../entry";
import type { Sender } from "../sender";
import { isSignedWith } from "../signature";
import { listPage, refusedPage, repositoryPage, runPage, sentPage, type Shown } from "./pages";
import { PipelineRefusal, type HostTold, type Pipeline } from "./pipeline";
import type { Followed, PipelineMemory } from "./state";

export interface Around {
  url: URL;
  pipeline: Pipeline;
  memory: PipelineMemory;
  sender: Sender;
  entry: Entry;
  product: string | null;
}

const LARGEST_EVENTS = 8 * 1024 * 1024;
const RUNS_SHOWN = 30;

/** Answers for a page, takes what the code host tells, or does what was asked for. */
export async function answer(request: IncomingMessage, around: Around): Promise<Answer> {
  const { url, entry, product } = around;
  const [first, second] = url.pathname.split("/").slice(1);
  if (request.method === "POST" && first === "events")
    return takeEvents(request, second ?? "", around);
  if (request.method === "POST" && url.pathname === "/ask") return takeRequest(request, around);
  const person = entry.personOf(request.headers.cookie);
  const shown: Shown = { person, product, told: url.searchParams.get("told") ?? "" };
  try {
    if (url.pathname === "/enter") return enter(around);
    if (request.method === "POST") return await act(request, around, person);
    return { status: 200, body: look(shown, around) };
  } catch (error) {
    if (!(error instanceof PipelineRefusal)) throw error;
    return { status: 409, body: refusedPage(shown, url.pathname, error.message) };
  }
}

function enter({ url, entry }: Around): Answer {
  const entered = entry.enter(url.searchParams);
  const told = "/?told=That+link+does+not+hold+any+more.";
  const location = entered?.to ?? told;
  return { status: 303, body: "", location, cookie: entry.cookieOf(entered?.session ?? null) };
}

/** What the code host tells, signed with the secret that it was given. */
async function takeEvents(
  request: IncomingMessage,
  repository: string,
  { memory, pipeline }: Around,
): Promise<Answer> {
  const body = await readText(request, LARGEST_EVENTS);
  if (body === null) return plain(413, "That is too large.");
  const followed = memory.followed(repository);
  if (!followed || !isSignedWith(followed.hostSecret, request.headers, body))
    return plain(401, "Nobody known signed this.");
  try {
    const told = [JSON.parse(body)].flat() as HostTold[];
    pipeline.hear(
      repository,
      told.filter(
        (one) => typeof one?.type === "string" && typeof one.data?.subject?.id === "string",
      ),
    );
    return plain(202, "taken");
  } catch {
    return plain(400, "This is no event.");
  }
}

/** A request of the product, signed with the secret of its source: deploy a build, or roll back to one. */
async function takeRequest(
  request: IncomingMessage,
  { memory, pipeline }: Around,
): Promise<Answer> {
  const asked = await readAsked<{ build: string; environment: string }>(
    request,
    memory.state.targets,
  );
  if ("refused" in asked) return asked.refused;
  const kind = /^dev\.cdeventsx\.zigzag-request\.(deploy|rollback)\./.exec(asked.type)?.[1];
  if (!kind) return plain(400, "This is no request that is known here.");
  const { build = "", environment = "", by } = asked.said;
  try {
    const id = String(asked.id);
    const isKnown = memory.state.runs.some((run) => run.request === id);
    // Asked again, it is done once.
    if (!isKnown)
      pipeline.deploy(asked.repository, {
        ...{ build, environment, back: kind === "rollback", request: id },
        by: by ? { name: String(by.name), mail: String(by.mail) } : null,
      });
    return plain(202, "taken");
  } catch (error) {
    if (!(error instanceof PipelineRefusal)) throw error;
    return plain(409, error.message);
  }
}

function look(shown: Shown, { url, memory, pipeline }: Around): string {
  const { state } = memory;
  const [first, second] = url.pathname.split("/").slice(1);
  const latest = state.runs.toReversed();
  if (!first)
    return listPage(shown, {
      ...{ followed: state.followed, standing: state.standing },
      runs: latest.slice(0, RUNS_SHOWN),
    });
  if (first === "sent") return sentPage(shown, state.events);
  if (first === "runs") {
    const run = state.runs.find(({ id }) => id === second);
    if (!run) throw new PipelineRefusal("That run is not kept any more.");
    const log = pipeline.logOf(run);
    return runPage(shown, run, existsSync(log) ? readFileSync(log, "utf8") : "");
  }
  const followed = followedOf(memory, first);
  const own = <T extends { repository: string }>(all: readonly T[]) =>
    all.filter(({ repository }) => repository === first);
  return repositoryPage(shown, {
    ...{ followed, address: pipeline.address, standing: own(state.standing) },
    builds: own(state.builds).toReversed(),
    runs: own(latest).slice(0, RUNS_SHOWN),
    targets: own(state.targets),
    failing: own(state.failing).map(({ what }) => what),
  });
}

function followedOf(memory: PipelineMemory, repository: string): Followed {
  const followed = memory.followed(repository);
  if (!followed) throw new PipelineRefusal("There is no such page.");
  return followed;
}

/** Does what a form asks for, in the name of whoever is signed in. */
async function act(
  request: IncomingMessage,
  { url, memory, pipeline, sender }: Around,
  by: EnteredPerson | null,
): Promise<Answer> {
  const refused = formRefused(request, by !== null);
  if (by === null || refused !== null) throw new PipelineRefusal(refused ?? "");
  const field = await readForm(request, 2_000);
  const done = (location: string): Answer => ({ status: 303, body: "", location });
  const [first, second] = url.pathname.split("/").slice(1);
  if (first === "sent") {
    if (!sender.again(second ?? "")) throw new PipelineRefusal("That event is not kept any more.");
    return done("/sent");
  }
  if (first === "follow") {
    const names = field("environments")
      .split(",")
      .map((name) => name.trim())
      .filter((name) => name !== "");
    const environments = names.map((name, i) => ({ name, automatic: i === 0 }));
    pipeline.follow(field("repository"), environments);
    return done(`/${field("repository")}`);
  }
  followedOf(memory, first);
  if (second === "deploy") {
    const wanted = { build: field("build"), environment: field("environment") };
    const run = pipeline.deploy(first, { ...wanted, back: field("back") !== "", by });
    return done(`/runs/${run.id}`);
  }
  if (second === "fail") {
    pipeline.failNext(first, field("what"));
    return done(`/${first}`);
  }
  if (second !== "targets") throw new PipelineRefusal("There is no such page.");
  const target = { repository: first, address: field("address"), secret: field("secret") };
  memory.state.targets = [
    ...memory.state.targets.filter(
      ({ repository, address }) => repository !== first || address !== target.address,
    ),
    target,
  ];
  memory.keep();
  return done(`/${first}`);
}
