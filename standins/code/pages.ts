import type { GitCommit } from "@/core/formats/git-log";
import { keysIn } from "@/core/item/key";
import { pageOf, text, when } from "../page";
import { MAIN } from "./repository";
import type { ChangeFacts } from "./events";
import type { SentEvent, Target } from "../sender";
import type { HostChange, HostPerson } from "./state";

const STYLE = `
  .long > code { white-space: normal; } table { border-collapse: collapse; width: 100%; } td, th { text-align: left; padding: 6px 8px; border-bottom: 1px solid var(--line); vertical-align: top; }
  th { font-size: 13px; color: var(--soft); font-weight: 600; } section { margin-top: 26px; }
  td > code { white-space: nowrap; }
  code, pre { font-family: ui-monospace, monospace; font-size: 13px; overflow-wrap: anywhere; }
  .acts { display: flex; flex-wrap: wrap; gap: 10px; align-items: end; } .acts form { display: flex; gap: 8px; align-items: end; }
  .plain { background: transparent; color: var(--accent); border: 1px solid var(--line); }
  ins { background: light-dark(#dcefe2, #1f3a2c); text-decoration: none; } del { background: light-dark(#f6dcdc, #432629); text-decoration: none; }
  ins, del { display: block; } .bad { color: light-dark(#9b2435, #e98b98); font-weight: 600; } .good { color: var(--accent); font-weight: 600; }
`;

/** What every page knows: who looks, and where the product is. */
export interface Shown {
  person: HostPerson | null;
  /** The address of the product; null while nobody has told it. */
  product: string | null;
  told: string;
}

/** Where somebody is signed in by the product, and comes back to a page. */
const entry = (product: string, path: string): string =>
  `${product}/api/code-host?to=${encodeURIComponent(path)}`;

function page({ person, product, told }: Shown, path: string, title: string, body: string): string {
  const who = person
    ? `<span>${text(person.name)} · <a href="/me">your token</a></span>`
    : product
      ? `<a href="${text(entry(product, path))}">Come in by the product</a>`
      : "";
  return pageOf({
    name: "Code of the quay",
    says: "Stands in for a code host. It runs on this machine alone.",
    ways: `<a href="/sent">What it told</a>${who}`,
    style: STYLE,
    ...{ title, body, told },
  });
}

/** Words in which the keys of items lead to the product. */
function linked(words: string, product: string | null): string {
  if (product === null) return text(words);
  const keys = new Set(keysIn(words));
  return text(words).replace(/[A-Z][A-Z0-9]{1,9}-\d{1,9}/g, (key) => {
    if (!keys.has(key)) return key;
    const project = key.slice(0, key.lastIndexOf("-"));
    return `<a href="${text(product)}/p/${project}/items/${key}">${key}</a>`;
  });
}

const button = (action: string, words: string, plain = false): string =>
  `<form method="post" action="${text(action)}"><button${plain ? ` class="plain"` : ""}>${text(words)}</button></form>`;

export function listPage(
  shown: Shown,
  repositories: { name: string; branches: number; open: number }[],
): string {
  const rows = repositories.map(
    ({ name, branches, open }) =>
      `<tr><td><a href="/${name}"><b>${text(name)}</b></a></td><td>${branches} branches</td><td>${open} open changes</td></tr>`,
  );
  const make = shown.person
    ? `<section><h2>A new repository</h2><div class="acts"><form method="post" action="/new"><label>Name<input name="name" required maxlength="61" pattern="[a-z0-9][a-z0-9\\-]*"></label><button>Make it</button></form></div></section>`
    : "";
  return page(
    shown,
    "/",
    "Repositories",
    `<h2>Repositories</h2><table>${rows.join("")}</table>${make}`,
  );
}

/** The commands with which an empty repository gets its first commit. */
const firstCommands = (address: string, name: string): string =>
  text(
    [
      `git clone ${address}/git/${name}.git`,
      `cd ${name}`,
      "git switch --create main",
      'echo "What this is for" > README.md',
      "git add README.md",
      'git commit --message "What there is so far"',
      "git push --set-upstream origin main",
    ].join("\n"),
  );

export function repositoryPage(
  shown: Shown,
  {
    address,
    name,
    branches,
    changes,
    commits,
    targets,
    tags,
  }: {
    address: string;
    name: string;
    branches: { name: string; head: string; ahead: number; change: HostChange | null }[];
    changes: readonly HostChange[];
    commits: readonly GitCommit[];
    targets: readonly Target[];
    tags: readonly { tag: string; commit: string }[];
  },
): string {
  const clone = `<p>To clone it: <code>git clone ${text(`${address}/git/${name}.git`)}</code>. A push asks for your mail address and your token.</p>`;
  const empty =
    branches.length === 0
      ? `<section><h2>It is empty</h2><p>These commands put a first commit into it:</p><pre>${firstCommands(address, name)}</pre></section>`
      : "";
  const open = changes.filter(({ status }) => status === "open");
  const changeRows = open.map(
    (one) =>
      `<tr><td><a href="/${name}/changes/${one.number}">${one.number}</a></td><td>${linked(one.title, shown.product)}</td><td class="long"><code>${text(one.branch)}</code></td><td>${text(one.author.name)}</td></tr>`,
  );
  const branchRows = branches.map(
    ({ name: branch, head, ahead, change }) =>
      `<tr><td class="long"><code>${linked(branch, null)}</code></td><td><code>${head.slice(0, 8)}</code></td><td>${aheadWords(branch, ahead)}</td><td>${
        change
          ? `<a href="/${name}/changes/${change.number}">change ${change.number}</a>`
          : ahead > 0 && shown.person
            ? `<div class="acts"><form method="post" action="/${name}/changes"><input type="hidden" name="branch" value="${text(branch)}"><label>Title<input name="title" maxlength="300" required></label><button>Propose to merge</button></form></div>`
            : ""
      }</td></tr>`,
  );
  const told = targets.map(({ address: to }) => `<li><code>${text(to)}</code></li>`).join("");
  const tell = shown.person
    ? `<div class="acts"><form method="post" action="/${name}/targets"><label>Address of the source<input name="address" type="url" required maxlength="300"></label><label>Its secret<input name="secret" required maxlength="200"></label><button>Tell it too</button></form></div>`
    : "";
  return page(
    shown,
    `/${name}`,
    name,
    `<h2>${text(name)}</h2>${clone}${empty}
    ${open.length > 0 ? `<section><h2>Open changes</h2><table>${changeRows.join("")}</table></section>` : ""}
    ${branches.length > 0 ? `<section><h2>Branches</h2><table>${branchRows.join("")}</table></section>` : ""}
    ${commits.length > 0 ? `<section><h2>On main</h2>${commitTable(name, commits, shown.product)}</section>` : ""}
    ${tags.length > 0 ? `<section><h2>Tags</h2><ul>${tags.map(({ tag, commit }) => `<li><code>${text(tag)}</code> <a href="/${name}/commit/${commit}"><code>${commit.slice(0, 8)}</code></a></li>`).join("")}</ul></section>` : ""}
    <section><h2>Who is told</h2><ul>${told || "<li>nobody</li>"}</ul>${tell}</section>`,
  );
}

function aheadWords(branch: string, ahead: number): string {
  if (branch === MAIN) return "what all is merged into";
  if (ahead === 0) return "main has all of it";
  return `${ahead} ${ahead === 1 ? "commit" : "commits"} main does not have`;
}

function commitTable(name: string, commits: readonly GitCommit[], product: string | null): string {
  const rows = commits.map(
    (one) =>
      `<tr><td><a href="/${name}/commit/${one.hash}"><code>${one.hash.slice(0, 8)}</code></a></td><td>${linked(one.message.split("\n")[0], product)}</td><td>${text(one.name)}</td><td class="soft">${when(one.authoredAt)}</td></tr>`,
  );
  return `<table>${rows.join("")}</table>`;
}

export function changePage(
  shown: Shown,
  {
    change,
    facts,
    commits,
    diff,
  }: {
    change: HostChange;
    facts: ChangeFacts | null;
    commits: readonly GitCommit[];
    diff: { text: string; cut: boolean };
  },
): string {
  const { repository, number, title, branch, status, author, reviews, head } = change;
  const at = `/${repository}/changes/${number}`;
  const said = reviews.map(
    (one) =>
      `<li><b>${text(one.by.name)}</b> ${one.verdict === "approved" ? `<span class="good">approved</span>` : `<span class="bad">sent it back</span>`}, ${when(one.at)}${one.head === head ? "" : " (before its last commits)"}${one.words ? `<br>${linked(one.words, shown.product)}` : ""}</li>`,
  );
  const standing = facts
    ? `${facts.files} files, +${facts.insertions} −${facts.deletions}, ${facts.behind} behind main, ${facts.mergesCleanly ? `<span class="good">merges cleanly</span>` : `<span class="bad">does not merge cleanly</span>`}`
    : text(status);
  const mine = shown.person?.mail === author.mail;
  const review = mine
    ? ""
    : `<form method="post" action="${at}/review"><label>In words<input name="words" maxlength="2000"></label><button name="verdict" value="approved">Approve</button><button class="plain" name="verdict" value="sent back">Ask for changes</button></form>`;
  const acts =
    status === "open" && shown.person
      ? `<section><h2>What you can do</h2><div class="acts">${review}<form method="post" action="${at}/merge"><label>Words of the merge<input name="message" maxlength="2000" placeholder="Fixes …"></label><button>Merge into main</button></form>${button(`${at}/abandon`, "Give it up", true)}</div></section>`
      : "";
  return page(
    shown,
    at,
    title,
    `<h2>${linked(title, shown.product)}</h2><p class="soft"><a href="/${repository}">${text(repository)}</a> ${number}, <code>${text(branch)}</code> by ${text(author.name)}</p><p>${standing}</p>
    ${said.length > 0 ? `<ul>${said.join("")}</ul>` : `<p class="soft">Nobody has looked at it yet.</p>`}${acts}
    <section><h2>Commits</h2>${commitTable(repository, commits, shown.product)}</section>
    <section><h2>What it does to main</h2>${diffText(diff)}</section>`,
  );
}

function diffText({ text: told, cut }: { text: string; cut: boolean }): string {
  const lines = told.split("\n").map((line) => {
    if (/^\+(?!\+\+)/.test(line)) return `<ins>${text(line)}</ins>`;
    if (/^-(?!--)/.test(line)) return `<del>${text(line)}</del>`;
    return `${text(line)}\n`;
  });
  return `<pre>${lines.join("")}</pre>${cut ? `<p class="bad">It is longer than what is shown here: clone the repository to see all of it.</p>` : ""}`;
}

export function commitPage(
  shown: Shown,
  repository: string,
  commit: GitCommit,
  diff: { text: string; cut: boolean },
): string {
  const { hash, message, name, authoredAt } = commit;
  return page(
    shown,
    `/${repository}/commit/${hash}`,
    message.split("\n")[0],
    `<h2>${linked(message.split("\n")[0], shown.product)}</h2><p class="soft"><a href="/${repository}">${text(repository)}</a> <code>${hash}</code>, ${text(name)}, ${when(authoredAt)}</p><pre>${linked(message, shown.product)}</pre>${diffText(diff)}`,
  );
}

export function tokenPage(shown: Shown, { mail, token }: { mail: string; token: string | null }) {
  const made = token
    ? `<p>Your new token. It is shown this once, and the one before it has ended:</p><pre>${text(token)}</pre><p>When git asks: your mail address <code>${text(mail)}</code>, and the token as the password.</p>`
    : "";
  return page(
    shown,
    "/me",
    "Your token",
    `<h2>Your token</h2><p>It is what git pushes with in your name.</p>${made}<div class="acts">${button("/me/token", "Make a new one")}${button("/me/end", "End it", true)}</div>`,
  );
}

export function sentPage(shown: Shown, events: readonly SentEvent[]): string {
  const rows = events.toReversed().map((event) => {
    const { type = "", subject = "" } = event.body as { type?: string; subject?: string };
    const state =
      event.arrivedAt === null
        ? `<span class="bad">waits, tried ${event.tries} times</span>`
        : `<span class="good">arrived</span> ${when(event.arrivedAt)}`;
    const again = shown.person ? button(`/sent/${event.id}`, "Send it again", true) : "";
    return `<tr><td class="soft">${when(event.madeAt)}</td><td><code>${text(type.replace(/^dev\.cdevents(x\.zigzag-)?\.?/, ""))}</code><br>${text(event.repository)}: ${text(subject)}</td><td>${state}<br><span class="soft">${text(event.said.slice(0, 160))}</span></td><td>${again}</td></tr>`;
  });
  return page(
    shown,
    "/sent",
    "What it told",
    `<h2>What it told</h2><p class="soft">What does not arrive is tried again until it does. Whoever gets an event twice has it once.</p><table>${rows.join("") || "<tr><td>Nothing yet.</td></tr>"}</table>`,
  );
}

export const refusedPage = (shown: Shown, path: string, words: string): string =>
  page(shown, path, "It was not done", `<p class="bad">${text(words)}</p>`);
