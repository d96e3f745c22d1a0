import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

/*
 * Two teams plan a sprint each, one waits for the other; one of the sprints runs, changes and ends.
 * What its report has to say is reckoned by hand, beside each step.
 */

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
});

const NAME = "Sprint 24";
const column = (name: string) => `section[aria-label="${name}"]`;

/** Makes the next sprint of a project and gives it a goal. */
async function makeSprint(project: string, goal: string): Promise<void> {
  await ines.open(`/p/${project}/plan/planning`);
  await ines.press("New sprints");
  await ines.press("Make 1 sprint");
  await ines.reads("1 sprint made.");
  await ines.open(`/p/${project}/plan`);
  await ines.click(`[data-sprint="${NAME}"] [aria-label="Change ${NAME}"]`);
  await ines.fill("Goal", goal);
  await ines.press("Store it", "//form");
  await ines.reads(goal, `[data-sprint="${NAME}"]`);
}

/** The keys of the first rows of a backlog, each with a size that is typed where it stands. */
async function sized(project: string, sizes: readonly number[]): Promise<string[]> {
  await ines.open(`/p/${project}/plan`);
  const keys = await ines.page.$$eval(
    "ol[aria-label='Backlog in order'] > li[data-key]",
    (rows, n) => rows.slice(0, n).map((row) => row.getAttribute("data-key")!),
    sizes.length,
  );
  for (const [i, key] of keys.entries()) await size(key, sizes[i]);
  return keys;
}

async function size(key: string, points: number): Promise<void> {
  await ines.click(`[aria-label^="Size of ${key}: "]`);
  await ines.page.waitForSelector(`[data-key="${key}"] input[aria-label="New value"]`);
  await ines.page.keyboard.type(String(points));
  await ines.keys("Enter");
  await ines.page.waitForSelector(`[aria-label="Size of ${key}: ${points}"]`);
}

async function planInto(project: string, key: string): Promise<void> {
  await ines.open(`/p/${project}/plan/planning`);
  await ines.choose(`More for ${key}`, `Into ${NAME}`);
  await ines.page.waitForSelector(`${column(NAME)} [data-key="${key}"]`);
}

/** Each figure of the report, with what stands beside it. */
const figures = () =>
  ines.page.$$eval("[data-figure]", (all) =>
    Object.fromEntries(
      all.map((e) => [
        e.getAttribute("data-figure")!,
        (e as HTMLElement).innerText.replace(e.getAttribute("data-figure")!, "").trim(),
      ]),
    ),
  );

/** The last day of the report: what came and went on it, and what is left at its end. */
const lastDay = () =>
  ines.page.$$eval(".plan-ledger tbody tr", (rows) =>
    [...rows.at(-1)!.querySelectorAll("td")].map((cell) => (cell as HTMLElement).innerText.trim()),
  );

/** An item that waits to be deployed, as a table brings it in. */
async function readyToDeploy(title: string, points: number): Promise<string> {
  await ines.open("/p/TIX/plan/import");
  const file = path.join(mkdtempSync(path.join(tmpdir(), "by-hand-")), "items.csv");
  writeFileSync(file, `Title,Points,State\n${title},${points},Ready to deploy\n`);
  const field = (await ines.page.waitForSelector(
    "input[type=file]",
  )) as ElementHandle<HTMLInputElement>;
  await field.uploadFile(file);
  await ines.press("Make 1 item");
  await ines.reads("1 item made");
  await ines.page.waitForFunction(
    () => !document.querySelector("ul[aria-label='What did not go']"),
  );
  await ines.open("/p/TIX/flow");
  await ines.page.waitForFunction(
    (words: string) =>
      [...document.querySelectorAll("[data-card]")].some((card) =>
        card.textContent.includes(words),
      ),
    {},
    title,
  );
  return ines.page.$$eval(
    "[data-card]",
    (cards, words) =>
      cards.find((card) => card.textContent.includes(words))!.getAttribute("data-key")!,
    title,
  );
}

test("two teams plan a sprint each; one runs, changes and ends, and its report is as reckoned by hand", async () => {
  // What ran before it ends; what is open in it goes back to the backlog.
  await ines.open("/p/TIX/plan/sprints");
  await ines.press("End Sprint 21");
  await ines.choose("What is open", "back to the backlog", "form");
  await ines.press("End Sprint 21", "//form");
  await ines.reads("ended", "h1 + p");

  // Three of the ticket app, of 3, 5 and 8 points; one of the quay gates, of 2.
  await makeSprint("TIX", "Tickets without a queue");
  await makeSprint("GATE", "Gates that open at once");
  const [first, second, third] = await sized("TIX", [3, 5, 8]);
  const [gate] = await sized("GATE", [2]);
  await planInto("GATE", gate);
  for (const key of [first, second]) await planInto("TIX", key);

  // 3 + 5 = 8 points are planned into it, against its room.
  expect(
    await ines.page.$eval(`${column(NAME)} [data-load]`, (e) =>
      Number(e.getAttribute("data-load")),
    ),
  ).toBe(8);
  expect(
    await ines.page.$eval(`${column(NAME)} [data-load]`, (e) =>
      Number(e.getAttribute("data-room")),
    ),
  ).toBeGreaterThan(0);
  await ines.reads("Tickets without a queue", column(NAME));

  // The first waits for the gates, of another team, in a sprint that ends on the same day.
  await ines.open(`/p/TIX/items/${first}`);
  await ines.link("waits for", gate);
  await ines.reads(gate, 'section[aria-label="Links"]');
  await ines.open("/p/TIX/plan/waiting");
  await ines.page.waitForSelector(`.wait-item[data-key="${gate}"]`);

  // It is started with both: committed are 2 items, 8 points.
  await ines.open("/p/TIX/plan/planning");
  await ines.open("/p/TIX/plan/sprints");
  await ines.choose("Another sprint", NAME);
  await ines.press(`Start ${NAME}`);
  await ines.reads("runs", "h1 + p");
  await ines.page.waitForSelector('[data-figure="Committed"]');
  expect(await figures()).toMatchObject({ Committed: "2 8 points", Added: "0", Open: "2" });

  // + 8: one that waits to be deployed comes in. - 5: the second goes out. + 2: the first is 5, not 3.
  const extra = await readyToDeploy("Lamps over the counter", 8);
  await ines.open(`/p/TIX/items/${extra}`);
  await ines.choose("Sprint", NAME);
  await ines.reads(/put it into Sprint 24|set the sprint to Sprint 24|Sprint 24/);
  await ines.open("/p/TIX/plan/planning");
  await ines.choose(`More for ${second}`, "Back to the backlog");
  await ines.page.waitForFunction(
    (selector: string) => !document.querySelector(selector),
    {},
    `${column(NAME)} [data-key="${second}"]`,
  );
  // Why is asked at once; the other change is left to the report.
  const why = 'form[aria-label="Why the scope changes"]';
  await ines.reads(`${NAME} runs. Why does ${second} go out of it?`, why);
  await ines.page.type(`${why} input`, "No rope for it.");
  await ines.keys("Enter");
  await ines.reads("The reason is kept with the sprint.");
  await ines.open("/p/TIX/plan");
  await size(first, 5);

  // - 8: what waits to be deployed is live.
  await ines.open(`/p/TIX/items/${extra}`);
  await ines.press("Deploy");
  await ines.choose("Outcome", "delivered", "form");
  await ines.press("Deploy", "//form");
  await ines.reads("Live");

  // 8 + 8 - 5 + 2 - 8 = 5 points are left, in 1 item.
  await ines.open("/p/TIX/plan/sprints");
  await ines.page.waitForSelector('[data-figure="Finished"]');
  expect(await figures()).toMatchObject({
    Committed: "2 8 points",
    Added: "1",
    "Taken out": "1",
    Finished: "1 8 points",
    Open: "1",
  });
  expect(await lastDay()).toEqual(["+8", "−5", "+2", "", "−8", "5", "13"]);
  await ines.reads("taken out", "section[aria-label='Changes of its scope']");
  await ines.reads("1 without a reason", "section[aria-label='Changes of its scope']");
  const said = await ines.page.$eval(
    `input[aria-label="Why ${second} came or went"]`,
    (field) => (field as HTMLInputElement).value,
  );
  expect(said).toBe("No rope for it.");

  // It ends: the goal was not reached, 1 is carried over, 8 points are its velocity.
  await ines.press(`End ${NAME}`);
  await ines.choose("Was the goal reached", "It was not reached", "form");
  await ines.choose("What is open", "back to the backlog", "form");
  await ines.press(`End ${NAME}`, "//form");
  await ines.reads("The goal was not reached.");
  expect(await figures()).toMatchObject({
    Committed: "2 8 points",
    Added: "1",
    "Taken out": "1",
    Finished: "1 8 points",
    "Carried over": "1",
  });
  expect((await lastDay()).slice(0, 6)).toEqual(["+8", "−5", "+2", "", "−8", "5"]);

  // Nothing open stays behind, and the third was never in it.
  await ines.open("/p/TIX/plan");
  await ines.page.waitForSelector(`li[data-key="${first}"]`);
  await ines.page.waitForSelector(`li[data-key="${third}"]`);
  expect(await ines.page.$(`[data-sprint="${NAME}"]`)).toBeNull();
});
