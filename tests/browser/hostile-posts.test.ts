import { Client } from "pg";
import { seededRandom } from "@/core/forecast/random";
import { givenApplication } from "./setup/application";

/*
 * A thousand posts to the public form as people with bad intentions or broken programs send them,
 * and an honest one in their midst. They come from many addresses, as the proxy in front of the
 * product names them, or from one.
 */

const app = givenApplication({ TRUST_PROXY: "1" });

const POSTS = 1_000;
const random = seededRandom(4);
const PNG = Buffer.concat([Buffer.from("89504e470d0a1a0a", "hex"), Buffer.alloc(200)]);
const HONEST = {
  title: "Honest: the lamp on the pier is out",
  happened: "Since Friday.",
  travelled: "yes",
  mail: "honest@post.saltmarsh.example",
};

async function query<T>(text: string): Promise<T[]> {
  const client = new Client({ connectionString: app.databaseUrl() });
  await client.connect();
  try {
    return (await client.query(text)).rows as T[];
  } finally {
    await client.end();
  }
}
const count = async (table: string) =>
  Number((await query<{ n: string }>(`select count(*) as n from ${table}`))[0].n);

/** An address of its own for each, so that only what is wrong with a post keeps it out. */
let last = 0;
const anybody = () => `203.0.${Math.floor(++last / 250) % 250}.${last % 250}`;

function send(
  body: BodyInit | null,
  {
    headers = {},
    path = "/api/public/reports/TIX/report",
    from = anybody(),
    method = "POST",
  }: { headers?: Record<string, string>; path?: string; from?: string; method?: string } = {},
) {
  return fetch(app.address() + path, {
    method,
    body,
    headers: { "x-forwarded-for": from, accept: "application/json", ...headers },
  });
}

function form(fields: Record<string, string | Blob | undefined>): FormData {
  const data = new FormData();
  for (const [name, value] of Object.entries({ ...HONEST, ...fields }))
    if (value !== undefined) data.append(name, value);
  return data;
}

const filled = (length: number) =>
  Array.from({ length }, () => String.fromCharCode(32 + random.index(90))).join("");
const file = (content: Uint8Array | string, name: string, type = "image/png") =>
  new File([content as BlobPart], name, { type });

/** Each way to be refused, and the answers that are right for it. */
const HOSTILE: [name: string, post: () => Promise<Response>, statuses: number[]][] = [
  ["no title", () => send(form({ title: undefined })), [422]],
  ["a title of blanks and controls", () => send(form({ title: " \u0000\u0007\t " })), [422]],
  ["a title of 20,000 characters", () => send(form({ title: filled(20_000) })), [422]],
  ["a text of 200,000 characters", () => send(form({ happened: filled(200_000) })), [422]],
  [
    "an address that is mark-up",
    () => send(form({ mail: "<img src=x onerror=alert(1)>@x" })),
    [422],
  ],
  [
    "a header in the address",
    () => send(form({ mail: "a@b.example\r\nBcc: all@saltmarsh.example" })),
    [422],
  ],
  [
    "two addresses",
    () => send(form({ mail: "a@post.saltmarsh.example,b@post.saltmarsh.example" })),
    [422],
  ],
  ["an answer that is not offered", () => send(form({ travelled: "' or 1=1 --" })), [422]],
  [
    "mark-up called a picture",
    () =>
      send(
        form({
          files: file("<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'/>", "a.png"),
        }),
      ),
    [422],
  ],
  [
    "HTML called text",
    () =>
      send(
        form({ files: file("  <!doctype html><script>alert(1)</script>", "a.txt", "text/plain") }),
      ),
    [422],
  ],
  [
    "a program",
    () =>
      send(
        form({
          files: file(Buffer.from("7f454c4602010100", "hex"), "../../etc/run", "application/pdf"),
        }),
      ),
    [422],
  ],
  [
    "a script",
    () => send(form({ files: file("#!/bin/sh\nrm -rf /", "a.txt", "text/plain") })),
    [422],
  ],
  [
    "an archive",
    () => send(form({ files: file(Buffer.from("504b030414000000", "hex"), "a.png") })),
    [422],
  ],
  [
    "six files",
    () => {
      const data = form({});
      for (let i = 0; i < 6; i++) data.append("files", file(PNG, `${i}.png`));
      return send(data);
    },
    [422],
  ],
  [
    "a form that breaks off",
    () =>
      send('--x\r\nContent-Disposition: form-data; name="title"\r\n\r\nhalf', {
        headers: { "content-type": "multipart/form-data; boundary=x" },
      }),
    [400],
  ],
  [
    "a boundary that is not there",
    () => send("nothing of the kind", { headers: { "content-type": "multipart/form-data" } }),
    [400],
  ],
  [
    "JSON",
    () => send(JSON.stringify(HONEST), { headers: { "content-type": "application/json" } }),
    [415],
  ],
  ["no body", () => send(null), [415]],
  ["another form", () => send(form({}), { path: "/api/public/reports/TIX/nope" }), [404]],
  ["a closed form", () => send(form({}), { path: "/api/public/reports/TIX/winter-survey" }), [422]],
  [
    "a project for members only",
    () => send(form({}), { path: "/api/public/reports/TIDE/report" }),
    [404],
  ],
  [
    "a path with quotes",
    () => send(form({}), { path: "/api/public/reports/TIX/%27%3B%20drop%20table%20report%3B--" }),
    [404],
  ],
  [
    "a path with a null",
    () => send(form({}), { path: "/api/public/reports/TI%00X/report" }),
    [404, 422],
  ],
  [
    "a known problem that is none",
    () => send(form({ joins: "00000000-0000-4000-8000-000000000000" })),
    [422],
  ],
  ["a known problem of quotes", () => send(form({ joins: "1' or '1'='1" })), [422]],
  [
    "another method",
    () =>
      send(JSON.stringify({}), { method: "PUT", headers: { "content-type": "application/json" } }),
    [405],
  ],
];

/** Large ones take their time, so there are fewer of them. */
const LARGE: typeof HOSTILE = [
  [
    "a file of 6 MB",
    () =>
      send(form({ files: file(Buffer.concat([PNG, Buffer.alloc(6 * 1024 * 1024)]), "large.png") })),
    [422],
  ],
  [
    "27 MB of anything",
    () =>
      send(Buffer.alloc(27 * 1024 * 1024, 65), {
        headers: { "content-type": "multipart/form-data; boundary=x" },
      }),
    [413],
  ],
  [
    "five thousand parts",
    () => {
      const data = form({});
      for (let i = 0; i < 5_000; i++) data.append(`x${i}`, "y");
      return send(data);
    },
    [413],
  ],
];
const EVERY = 25;

test(`of ${POSTS} hostile posts none leaves a row, none brings the product down, and the honest one between them gets through`, async () => {
  // What the worker does about the demo's own questions meanwhile is left out.
  const tables = [
    "report",
    "report_file",
    "mail_out where subject like 'Received%'",
    "report_message where kind <> 'reminder'",
    "item",
  ];
  const before = await Promise.all(tables.map(count));
  const wrong: string[] = [];
  let honest: Promise<Response> | null = null;
  for (let sent = 0; sent < POSTS; sent += 8) {
    const batch = Array.from({ length: 8 }, (_, i) =>
      (sent + i) % EVERY === 0
        ? LARGE[((sent + i) / EVERY) % LARGE.length]
        : HOSTILE[(sent + i) % HOSTILE.length],
    );
    if (sent >= POSTS / 2) honest ??= send(form({}));
    // The limit for a whole form is tried apart, below; here it must not hide what else is wrong.
    if (sent % 160 === 0) await query("delete from rate_count");
    const answers = await Promise.all(
      batch.map(([, post]) => post().catch((error: Error) => error)),
    );
    answers.forEach((answer, i) => {
      const [name, , statuses] = batch[i];
      // A connection may be cut while too much is still being sent.
      if (answer instanceof Error ? !statuses.includes(413) : !statuses.includes(answer.status))
        wrong.push(`${name}: ${answer instanceof Error ? answer.message : answer.status}`);
    });
  }
  expect([...new Set(wrong)]).toEqual([]);
  const answer = await honest!;
  expect(answer.status).toBe(201);
  const { reference } = (await answer.json()) as { reference: string };
  expect(
    await query(
      `select reference, title, mail, status, way from report where mail = '${HONEST.mail}'`,
    ),
  ).toEqual([
    { reference, title: HONEST.title, mail: HONEST.mail, status: "unjudged", way: "form" },
  ]);
  // One report and its receipt, nothing else.
  expect(await Promise.all(tables.map(count))).toEqual(
    before.map((n, i) => n + (tables[i] === "report" || tables[i].startsWith("mail_out") ? 1 : 0)),
  );
});

const MINUTE = 60_000;
const minuteOf = (at: number) => Math.floor(at / MINUTE);

test("a flood from one address is stopped at its twelfth, a flood from everywhere at the form's own limit; afterwards an honest one gets through", async () => {
  await query("delete from rate_count");
  const began = Date.now();
  // Of the 240 that a form takes a minute all but five have come, in this minute and in the next.
  await query(
    `insert into rate_count (key, window_start, count)
     select 'form TIX report', to_timestamp((${minuteOf(began)} + n) * 60), 235 from generate_series(0, 9) n`,
  );
  const before = await count("report");
  const all = await Promise.all(
    Array.from({ length: 60 }, (_, i) => send(form({ title: `Everywhere ${i}` }))),
  );
  const minutes = minuteOf(Date.now()) - minuteOf(began) + 1;
  await query("delete from rate_count");
  const again = Date.now();
  const one = await Promise.all(
    Array.from({ length: 60 }, (_, i) =>
      send(form({ title: `Flood ${i}` }), { from: "198.51.100.7" }),
    ),
  );
  const minutesOfOne = minuteOf(Date.now()) - minuteOf(again) + 1;
  const taken = (answers: Response[]) => answers.filter((a) => a.status === 201).length;
  for (const a of [...one, ...all]) expect([201, 429]).toContain(a.status);
  // Where a minute ends in between, a second portion is let in.
  expect(taken(all)).toBeGreaterThanOrEqual(5);
  expect(taken(all)).toBeLessThanOrEqual(5 * minutes);
  expect(taken(one)).toBeGreaterThanOrEqual(12);
  expect(taken(one)).toBeLessThanOrEqual(12 * minutesOfOne);
  expect(await count("report")).toBe(before + taken(one) + taken(all));
  await query("delete from rate_count");
  expect((await send(form({ title: "Afterwards" }))).status).toBe(201);
});

test("markup in what is taken stands on no page as markup; a file from outside is never run", async () => {
  await query("delete from rate_count");
  const data = form({
    title: "</title><script>alert(1)</script>",
    happened: "<iframe src=javascript:alert(1)>",
  });
  data.append("files", file("name,hours\nx,<script>alert(1)</script>", "list.html", "text/html"));
  const { token } = (await (await send(data)).json()) as { token: string };
  const page = await (await fetch(`${app.address()}/r/${token}`)).text();
  expect(page).not.toContain("<script>alert(1)");
  expect(page).not.toContain("<iframe src=javascript");
  const id = /files\/([0-9a-f-]{36})/.exec(page)![1];
  const answer = await fetch(`${app.address()}/api/public/pages/${token}/files/${id}`);
  expect(answer.headers.get("content-type")).toBe("application/octet-stream");
  expect(answer.headers.get("content-disposition")).toMatch(/^attachment/);
  expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  expect(answer.headers.get("content-security-policy")).toMatch(/sandbox|default-src 'none'/);
});

test("five files of five megabytes go with one report, a sixth or a larger one does not", async () => {
  await query("delete from rate_count");
  const large = (bytes: number) =>
    new File([Buffer.concat([PNG, Buffer.alloc(bytes - PNG.length)])], "pier.png", {
      type: "image/png",
    });
  const FIVE_MB = 5 * 1024 * 1024;
  const status = async (files: File[]) => {
    const data = form({});
    for (const each of files) data.append("files", each);
    return (await send(data)).status;
  };
  expect(await status(Array.from({ length: 5 }, () => large(FIVE_MB)))).toBe(201);
  expect(await status(Array.from({ length: 6 }, () => large(1_000)))).toBe(422);
  expect(await status([large(FIVE_MB + 1)])).toBe(422);
});

test("without JavaScript the form posts and leads to the private page; what is wrong is said at its field", async () => {
  const headers = { accept: "text/html,application/xhtml+xml" };
  const good = await fetch(`${app.address()}/api/public/reports/TIX/report`, {
    method: "POST",
    body: form({}),
    headers,
    redirect: "manual",
  });
  expect(good.status).toBe(303);
  expect(good.headers.get("location")).toMatch(/^\/r\/[\w-]{32}$/);
  const bad = await fetch(`${app.address()}/api/public/reports/TIX/report`, {
    method: "POST",
    body: form({ title: "" }),
    headers,
    redirect: "manual",
  });
  expect(bad.status).toBe(303);
  const back = bad.headers.get("location")!;
  expect(back).toMatch(/^\/report\/TIX\/report\?attempt=[\w-]{32}$/);
  const page = await (await fetch(app.address() + back)).text();
  expect(page).toContain("Say in a few words what it is about.");
  // Kept only for the form that it was sent by, and only by what opens it.
  const guessed = back.replace(/attempt=.*/, `attempt=${"A".repeat(32)}`);
  expect(await (await fetch(app.address() + guessed)).text()).not.toContain(
    "Say in a few words what it is about.",
  );
});
