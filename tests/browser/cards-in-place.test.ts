import { closeDatabase } from "@/db/connection";
import { readItem } from "@/server/item/read";
import { NOOR } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { onBoard } from "./setup/on-board";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let noor: Person;
beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  noor = await browser.person(app.address(), "Noor Bakri");
});
afterAll(() => closeDatabase());

test("a card is changed where it stands: its title, who has it, its size; and that is undone", async () => {
  const { at, key } = await onBoard(noor, "Paint the buoy");
  await noor.page.focus(at);
  await noor.keys("e");
  await noor.fill("Title", "Paint the northern buoy");
  await noor.keys("Enter");
  await noor.reads("Paint the northern buoy", at);
  await noor.fill("Estimate", "5");
  await noor.keys("Enter");
  await noor.page.waitForSelector(`${at} [data-part="estimate"]`);
  await noor.keys("Escape");
  await noor.click(`${at} [data-part="assigneeId"]`);
  await noor.page.waitForFunction(
    () =>
      document.activeElement?.closest("[data-in-place]")?.getAttribute("data-in-place") ===
      "assigneeId",
  );
  await noor.choose("Assignee", "Ivo Sandell");
  await noor.page.waitForSelector(`${at} [title="Ivo Sandell"]`);
  await noor.reads(`${key}: assignee changed.`);
  await noor.keys("Escape");
  await noor.press("Undo");
  await noor.page.waitForSelector(`${at} [title="Noor Bakri"]`);
  expect((await readItem(NOOR, key)).item).toMatchObject({
    title: "Paint the northern buoy",
    estimate: 5,
    assigneeId: "noor",
  });
});

test("children and bugs are added at a card one after another; children are ticked on it", async () => {
  const { at, key } = await onBoard(noor, "Grease the gangway");
  await noor.page.focus(at);
  await noor.keys("u");
  const line = ".add-line input";
  await noor.page.waitForSelector(line);
  await noor.reads("Task", ".add-line");
  for (const title of ["Take off the old grease", "Put on the new"]) {
    await noor.page.type(line, title);
    await noor.keys("Enter");
    await noor.page.waitForFunction(
      (at: string) => !document.querySelector<HTMLInputElement>(at)!.value,
      {},
      line,
    );
  }
  await noor.click('::-p-xpath(//label[contains(., "a bug found in it")]/input)');
  await noor.page.waitForSelector('[aria-label^="Title of a new item at the bugs"]');
  await noor.reads("Bug", ".add-line");
  await noor.page.type(line, "It squeaks");
  await noor.keys("Enter");
  await noor.reads(/TIX-\d+ is added/, ".add-line");
  await noor.keys("Escape");
  await noor.reads("0 of 2 children done", at);
  await noor.click(`${at} [data-part="children"]`);
  await noor.click(`${at} input[aria-label="Put on the new is done"]`);
  await noor.reads("1 of 2 children done", at);
  const { links, children } = await readItem(NOOR, key);
  expect(links.map(({ title }) => title)).toEqual(["It squeaks"]);
  expect(children.map(({ title, finished }) => [title, finished])).toEqual([
    ["Take off the old grease", false],
    ["Put on the new", true],
  ]);
});

test("an item is pinned by a key, from a board and from a table, and stays at hand", async () => {
  const { at, key } = await onBoard(noor, "Ring the bell");
  await noor.page.focus(at);
  await noor.keys("p");
  await noor.reads(`${key} is among your pins.`);
  await noor.open("/p/TIX/flow?as=table");
  await noor.page.waitForSelector('button[aria-label="My pins, 1"]');
  await noor.page.focus('[data-cell="0:2"]');
  const row = await noor.page.$eval('[data-cell="0:2"]', (cell) =>
    cell.closest("[data-row]")!.getAttribute("data-row"),
  );
  await noor.keys("p");
  await noor.reads(`${row} is among your pins.`);
  await noor.click('button[aria-label="My pins, 2"]');
  const list = '[role="dialog"][aria-label="My pins"]';
  await noor.reads("Ring the bell", list);
  await noor.click(`${list} button[aria-label="Take out ${row}"]`).catch(() => {});
  await noor.click(`::-p-xpath(//*[@aria-label="My pins"]//button[contains(., "${key}")])`);
  await noor.page.waitForSelector(`aside[aria-label="Item ${key}"]`);
  await noor.click(`button[aria-label="Pin ${key} for me"]`);
  await noor.reads(`${key} is pinned no more.`);
});
