import { pageOf, text, when } from "../page";
import type { EnteredPerson } from "../entry";
import type { SentEvent, Target } from "../sender";
import type { Build, Followed, Run, Standing } from "./state";

const STYLE = `
  table { border-collapse: collapse; width: 100%; } td, th { text-align: left; padding: 6px 8px; border-bottom: 1px solid var(--line); vertical-align: top; }
  th { font-size: 13px; color: var(--soft); font-weight: 600; } section { margin-top: 26px; }
  code, pre { font-family: ui-monospace, monospace; font-size: 13px; overflow-wrap: anywhere; }
  .acts { display: flex; flex-wrap: wrap; gap: 10px; align-items: end; } .acts form, td form { display: flex; gap: 8px; align-items: end; }
  .plain { background: transparent; color: var(--accent); border: 1px solid var(--line); }
  select { font: inherit; padding: 5px 8px; border: 1px solid var(--soft); border-radius: 3px; background: var(--sheet); color: inherit; }
  .failed { color: light-dark(#9b2435, #e98b98); font-weight: 600; } .passed { color: var(--accent); font-weight: 600; }
`;

/** What every page knows: who looks, and where the product is. */
export interface Shown {
  person: EnteredPerson | null;
  product: string | null;
  told: string;
}

function page({ person, product, told }: Shown, path: string, title: string, body: string): string {
  const way = `${product}/api/code-host?of=pipeline&to=${encodeURIComponent(path)}`;
  const enter = product ? `<a href="${text(way)}">Come in by the product</a>` : "";
  const who = person ? `<span>${text(person.name)}</span>` : enter;
  return pageOf({
    name: "Pipeline of the quay",
    says: "Stands in for a deployment pipeline. It runs on this machine alone.",
    ways: `<a href="/sent">What it told</a>${who}`,
    style: STYLE,
    ...{ title, body, told },
  });
}

const WORDS: Record<Run["status"], string> = {
  ...{ waiting: "waits", running: "runs", passed: "passed", failed: "failed" },
};

const runRow = (run: Run): string => {
  const what =
    run.kind === "deploy"
      ? `${run.back ? "roll back" : "deploy"} ${run.build} to ${run.environment}`
      : run.kind === "build"
        ? `build ${run.build}`
        : `check ${run.branch ?? ""}`;
  const at = run.endedAt ?? run.startedAt ?? run.askedAt;
  return `<tr><td>${when(at)}</td><td><a href="/runs/${run.id}">${text(what)}</a></td><td><code>${text(run.commit.slice(0, 10))}</code></td><td class="${run.status}">${WORDS[run.status]}</td><td>${text(run.by?.name ?? "")}</td></tr>`;
};

const runTable = (runs: readonly Run[]): string =>
  runs.length === 0
    ? `<p class="soft">Nothing was run yet.</p>`
    : `<table><tr><th>when</th><th>what</th><th>commit</th><th></th><th>asked by</th></tr>${runs.map(runRow).join("")}</table>`;

export function listPage(
  shown: Shown,
  {
    followed,
    standing,
    runs,
  }: { followed: readonly Followed[]; standing: readonly Standing[]; runs: readonly Run[] },
): string {
  const rows = followed.map(({ repository, environments }) => {
    const there = environments.map(({ name }) => {
      const at = standing.find((one) => one.repository === repository && one.environment === name);
      return `${text(name)} ${at ? `<code>${text(at.build)}</code>` : "–"}`;
    });
    return `<tr><td><a href="/${repository}"><b>${text(repository)}</b></a></td><td>${there.join(" · ")}</td></tr>`;
  });
  const add = shown.person
    ? `<section><h2>Follow another repository</h2><div class="acts"><form method="post" action="/follow"><label>Repository at the code host<input name="repository" required maxlength="61"></label><label>Environments, in their order<input name="environments" required maxlength="300" value="development, test, live"></label><button>Follow it</button></form></div></section>`
    : "";
  return page(
    shown,
    "/",
    "Repositories",
    `<h2>Repositories</h2><table>${rows.join("")}</table><section><h2>Latest runs</h2>${runTable(runs)}</section>${add}`,
  );
}

const act = (action: string, fields: Record<string, string>, words: string, plain = false) =>
  `<form method="post" action="${text(action)}">${Object.entries(fields)
    .map(([name, value]) => `<input type="hidden" name="${name}" value="${text(value)}">`)
    .join("")}<button${plain ? ` class="plain"` : ""}>${text(words)}</button></form>`;

export function repositoryPage(
  shown: Shown,
  {
    followed: { repository, environments, hostSecret },
    builds,
    standing,
    runs,
    targets,
    failing,
    address,
  }: {
    followed: Followed;
    /** The latest first. */
    builds: readonly Build[];
    standing: readonly Standing[];
    runs: readonly Run[];
    targets: readonly Target[];
    failing: readonly string[];
    address: string;
  },
): string {
  const path = `/${repository}`;
  const at = (name: string) => standing.find(({ environment }) => environment === name);
  const options = builds
    .slice(0, 30)
    .map(
      ({ name, at: made }) => `<option value="${text(name)}">${text(name)}, ${when(made)}</option>`,
    )
    .join("");
  const rows = environments.map(({ name, automatic }) => {
    const there = at(name);
    const before =
      there && builds.find((one) => one.at < (builds.find((b) => b.name === there.build)?.at ?? 0));
    const deploy =
      shown.person && builds.length > 0
        ? `<form method="post" action="${path}/deploy"><input type="hidden" name="environment" value="${text(name)}"><select name="build" aria-label="Build for ${text(name)}">${options}</select><button>Deploy</button></form>`
        : "";
    const back =
      shown.person && before
        ? act(
            `${path}/deploy`,
            { environment: name, build: before.name, back: "yes" },
            `Roll back to ${before.name}`,
            true,
          )
        : "";
    return `<tr><td><b>${text(name)}</b>${automatic ? ` <span class="soft">by itself</span>` : ""}</td><td>${there ? `<code>${text(there.build)}</code> since ${when(there.at)}` : "nothing yet"}</td><td>${deploy}</td><td>${back}</td></tr>`;
  });
  const whats = ["check", "build", ...environments.map(({ name }) => `deploy ${name}`)];
  const fail = shown.person
    ? `<section><h2>Make something fail</h2><p class="soft">The next time, once.</p><div class="acts">${whats
        .map((what) =>
          act(
            `${path}/fail`,
            { what },
            failing.includes(what) ? `${what}: will fail` : what,
            !failing.includes(what),
          ),
        )
        .join("")}</div></section>`
    : "";
  const tell = shown.person
    ? `<section><h2>Who is told</h2><table>${targets.map((one) => `<tr><td><code>${text(one.address)}</code></td></tr>`).join("")}</table><div class="acts"><form method="post" action="${path}/targets"><label>Address<input name="address" required maxlength="300"></label><label>Its secret<input name="secret" required maxlength="200"></label><button>Tell it too</button></form></div>
<p class="soft">The code host tells this pipeline at <code>${text(`${address}/events/${repository}`)}</code>, signed with <code>${text(hostSecret)}</code>. Requests are taken at <code>${text(`${address}/ask`)}</code>, signed with the secret of whoever is told.</p></section>`
    : "";
  return page(
    shown,
    path,
    repository,
    `<h2>${text(repository)}</h2><table><tr><th>environment</th><th>what is there</th><th></th><th></th></tr>${rows.join("")}</table>${fail}<section><h2>Runs</h2>${runTable(runs)}</section>${tell}`,
  );
}

export const runPage = (shown: Shown, run: Run, log: string): string =>
  page(
    shown,
    `/runs/${run.id}`,
    "Run",
    `<h2><a href="/${run.repository}">${text(run.repository)}</a></h2><table>${runRow(run)}</table><section><h2>What it said</h2><pre>${text(log || "Nothing.")}</pre></section>`,
  );

export function sentPage(shown: Shown, events: readonly SentEvent[]): string {
  const rows = events
    .toReversed()
    .map(({ id, repository, body, madeAt, tries, arrivedAt, said }) => {
      const type = (body as { type?: string }).type ?? "";
      const state =
        arrivedAt === null ? `waits, tried ${tries} times` : `arrived ${when(arrivedAt)}`;
      const again = shown.person ? act(`/sent/${id}`, {}, "Send it again", true) : "";
      return `<tr><td>${when(madeAt)}</td><td>${text(repository)}</td><td><code>${text(type)}</code></td><td>${text(state)}<br><span class="soft">${text(said)}</span></td><td>${again}</td></tr>`;
    });
  const table =
    rows.length === 0
      ? `<p class="soft">Nothing yet.</p>`
      : `<table><tr><th>when</th><th>of</th><th>what</th><th>whether it arrived</th><th></th></tr>${rows.join("")}</table>`;
  return page(shown, "/sent", "What it told", `<h2>What it told</h2>${table}`);
}

export const refusedPage = (shown: Shown, path: string, words: string): string =>
  page(
    shown,
    path,
    "Not done",
    `<h2>It was not done</h2><p>${text(words)}</p><p><a href="/">Back</a></p>`,
  );
