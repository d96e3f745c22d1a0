import { readFileSync, readdirSync, mkdtempSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { parse } from "csv-parse/sync";
import { Client } from "pg";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let noor: Person;
beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  noor = await browser.person(app.address(), "Noor Bakri");
});

/** Keeps an item, by its place in the order of all, from being changed. @returns what lets it go */
async function holdItemAt(place: number): Promise<() => Promise<void>> {
  const client = new Client({ connectionString: app.databaseUrl() });
  await client.connect();
  await client.query("begin");
  await client.query(
    "select id from item where project_id = 'tix' and withdrawn_at is null order by rank offset $1 limit 1 for no key update",
    [place],
  );
  return () => client.end();
}

/** Until whoever stops a job waits for the part of it that is begun. */
async function stopWaits(): Promise<void> {
  const client = new Client({ connectionString: app.databaseUrl() });
  await client.connect();
  const waiting = "select 1 from pg_locks where locktype = 'advisory' and not granted";
  while ((await client.query(waiting)).rowCount === 0)
    await new Promise((passed) => setTimeout(passed, 50));
  await client.end();
}

const WHAT = '[role=group][aria-label="What is shown"]';
/** How many items are said to be shown, once that is what is asked for. */
async function shown(of: Person): Promise<number> {
  await of.page.waitForSelector(`${WHAT}[aria-busy=false]`);
  return of.page.$eval(WHAT, (e) => {
    const [figure] = /^[\d,]+/.exec((e as HTMLElement).innerText)!;
    return Number(figure.replace(",", ""));
  });
}
const rowsOf = (of: Person) =>
  of.page.$$eval("[data-row]", (all) => all.map((e) => e.getAttribute("data-row")!));
const focused = (of: Person) =>
  of.page.evaluate(() => document.activeElement?.getAttribute("data-cell") ?? null);
const cell = (of: Person, place: string) =>
  of.page.$eval(`[data-cell="${place}"]`, (e) => (e as HTMLElement).innerText);
async function go(of: Person, line: number, column: number): Promise<void> {
  await of.page.focus(`[data-cell="${line}:${column}"]`);
  await of.page.click(`[data-cell="${line}:${column}"]`, { offset: { x: 2, y: 2 } });
  await of.page.waitForFunction(
    (p: string) => document.activeElement?.getAttribute("data-cell") === p,
    {},
    `${line}:${column}`,
  );
}
const pathOf = (of: Person) => of.page.evaluate(() => location.pathname + location.search);

test("a filter is written, means any of the values of a field, is always said, and one key clears it", async () => {
  await noor.open("/p/TIX/flow");
  const all = await shown(noor);
  await noor.narrow("ruth");
  await noor.reads(/only\s+assignee Ruth Abara/, WHAT);
  const ruths = await shown(noor);
  expect(ruths).toBeLessThan(all);
  await noor.narrow("noor");
  await noor.reads(/assignee Ruth Abara or Noor Bakri/, WHAT);
  const both = await shown(noor);
  expect(both).toBeGreaterThan(ruths);
  // What it is stays in the address, and when the same is looked at as a table.
  await noor.page.reload();
  await noor.page.waitForSelector("html[data-ready]");
  await noor.reads(/assignee Ruth Abara or Noor Bakri/, WHAT);
  expect(await shown(noor)).toBe(both);
  await noor.choose("Arranged as", "table");
  await noor.page.waitForSelector("[data-row]");
  await noor.reads(/assignee Ruth Abara or Noor Bakri/, WHAT);
  await noor.page.$eval("h1 button", (e) => (e as HTMLElement).focus());
  await noor.keys("c");
  await noor.page.waitForFunction(
    (w: string) => !document.querySelector<HTMLElement>(w)!.innerText.includes("only"),
    {},
    WHAT,
  );
  expect(await pathOf(noor)).toBe("/p/TIX/flow?as=table");
});

test("values are chosen with their counts; the number follows, and the last one taken out takes the part", async () => {
  await noor.open("/p/TIX/flow?as=table");
  await noor.narrow("priority high");
  await noor.reads(/priority high/, WHAT);
  await noor.press("priority");
  await noor.page.waitForFunction(() =>
    /high\s+\d+/.test(
      document.querySelector<HTMLElement>('[aria-label="Any of these"]')?.innerText ?? "",
    ),
  );
  const counts = await noor.page.$$eval('[aria-label="Any of these"] > div', (all) =>
    all.map((e) => (e as HTMLElement).innerText.split(/\s+/)),
  );
  expect(counts.map(([name]) => name)).toEqual(["low", "normal", "high", "urgent"]);
  const high = Number(counts[2][1]);
  expect(await shown(noor)).toBe(high);
  await noor.click('::-p-xpath(//div[@aria-label="Any of these"]//label[contains(., "urgent")])');
  const sum = high + Number(counts[3][1]);
  await noor.reads(`${sum} item`, "[role=dialog]");
  await noor.reads(new RegExp(`^${sum} of`), WHAT);
  for (const name of ["urgent", "high"])
    await noor.click(
      `::-p-xpath(//div[@aria-label="Any of these"]//label[contains(., "${name}")])`,
    );
  await noor.page.waitForFunction(
    (w: string) => !document.querySelector<HTMLElement>(w)!.innerText.includes("only"),
    {},
    WHAT,
  );
});

test("values stand counted beside a board: a press narrows, Ctrl takes several, and others' moves are counted", async () => {
  const panel = 'aside[aria-label="Values with counts"]';
  const value = (name: string) => `${panel} .counted-value[data-value="${name}"]`;
  const countOf = async (name: string) =>
    Number(await noor.page.$eval(value(name), (e) => e.getAttribute("data-count")));
  await noor.open("/p/TIX/flow");
  const all = await shown(noor);
  await noor.keys("f");
  await noor.page.waitForSelector(value("Ruth Abara"));
  const [ruths, nobodys] = [await countOf("Ruth Abara"), await countOf("nobody")];
  await noor.click(value("Ruth Abara"));
  await noor.reads(new RegExp(`^${ruths} of ${all}`), WHAT);
  // The values of the field itself stay as they are; another field follows.
  expect(await countOf("nobody")).toBe(nobodys);
  await noor.page.keyboard.down("Control");
  await noor.click(value("nobody"));
  await noor.page.keyboard.up("Control");
  await noor.reads(new RegExp(`^${ruths + nobodys} of ${all}`), WHAT);
  await noor.reads(/assignee Ruth Abara or nobody/, WHAT);
  const kept = await pathOf(noor);
  await noor.page.reload();
  await noor.page.waitForSelector("html[data-ready]");
  await noor.page.waitForSelector(`${value("nobody")}[aria-pressed=true]`);
  expect(await pathOf(noor)).toBe(kept);
  // The same by keys alone: Space lets go of one, Enter of the last.
  await noor.page.focus(`${panel} .counted-value[tabindex="0"]`);
  await noor.keys("Home", "End", "Home");
  while (
    !(await noor.page.evaluate(
      () => document.activeElement?.getAttribute("data-value") === "nobody",
    ))
  )
    await noor.keys("ArrowDown");
  await noor.keys(" ");
  await noor.reads(new RegExp(`^${ruths} of ${all}`), WHAT);
  await noor.click(value("Ruth Abara"));
  await noor.page.waitForFunction(
    (w: string) => !document.querySelector<HTMLElement>(w)!.innerText.includes("only"),
    {},
    WHAT,
  );
  // Somebody else gives Ruth one of nobody's.
  const client = new Client({ connectionString: app.databaseUrl() });
  await client.connect();
  const { rows } = await client.query<{ key: string }>(
    "select 'TIX-' || i.number as key from item i join column_state c on c.state_id = i.state_id and c.board_id = 'tix-board' where i.project_id = 'tix' and i.assignee_id is null and not i.restricted and i.state_kind <> 'finished' and i.withdrawn_at is null order by i.rank limit 1",
  );
  await client.end();
  await ines.open(`/p/TIX/flow?item=${rows[0].key}`);
  await ines.choose("Assignee", "Ruth Abara");
  await noor.page.waitForSelector(`${value("Ruth Abara")}[data-count="${ruths + 1}"]`);
  expect(await countOf("nobody")).toBe(nobodys - 1);
  await noor.keys("f");
  await noor.page.waitForFunction((p: string) => !document.querySelector(p), {}, panel);
});

test("a question is asked in words or chosen, and answered by three looks at one's own items", async () => {
  await noor.open("/p/TIX/flow");
  await noor.press("Everything");
  await noor.press("Which look answers my question?");
  const sheet = "[role=dialog]";
  // What stands there is marked: whoever writes, writes over it.
  await noor.page.waitForFunction(() => document.activeElement?.matches("[role=dialog] input"));
  await noor.page.keyboard.type("blocked, by team");
  await noor.reads("The board, in lanes by team", sheet);
  await noor.fill("Say what you want to see", "mine, not finished, by priority, zeppelin");
  await noor.reads("“zeppelin” is no word of this project", sheet);
  await noor.reads("Nothing is like that now.", sheet);
  await noor.fill("Say what you want to see", "in progress, by assignee");
  await noor.reads("The board, in lanes by assignee", sheet);
  await noor.reads("A table in groups by assignee", sheet);
  await noor.reads(/\d+ items/, ".look-picture");
  await noor.click("::-p-xpath(//button[contains(., 'A table in groups by assignee')])");
  await noor.page.waitForSelector("[data-group]");
  expect(await pathOf(noor)).toContain("groups=assigneeId");
  await noor.reads(/only\s+kind of state waiting or working/, WHAT);
});

test("a look is kept as a view, changed, kept in it and undone, put away and brought back", async () => {
  await ines.open("/p/TIX/flow?as=table");
  await ines.narrow("bug");
  await ines.choose("In groups by", "severity");
  await ines.reads(/in groups by severity/, '[aria-label="What differs"]');
  await ines.press("Keep as a view");
  await ines.fill("Name", "Leaks by how bad");
  await ines.click('::-p-xpath(//label[contains(., "the project")]/input)');
  await ines.press("Keep the view");
  await ines.reads("Leaks by how bad", "h1");
  await ines.page.waitForFunction(() => location.search.startsWith("?view="));
  const link = await pathOf(ines);
  await noor.open(link);
  await noor.reads("Leaks by how bad", "h1");
  await noor.reads(/type Bug/, WHAT);
  expect(await rowsOf(noor)).toEqual(await rowsOf(ines));
  // What somebody changes for themselves changes nothing for others, and can be let go.
  await noor.narrow("priority high");
  await noor.reads(/only “priority high”/, '[aria-label="What differs"]');
  expect(await noor.page.$('::-p-xpath(//button[.="Keep"])')).toBeNull();
  await noor.press("Drop");
  await noor.page.waitForFunction(() => !document.querySelector('[aria-label="What differs"]'));
  expect(await pathOf(noor)).toBe(link);
  await ines.choose("In groups by", "priority");
  await ines.press("Keep");
  await ines.reads("shows it so from now on");
  await ines.press("Undo");
  await ines.reads("Undone.");
  await noor.open(link);
  await noor.reads(/in groups by\s+severity/);
  await ines.open("/p/TIX/flow/views");
  await ines.reads("Leaks by how bad", "table");
  await ines.click('::-p-xpath(//tr[@data-view="Leaks by how bad"]//button)');
  await ines.reads("is put away");
  await noor.open(link);
  await noor.reads("The view “Leaks by how bad” was put away. This is what it showed.");
  await ines.press("bring back");
  await ines.page.waitForSelector('[data-view="Leaks by how bad"]');
});

test("a table is walked by keys, its cells are changed where they stand, and changes are undone", async () => {
  await ines.open("/p/TIX/flow?as=table&groups=priority&columns=estimate~assigneeId~stateId~dueOn");
  await ines.narrow("kind of state wait");
  await ines.reads(/kind of state waiting/, WHAT);
  await ines.page.waitForSelector("[data-row]");
  await go(ines, 1, 2);
  await ines.keys("ArrowDown", "ArrowRight");
  expect(await focused(ines)).toBe("2:3");
  await ines.keys("Home");
  expect(await focused(ines)).toBe("2:0");
  await ines.keys("End");
  expect(await focused(ines)).toBe("2:6");
  // A day that is none is said, and the cell stays as it was.
  await ines.keys("F2");
  await ines.page.keyboard.type("the ides");
  await ines.keys("Enter");
  await ines.reads("Write a day like 2026-11-28 or 28 Nov.");
  await ines.keys("Escape");
  expect(await focused(ines)).toBe("2:6");
  await ines.keys("ArrowLeft", "ArrowLeft", "ArrowLeft", "Enter");
  await ines.page.waitForSelector('[aria-label="New value"]');
  const before = await ines.page.$eval(
    '[aria-label="New value"]',
    (e) => (e as HTMLInputElement).value,
  );
  await ines.page.keyboard.type("21");
  await ines.keys("Enter");
  await ines.reads(/estimate is stored/);
  expect(await focused(ines)).toBe("3:3");
  expect(await cell(ines, "2:3")).toBe("21");
  await ines.press("Undo");
  await ines.reads("Undone.");
  await ines.page.waitForFunction(
    (was: string) => document.querySelector<HTMLElement>('[data-cell="2:3"]')?.innerText === was,
    {},
    before === "" ? "–" : before,
  );
  // A choice by writing, and a move by its own name.
  await go(ines, 2, 4);
  await ines.keys("Enter");
  await ines.page.waitForSelector('[aria-label="Type to choose"]');
  await ines.page.keyboard.type("ivo");
  await ines.keys("Enter");
  await ines.reads(/assignee is stored/);
  await ines.page.waitForFunction(() =>
    document.querySelector<HTMLElement>('[data-cell="2:4"]')?.innerText.includes("Ivo Sandell"),
  );
  // The head of a group closes and opens.
  const rows = await rowsOf(ines);
  await ines.chord("Control", "Home");
  await ines.keys("ArrowLeft");
  await ines.page.waitForFunction(
    (n: number) => document.querySelectorAll("[data-row]").length < n,
    {},
    rows.length,
  );
  await ines.keys("ArrowRight");
  await ines.page.waitForFunction(
    (n: number) => document.querySelectorAll("[data-row]").length === n,
    {},
    rows.length,
  );
});

test("rows are chosen by keys and copied; all of them go into a file that other programs read", async () => {
  await noor.open("/p/TIX/flow?as=table&columns=priority~estimate");
  await noor.narrow("bug");
  await noor.reads(/type Bug/, WHAT);
  await shown(noor);
  await noor.page.waitForSelector("[data-row]");
  const [first, second, third] = await rowsOf(noor);
  await noor.mayUseClipboard();
  await go(noor, 0, 2);
  await noor.keys("x");
  await noor.chord("Shift", "ArrowDown");
  await noor.chord("Shift", "ArrowDown");
  await noor.reads("3 items chosen");
  await noor.page.bringToFront();
  await noor.chord("Control", "c");
  await noor.reads("3 rows copied.");
  const copied = await noor.page.evaluate(() => navigator.clipboard.readText());
  const lines = copied.split("\n").map((line) => line.split("\t"));
  expect(lines.map(([key]) => key)).toEqual(["key", first, second, third]);
  expect(lines[0]).toEqual(["key", "title", "Priority", "Estimate"]);

  const folder = mkdtempSync(path.join(os.tmpdir(), "zigzag-export-"));
  const session = await noor.page.createCDPSession();
  await session.send("Page.setDownloadBehavior", { behavior: "allow", downloadPath: folder });
  const total = await shown(noor);
  await noor.press("Export");
  await noor.reads(`${total} rows are in the file.`);
  const saved = () => readdirSync(folder).filter((name) => name.endsWith(".csv"));
  for (let tries = 0; saved().length === 0 && tries < 40; tries++)
    await new Promise((resolve) => setTimeout(resolve, 100));
  expect(saved()).toEqual(["All items.csv"]);
  const records: string[][] = parse(readFileSync(path.join(folder, saved()[0])));
  expect(records).toHaveLength(total + 1);
  expect(records.slice(1, 4).map(([key]) => key)).toEqual([first, second, third]);
});

test("what somebody else changes is in the table a moment later; who only looks changes nothing", async () => {
  const arthur = await browser.person(app.address(), "Arthur Quill");
  const address = "/p/TIX/flow?as=table&sort=-age&columns=age~estimate";
  await arthur.open(address);
  await ines.open(address);
  await ines.page.waitForSelector("[data-row]");
  const [key] = await rowsOf(ines);
  await go(ines, 0, 4);
  await ines.keys("Enter");
  await ines.page.keyboard.type("34");
  await ines.keys("Enter");
  await arthur.page.waitForFunction(
    (k: string) =>
      document.querySelector<HTMLElement>(`[data-row="${k}"]`)?.innerText.includes("34"),
    {},
    key,
  );
  // For who may not change it, Enter opens the item instead.
  await go(arthur, 0, 4);
  await arthur.keys("Enter");
  await arthur.page.waitForSelector(`aside[aria-label^="Item ${key}"]`);
  expect(await arthur.page.$('[aria-label="New value"]')).toBeNull();
  await arthur.open("/p/TIX/flow/views");
  await arthur.reads("Nothing here that you can see");
});

describe("several at once", () => {
  const going = '[role=region][aria-label="Several at once"]';
  test("it is said what will happen, what is missing is asked once, and all of it is taken back", async () => {
    await ines.open("/p/TIX/flow?as=table&columns=stateId~assigneeId");
    await ines.narrow("state ready");
    await ines.reads(/state Ready/, WHAT);
    await shown(ines);
    await ines.page.waitForSelector("[data-row]");
    await go(ines, 0, 2);
    await ines.keys("x");
    await ines.chord("Shift", "ArrowDown");
    await ines.reads("2 items chosen", going);
    await ines.press("Move");
    await ines.choose("To which state?", "Building (Build, review, test, deploy)", "[role=dialog]");
    await ines.reads(/\d (?:is|are) refused: It needs somebody who works on it\./);
    await ines.choose("Assignee", "Ivo Sandell", "[role=dialog]");
    await ines.press("Say it for all");
    await ines.reads(/^2 go/m, "[role=dialog]");
    await ines.press("Move 2 items");
    await ines.reads("2 items moved to Building.");
    await ines.press("Undo");
    await ines.reads("2 items taken back.");
    await ines.press("Done lately");
    await ines.reads(/2 items moved to Building\.\s*taken back/, "[role=dialog]");
  });

  test("cards of a board are chosen by keys and by the pointer; what is refused says why and for whom", async () => {
    await noor.open("/p/TIX/flow");
    const [first, second] = await noor.page.$$eval(".card[data-key]", (cards) =>
      cards.map((card) => card.getAttribute("data-key")!),
    );
    await noor.focusCard(first);
    await noor.keys("x");
    await noor.reads("1 item chosen", going);
    await noor.page.keyboard.down("Shift");
    await noor.page.click(`.card[data-key="${second}"]`);
    await noor.page.keyboard.up("Shift");
    await noor.reads("2 items chosen", going);
    expect(await noor.page.$("aside")).toBeNull();
    await noor.press("Label");
    await noor.addTerms("Add labels", "harbour watch");
    await noor.press("Label 2 items");
    await noor.reads("2 items labelled harbour watch.");
    await noor.press("Whole column");
    await noor.page.waitForFunction(
      (w: string) => Number(/\d+/.exec(document.querySelector<HTMLElement>(w)!.innerText)![0]) > 2,
      {},
      going,
    );
    await noor.press("Put under");
    await noor.fill("Under which item?", "TIX-9999999");
    await noor.reads(/0 go, \d+ are refused/);
    await noor.keys("Escape");
    await noor.click('button[aria-label="Choose none"]');
    await noor.page.waitForFunction(() => !document.querySelector(".card[data-chosen=true]"));
  });

  test("a job goes on when the page is left, and the next page tells of it", async () => {
    await ines.open("/p/TIX/flow?as=table");
    await ines.click('input[aria-label="Choose all rows that are shown"]');
    await ines.reads(/\d+ items chosen/, going);
    await ines.press("Label");
    await ines.addTerms("Add labels", "stocktake");
    await ines.reads(/Of the first 50 of \d+ items: 50 go/);
    const letGo = await holdItemAt(60);
    await ines.press("Label 7");
    await ines.reads(/\d+ of \d+\s+labelled stocktake/, going);
    await ines.open("/p/TIX/plan");
    await ines.open("/p/TIX/flow?as=table");
    await ines.reads(/\d+ of \d+\s+labelled stocktake/, going);
    await ines.press("Stop");
    await stopWaits();
    await letGo();
    await ines.reads(/items? labelled stocktake, stopped before \d+ items?\./);
  });
});
