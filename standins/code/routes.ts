import type { IncomingMessage } from "node:http";
import { formRefused, readForm, type Answer } from "../answer";
import type { Entry } from "../entry";
import { takeRequest } from "./asked";
import { HostRefusal, type CodeHost } from "./host";
import {
  changePage,
  commitPage,
  listPage,
  refusedPage,
  repositoryPage,
  sentPage,
  tokenPage,
  type Shown,
} from "./pages";
import {
  branchesOf,
  commitsOf,
  diffBetween,
  isHash,
  MAIN,
  makeEmpty,
  repositoriesIn,
  tagsOf,
} from "./repository";
import type { Sender } from "../sender";
import type { HostChange, HostMemory, HostPerson } from "./state";

interface Around {
  url: URL;
  host: CodeHost;
  memory: HostMemory;
  sender: Sender;
  entry: Entry;
  product: string | null;
}

const COMMITS_SHOWN = 30;

/** Answers for a page, or does what one asked for. */
export async function answerPage(request: IncomingMessage, around: Around): Promise<Answer> {
  const { url, entry, product } = around;
  if (request.method === "POST" && url.pathname === "/ask") return takeRequest(request, around);
  const person = entry.personOf(request.headers.cookie);
  const shown: Shown = { person, product, told: url.searchParams.get("told") ?? "" };
  try {
    if (url.pathname === "/enter") return enter(around);
    if (request.method === "POST") return await act(request, around, person);
    return { status: 200, body: await look(shown, around) };
  } catch (error) {
    if (!(error instanceof HostRefusal)) throw error;
    return { status: 409, body: refusedPage(shown, url.pathname, error.message) };
  }
}

function enter({ url, entry }: Around): Answer {
  const entered = entry.enter(url.searchParams);
  if (!entered)
    return {
      status: 303,
      body: "",
      location: "/?told=That+link+does+not+hold+any+more.",
      cookie: entry.cookieOf(null),
    };
  const cookie = entry.cookieOf(entered.session);
  return { status: 303, body: "", location: entered.to, cookie };
}

async function look(shown: Shown, around: Around): Promise<string> {
  const { url, host, memory } = around;
  const [first, second, third] = url.pathname.split("/").slice(1);
  if (!first) return listPage(shown, await repositories(around));
  if (first === "sent") return sentPage(shown, memory.state.events);
  if (first === "me") {
    if (!shown.person) throw new HostRefusal("Come in by the product first.");
    return tokenPage(shown, { mail: shown.person.mail, token: null });
  }
  const folder = host.folder(first);
  if (second === "changes") return lookAtChange(shown, around, changeOf(memory, first, third));
  if (second === "commit" && isHash(third ?? "")) {
    const [commit] = await commitsOf(folder, { heads: [third], most: 1 }).catch(() => []);
    if (!commit) throw new HostRefusal("There is no such commit.");
    const before = commit.parents[0] ?? EMPTY_TREE;
    const diff = await diffOf(folder, before, commit.hash);
    return commitPage(shown, first, commit, diff);
  }
  if (second) throw new HostRefusal("There is no such page.");
  return lookAtRepository(shown, around, first);
}

/** The tree with nothing in it, in every repository. */
const EMPTY_TREE = "4b825dc642cb6eb9a060e54bf8d69288fbee4904";

const diffOf = (folder: string, before: string, hash: string) =>
  before === EMPTY_TREE
    ? Promise.resolve({ text: "", cut: false })
    : diffBetween(folder, before, hash);

const repositories = ({ host, memory }: Around) =>
  Promise.all(
    repositoriesIn(memory.root).map(async (name) => ({
      name,
      branches: (await branchesOf(host.folder(name))).size,
      open: memory.state.changes.filter(
        ({ repository, status }) => repository === name && status === "open",
      ).length,
    })),
  );

async function lookAtRepository(
  shown: Shown,
  { host, memory }: Around,
  name: string,
): Promise<string> {
  const folder = host.folder(name);
  const heads = await branchesOf(folder);
  const main = heads.get(MAIN);
  const others = [...heads].filter(([branch]) => branch !== MAIN);
  const branches = await Promise.all(
    others.map(async ([branch, head]) => ({
      ...{ name: branch, head, change: memory.openChangeOf(name, branch) ?? null },
      ahead: (await commitsOf(folder, { heads: [head], without: main ? [main] : [] })).length,
    })),
  );
  const commits = main ? await commitsOf(folder, { heads: [main], most: COMMITS_SHOWN }) : [];
  return repositoryPage(shown, {
    ...{ address: host.address, name, commits },
    branches: main ? [{ name: MAIN, head: main, ahead: 0, change: null }, ...branches] : branches,
    changes: memory.state.changes.filter(({ repository }) => repository === name),
    targets: memory.state.targets.filter(({ repository }) => repository === name),
    tags: await tagsOf(folder),
  });
}

async function lookAtChange(shown: Shown, { host }: Around, change: HostChange): Promise<string> {
  const folder = host.folder(change.repository);
  const main = (await branchesOf(folder)).get(MAIN)!;
  const open = change.status === "open";
  // What was merged is compared with main as it was before.
  const base = change.mergedAs ? `${change.mergedAs}^1` : main;
  return changePage(shown, {
    change,
    facts: open ? await host.facts(change) : null,
    commits: await commitsOf(folder, { heads: [change.head], without: [base] }),
    diff: await diffBetween(folder, base, change.head),
  });
}

function changeOf(memory: HostMemory, repository: string, number: string | undefined): HostChange {
  const change = memory.change(repository, Number(number));
  if (!change) throw new HostRefusal("There is no such change.");
  return change;
}

/** Does what a form asks for, in the name of whoever is signed in. */
async function act(
  request: IncomingMessage,
  around: Around,
  by: HostPerson | null,
): Promise<Answer> {
  const { url, host, memory, sender } = around;
  const refused = formRefused(request, by !== null);
  if (by === null || refused !== null) throw new HostRefusal(refused ?? "");
  const field = await readForm(request, 5_000);
  const [first, second, third, fourth] = url.pathname.split("/").slice(1);
  const done = (location: string): Answer => ({ status: 303, body: "", location });
  if (first === "me") {
    const shown = { person: by, product: around.product, told: "" };
    const token = second === "token" ? host.makeToken(by) : null;
    if (second === "end") host.endTokens(by);
    return { status: 200, body: tokenPage(shown, { mail: by.mail, token }) };
  }
  if (first === "sent") {
    if (!sender.again(second ?? "")) throw new HostRefusal("That event is not kept any more.");
    return done("/sent");
  }
  if (first === "new") {
    await makeEmpty(memory.root, field("name")).catch((error: Error) => {
      throw new HostRefusal(error.message);
    });
    return done(`/${field("name")}`);
  }
  host.folder(first);
  if (second === "targets") {
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
  if (second !== "changes") throw new HostRefusal("There is no such page.");
  return host.alone(first, async () => {
    if (!third) {
      const change = await host.open(first, { branch: field("branch"), title: field("title"), by });
      return done(`/${first}/changes/${change.number}`);
    }
    const change = changeOf(memory, first, third);
    if (fourth === "review") {
      const verdict = field("verdict") === "approved" ? "approved" : "sent back";
      await host.review(change, { by, verdict, words: field("words") });
    } else if (fourth === "merge") await host.merge(change, { by, message: field("message") });
    else if (fourth === "abandon") await host.abandon(change, by);
    else throw new HostRefusal("There is no such page.");
    return done(`/${first}/changes/${change.number}`);
  });
}
