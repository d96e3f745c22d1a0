import { Client } from "pg";
import type { ReportStatus } from "@/core/intake/report";
import type { VerdictKind } from "@/core/intake/verdict";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

/**
 * What is done with each of the demo's reports, in the order of the queue; the words are typed
 * where some are needed.
 */
const VERDICTS: [kind: VerdictKind, words?: string][] = [
  ["merge"],
  ["merge"],
  ["accept"],
  ["ask", "Which phone is it, and how bright is its screen?"],
  ["merge"],
  ["decline", "The number of places is the harbour authority's to say."],
  ["park"],
  ["accept"],
  ["accept"],
  ["accept"],
  ["ask", "What did the ticket look like?"],
  ["accept"],
  ["park"],
  ["decline", "The receipt carries the name of whoever pays."],
  ["accept"],
  ["ask", "What did you see, and when?"],
  ["park"],
  ["accept"],
  ["accept"],
  ["decline", "The window is run by the town."],
];
const KEYS: Record<VerdictKind, string> = {
  accept: "a",
  merge: "m",
  ask: "q",
  park: "p",
  decline: "d",
};
const BECOMES: Record<VerdictKind, ReportStatus> = {
  accept: "accepted",
  merge: "merged",
  ask: "asked",
  park: "parked",
  decline: "declined",
};

let tomas: Person;
let ids: string[];
beforeAll(async () => {
  tomas = await browser.person(app.address(), "Tomas Kerr");
  const { rows } = await query(
    "select id from report where project_id = 'tix' and status = 'unjudged' order by received_at, id",
  );
  ids = rows.map((r) => r.id);
});

async function query(text: string, values: unknown[] = []) {
  const client = new Client({ connectionString: app.databaseUrl() });
  await client.connect();
  try {
    return await client.query(text, values);
  } finally {
    await client.end();
  }
}

const statuses = async () =>
  (await query("select id, status from report where id = any($1)", [ids])).rows as {
    id: string;
    status: ReportStatus;
  }[];
const statusOf = async () => new Map((await statuses()).map((r) => [r.id, r.status]));
const open = () => tomas.text("article h2");

async function confirm(): Promise<void> {
  await tomas.chord("Control", "Enter");
}

test("twenty reports are judged by keys alone; each ends where its verdict says, and its requester is told", async () => {
  expect(ids).toHaveLength(VERDICTS.length);
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const began = Date.now();
  for (const [kind, words] of VERDICTS) {
    const title = await open();
    await tomas.keys(KEYS[kind]);
    await tomas.page.waitForSelector(`form[aria-label]`);
    if (words) await tomas.page.keyboard.type(words);
    if (kind === "merge" && (await tomas.page.$("form [type=submit][disabled]"))) {
      // Nothing is much like it, so that the item has to be chosen.
      await tomas.keys("Enter");
      await tomas.page.waitForSelector("[cmdk-item]");
      await tomas.keys("Enter");
      await tomas.page.waitForSelector("form [type=submit]:not([disabled])");
    }
    await confirm();
    // The next one comes by itself; after the last one, what is put aside.
    await tomas.page.waitForFunction(
      (before: string) =>
        document.querySelector("form[aria-label]") === null &&
        document.querySelector("article h2")?.textContent !== before,
      {},
      title,
    );
  }
  await tomas.page.waitForFunction(() => !document.body.innerText.includes("storing"));
  console.info(`twenty verdicts by keyboard took ${((Date.now() - began) / 1000).toFixed(0)} s`);
  const after = await statusOf();
  expect(ids.map((id) => after.get(id))).toEqual(VERDICTS.map(([kind]) => BECOMES[kind]));
  const { rows: items } = await query(
    "select count(*)::int as n from report r join item i on i.id = r.item_id and i.withdrawn_at is null where r.id = any($1) and r.status = 'accepted'",
    [ids],
  );
  expect(items[0].n).toBe(VERDICTS.filter(([kind]) => kind === "accept").length);
  // Everybody but those whose report is parked has a letter that tells of the verdict; the
  // questions are in it word for word.
  const { rows: letters } = await query(
    "select report_id, body from mail_out where verdict_id is not null and report_id = any($1)",
    [ids],
  );
  VERDICTS.forEach(([kind, words], i) => {
    const body = letters.find((l) => l.report_id === ids[i])?.body as string | undefined;
    if (kind === "park") expect(body).toBeUndefined();
    else
      expect(body).toContain(
        words ?? (kind === "merge" ? "Others have told us about this too." : "Accepted"),
      );
  });
  await tomas.page.waitForFunction(() =>
    /The queue is empty|Put aside/.test(
      document.querySelector<HTMLElement>('nav[aria-label="Queue"]')!.innerText,
    ),
  );
});

test("all of it is undone by one key each: the queue is as it was, no item is left, no letter goes out", async () => {
  const waiting = () =>
    tomas.page.$$eval('nav[aria-label="Queue"] [data-reference]', (rows) => rows.length);
  await tomas.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  for (let left = VERDICTS.length; left > 0; left--) {
    await tomas.keys("u");
    // The next key counts once the page knows that the last one is done.
    await tomas.page.waitForFunction(
      (n: number) => document.querySelector("h1 + p b")?.textContent === String(n),
      {},
      VERDICTS.length - left + 1,
    );
  }
  expect([...(await statusOf()).values()].every((s) => s === "unjudged")).toBe(true);
  expect(await waiting()).toBeGreaterThanOrEqual(VERDICTS.length);
  const { rows: left } = await query(
    "select count(*)::int as n from mail_out where verdict_id is not null and failed is null and report_id = any($1)",
    [ids],
  );
  expect(left[0].n).toBe(0);
  const { rows: items } = await query(
    "select count(*)::int as n from report_verdict v join item i on i.id::text = v.after->>'itemId' where v.report_id = any($1) and v.verdict->>'kind' = 'accept' and i.withdrawn_at is null",
    [ids],
  );
  expect(items[0].n).toBe(0);
});

test("opening the desk after much has happened takes few requests, and then it rests; a flood of news is read together", async () => {
  const happen = (times: number) =>
    query(
      `insert into domain_event (project_id, at, kind, version, data, report_id)
        select project_id, now(), kind, version, data, report_id
        from (select * from domain_event where project_id = 'tix' and kind = 'report changed' order by id desc limit 1) one
        cross join generate_series(1, ${times})`,
    );
  let asked: string[] = [];
  tomas.page.on("request", (request) => {
    if (/\/api\/|\/p\//.test(request.url())) asked.push(new URL(request.url()).pathname);
  });
  const within = async (ms: number) => {
    asked = [];
    await new Promise((resolve) => setTimeout(resolve, ms));
    return asked;
  };
  await happen(200);
  await tomas.open("/p/TIX/plan");
  await within(2_000);
  asked = [];
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const opening = [...asked, ...(await within(2_000))];
  expect(opening.length).toBeGreaterThan(0);
  expect(opening.length).toBeLessThanOrEqual(12);
  expect(await within(3_000)).toEqual([]);
  await happen(50);
  const flood = await within(3_000);
  expect(flood.length).toBeGreaterThan(0);
  expect(flood.length).toBeLessThanOrEqual(12);
});
