import { randomUUID } from "node:crypto";
import { Client } from "pg";
import { givenApplication, startApplication } from "./setup/application";
import { cookiesOf } from "./setup/session";

const app = givenApplication();

let noor: string;
let arthur: string;
beforeAll(async () => {
  noor = (await cookiesOf(app.address(), "Noor Bakri")).join("; ");
  arthur = (await cookiesOf(app.address(), "Arthur Quill")).join("; ");
});

const ask = (
  path: string,
  cookie: string | null,
  init: RequestInit & { headers?: Record<string, string> } = {},
) =>
  fetch(app.address() + path, {
    ...init,
    redirect: "manual",
    headers: { ...(cookie ? { cookie } : {}), ...init.headers },
  });
const post = (
  path: string,
  cookie: string | null,
  body: unknown,
  headers: Record<string, string> = {},
) =>
  ask(path, cookie, {
    method: "POST",
    headers: { "Content-Type": "application/json", ...headers },
    body: typeof body === "string" ? body : JSON.stringify(body),
  });

/** RFC 9457: a JSON object of media type application/problem+json with title, status and detail. */
async function expectProblem(
  answer: Response,
  status: number,
): Promise<{ title: string; detail: string; errors?: { field: string }[] }> {
  expect(answer.status).toBe(status);
  expect(answer.headers.get("content-type")).toBe("application/problem+json");
  const body = (await answer.json()) as { title: string; detail: string; status: number };
  expect(body).toMatchObject({ status, title: expect.any(String), detail: expect.any(String) });
  expect(JSON.stringify(body)).not.toMatch(/at .*\.[jt]s:|select |insert |postgres/i);
  return body;
}

const ROUTES: [method: string, path: string][] = [
  ["GET", "/api/projects/TIX/board"],
  ["GET", "/api/projects/TIX/summary"],
  ["GET", "/api/projects/TIX/flow"],
  ["GET", "/api/projects/TIX/intake"],
  ["GET", "/api/projects/TIX/workflow"],
  ["GET", "/api/projects/TIX/stream"],
  ["GET", "/api/items/TIX-1"],
  ["GET", "/api/find?q=ticket"],
  ["GET", "/api/find/items?q=ticket"],
  ["POST", "/api/items"],
  ["POST", "/api/items/commands"],
  ["POST", "/api/projects/TIX/items"],
  ["POST", "/api/projects/TIX/limits"],
  ["POST", "/api/projects/TIX/limits/people"],
  ["POST", "/api/projects"],
  ["GET", "/api/projects/TIX/members"],
  ["POST", "/api/projects/TIX/members"],
  ["POST", "/api/projects/TIX/workflow/draft"],
  ["DELETE", "/api/projects/TIX/workflow/draft"],
  ["POST", "/api/projects/TIX/workflow/publish"],
  ["GET", "/api/projects/TIX/workflow/versions"],
  ["GET", "/api/projects/TIX/workflow/replay"],
  ["GET", `/api/reports/${randomUUID()}`],
  ["GET", `/api/reports/${randomUUID()}/files/${randomUUID()}`],
  ["POST", `/api/reports/${randomUUID()}/presence`],
  ["POST", `/api/reports/${randomUUID()}/tries`],
  ["POST", `/api/reports/${randomUUID()}/apart`],
  ["POST", "/api/projects/TIX/forms"],
  ["POST", "/api/projects/TIX/mailbox"],
  ["POST", `/api/items/known/${randomUUID()}`],
  ["POST", `/api/reports/${randomUUID()}/verdicts`],
  ["DELETE", `/api/reports/${randomUUID()}/verdicts`],
];

test.each(ROUTES)("%s %s answers nobody who is not signed in", async (method, path) => {
  await expectProblem(
    await ask(path, null, {
      method,
      ...(method === "GET" ? {} : { headers: { "Content-Type": "application/json" }, body: "{}" }),
    }),
    401,
  );
});

test.each([
  "board",
  "summary",
  "flow",
  "intake",
  "workflow",
  "stream",
  "members",
  "workflow/versions?workflow=tide-main&version=1",
  "workflow/replay?workflow=tide-main&days=30",
])("the hidden project's %s is not there for a stranger, by route or by page", async (what) => {
  await expectProblem(await ask(`/api/projects/TIDE/${what}`, arthur), 404);
  const page =
    {
      board: "flow",
      flow: "learn",
      intake: "intake",
      workflow: "design",
      summary: "plan",
      stream: "flow",
    }[what] ?? "design";
  expect((await ask(`/p/TIDE/${page}`, arthur)).status).toBe(404);
});

test("an observer's stream carries no news of intake, a member's does", async () => {
  const hear = async (cookie: string) => {
    const stop = new AbortController();
    const answer = await ask("/api/projects/TIX/stream?after=0", cookie, { signal: stop.signal });
    const reader = answer.body!.getReader();
    let text = "";
    const done = (async () => {
      try {
        for (;;) {
          const { value, done } = await reader.read();
          if (done) return;
          text += Buffer.from(value).toString();
        }
      } catch {
        // Stopped below.
      }
    })();
    return {
      text: () => text,
      stop: async () => {
        stop.abort();
        await done;
      },
    };
  };
  const [member, observer] = [await hear(noor), await hear(arthur)];
  const form = new FormData();
  for (const [k, v] of Object.entries({
    title: "Heard",
    happened: "x",
    travelled: "yes",
    mail: "a@post.saltmarsh.example",
  }))
    form.set(k, v);
  expect(
    (await ask("/api/public/reports/TIX/report", null, { method: "POST", body: form })).status,
  ).toBe(201);
  await post("/api/items", noor, {
    commandId: randomUUID(),
    projectKey: "TIX",
    fields: { title: "Heard by both", typeId: "bug" },
  });
  const until = Date.now() + 60_000;
  while (
    !(member.text().includes("Heard by both") && observer.text().includes("Heard by both")) &&
    Date.now() < until
  )
    await new Promise((r) => setTimeout(r, 50));
  expect(member.text()).toContain('"kind":"intake"');
  expect(observer.text()).toContain("Heard by both");
  expect(observer.text()).not.toContain('"kind":"intake"');
  await Promise.all([member.stop(), observer.stop()]);
});

describe("bad input at the door", () => {
  const command = (c: unknown) => ({ commandId: randomUUID(), itemId: randomUUID(), command: c });
  test.each<[string, () => Promise<Response>, number]>([
    ["no JSON", () => post("/api/items/commands", noor, "{"), 400],
    [
      "another media type",
      () =>
        ask("/api/items/commands", noor, {
          method: "POST",
          body: "x=1",
          headers: { "Content-Type": "text/plain" },
        }),
      415,
    ],
    ["300 kB of JSON", () => post("/api/items", noor, { title: "x".repeat(300_000) }), 413],
    ["an empty object", () => post("/api/items/commands", noor, {}), 422],
    ["an array", () => post("/api/items/commands", noor, []), 422],
    [
      "an unknown command",
      () => post("/api/items/commands", noor, command({ kind: "erase" })),
      422,
    ],
    [
      "an item of nobody",
      () => post("/api/items/commands", noor, command({ kind: "comment", body: "x" })),
      404,
    ],
    ["an id that is no uuid", () => ask("/api/reports/1%27%3B--", noor), 422],
    ["a key that is none", () => ask("/api/items/%00", noor), 404],
    [
      "a request from another site",
      () => post("/api/items", noor, {}, { origin: "https://elsewhere.example" }),
      403,
    ],
    ["a token that is none", () => ask("/api/public/pages/short", null), 404],
    ["a project that is none", () => ask("/api/projects/NOPE/board", noor), 404],
    ["a report form that is no form", () => post("/api/public/reports/TIX/report", null, {}), 415],
  ])("%s", async (_name, send, status) => {
    await expectProblem(await send(), status);
  });

  test("a null character is taken out, everything else stays as it was written", async () => {
    const answer = await post("/api/items", noor, {
      commandId: randomUUID(),
      projectKey: "TIX",
      fields: { title: "a\u0000b </script><script>alert(1)</script>", typeId: "bug" },
    });
    expect(answer.status).toBe(201);
    const { card } = (await answer.json()) as { card: { key: string; title: string } };
    expect(card.title).toBe("ab </script><script>alert(1)</script>");
    const page = await (await ask(`/p/TIX/items/${card.key}`, noor)).text();
    expect(page).not.toContain("<script>alert(1)");
  });
});

describe("the public form", () => {
  const form = (change: Record<string, string | Blob> = {}) => {
    const data = new FormData();
    for (const [k, v] of Object.entries({
      title: "Bell",
      happened: "It rang.",
      travelled: "yes",
      mail: "a@post.saltmarsh.example",
      ...change,
    }))
      data.set(k, v);
    return data;
  };
  // Each test comes from an address of its own only in the database: the windows are emptied in
  // between.
  beforeEach(async () => {
    const client = new Client({ connectionString: app.databaseUrl() });
    await client.connect();
    await client.query("delete from rate_count");
    await client.end();
  });
  const reports = async () => {
    const client = new Client({ connectionString: app.databaseUrl() });
    await client.connect();
    const { rows } = await client.query("select count(*)::int as n from report");
    await client.end();
    return rows[0].n as number;
  };

  test("27 MB of picture, markup as a picture, missing fields: clear answers and no row", async () => {
    const before = await reports();
    const png = Buffer.concat([
      Buffer.from("89504e470d0a1a0a", "hex"),
      Buffer.alloc(27 * 1024 * 1024),
    ]);
    await expectProblem(
      await ask("/api/public/reports/TIX/report", null, {
        method: "POST",
        body: form({ files: new Blob([png]) }),
      }),
      413,
    );
    await expectProblem(
      await ask("/api/public/reports/TIX/report", null, {
        method: "POST",
        body: form({ files: new Blob([png.subarray(0, 5.1 * 1024 * 1024)]) }),
      }),
      422,
    );
    await expectProblem(
      await ask("/api/public/reports/TIX/report", null, {
        method: "POST",
        body: form({ files: new Blob(["<svg onload=alert(1)>"], { type: "image/png" }) }),
      }),
      422,
    );
    const { errors } = await expectProblem(
      await ask("/api/public/reports/TIX/report", null, {
        method: "POST",
        body: form({ title: "", mail: "x" }),
      }),
      422,
    );
    expect(errors!.map((e) => e.field)).toEqual(["title", "mail"]);
    expect(await reports()).toBe(before);
  });

  test("sent 50 times in a minute: the first dozen get through, the others are told when to come back", async () => {
    const before = await reports();
    const answers = await Promise.all(
      Array.from({ length: 50 }, () =>
        ask("/api/public/reports/TIX/report", null, { method: "POST", body: form() }),
      ),
    );
    const refused = answers.filter((a) => a.status === 429);
    // A minute may end in between; then a second dozen is let in.
    expect(answers.length - refused.length).toBeGreaterThanOrEqual(12);
    expect(answers.length - refused.length).toBeLessThanOrEqual(24);
    expect(refused.every((a) => Number(a.headers.get("retry-after")) > 0)).toBe(true);
    expect(await reports()).toBe(before + answers.length - refused.length);
  });
});

test("health tells of database and worker; headers keep the pages to themselves", async () => {
  const answer = await ask("/api/health", null);
  expect(answer.headers.get("content-security-policy")).toContain("frame-ancestors 'none'");
  expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  const until = Date.now() + 60_000;
  let state: unknown;
  do state = await (await ask("/api/health", null)).json();
  while ((state as { worker: string }).worker !== "up" && Date.now() < until);
  expect(state).toEqual({ ok: true, database: "up", worker: "up", instance: null });
});

test("two application processes on one database: what one stores, the other's streams tell", async () => {
  const second = await startApplication(app.databaseUrl());
  const stop = new AbortController();
  const stream = await fetch(`${second.address}/api/projects/TIX/stream`, {
    headers: { cookie: noor },
    signal: stop.signal,
  });
  const reader = stream.body!.getReader();
  await reader.read();
  const title = `From the first process ${randomUUID()}`;
  expect(
    (
      await post("/api/items", noor, {
        commandId: randomUUID(),
        projectKey: "TIX",
        fields: { title, typeId: "bug" },
      })
    ).status,
  ).toBe(201);
  let heard = "";
  while (!heard.includes(title)) {
    const { value, done } = await reader.read();
    if (done) break;
    heard += Buffer.from(value).toString();
  }
  expect(heard).toContain(title);
  stop.abort();
  await second.stop();
});

test("asked to stop, the application finishes what is in hand and ends", async () => {
  const second = await startApplication(app.databaseUrl());
  const cookie = (await cookiesOf(second.address, "Noor Bakri")).join("; ");
  const stream = await fetch(`${second.address}/api/projects/TIX/stream`, { headers: { cookie } });
  const inHand = Array.from({ length: 12 }, () =>
    fetch(`${second.address}/api/items`, {
      method: "POST",
      headers: { cookie, "Content-Type": "application/json" },
      body: JSON.stringify({
        commandId: randomUUID(),
        projectKey: "TIX",
        fields: { title: "In hand", typeId: "bug" },
      }),
    }).then(
      (r) => r.status,
      () => "not taken",
    ),
  );
  await new Promise((resolve) => setImmediate(resolve));
  const [statuses] = await Promise.all([Promise.all(inHand), second.stop()]);
  expect(second.process.exitCode).toBe(0);
  expect(statuses.every((s) => s === 201 || s === "not taken")).toBe(true);
  await stream.body?.cancel().catch(() => {});
});
