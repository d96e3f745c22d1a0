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

const BOX = ".find-panel";

/** Opens the box by its key and types. */
async function ask(text: string) {
  await noor.page.keyboard.down("Control");
  await noor.keys("k");
  await noor.page.keyboard.up("Control");
  await noor.page.waitForSelector(`${BOX} input`);
  await noor.page.type(`${BOX} input`, text);
}

/** Waits until the line that Enter would choose reads so. */
const marked = (words: string) =>
  noor.page.waitForFunction(
    (box, wanted) =>
      document
        .querySelector(`${box} [cmdk-item][data-selected="true"]`)
        ?.textContent?.includes(wanted),
    {},
    BOX,
    words,
  );

/** The box is away. */
const away = () => noor.page.waitForFunction((box) => !document.querySelector(box), {}, BOX);

test("an item is found by parts of its title and opens beside the page", async () => {
  const { key } = await onBoard(noor, "Mend the halyardcleat");
  await ask("cleat mend");
  await marked(key);
  await noor.keys("Enter");
  await away();
  await noor.page.waitForSelector(`aside[aria-label="Item ${key}"]`);
  await noor.keys("Escape");
});

test("with the card that has the focus: given to somebody in one line, moved by its verb, and undone", async () => {
  const { at, key } = await onBoard(noor, "Oil the winch");
  await noor.page.focus(at);
  await ask("assign ivo");
  await marked("Assignee: Ivo Sandell");
  await noor.keys("Enter");
  await away();
  await noor.page.waitForSelector(`${at} [aria-label="Ivo Sandell"]`);
  // The focus is back at the card, so what comes next is about it too.
  await ask("move to waiting for review");
  await marked("Waiting for review");
  await noor.keys("Enter");
  await noor.reads(`${key} is in Waiting for review now.`);
  expect((await readItem(NOOR, key)).state.name).toBe("Waiting for review");
  await noor.press("Undo");
  await noor.page.waitForFunction(
    (where) => document.querySelector(where)?.closest("[data-column]") !== null,
    {},
    at,
  );
});

test("with an item that was found: step by step, a label is written, and steps are taken back", async () => {
  const { key } = await onBoard(noor, "Count the liferings");
  await noor.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await ask("liferings");
  await marked(key);
  await noor.keys("Tab");
  await noor.reads(key, ".find-step");
  await noor.page.type(`${BOX} input`, "label");
  await marked("Label");
  await noor.keys("Enter");
  await noor.page.type(`${BOX} input`, "spring tide");
  await marked("Put on “spring tide”");
  await noor.keys("Escape");
  await noor.page.waitForFunction(
    (box) => document.querySelectorAll(`${box} .find-step`).length === 1,
    {},
    BOX,
  );
  await noor.page.type(`${BOX} input`, "label");
  await marked("Label");
  await noor.keys("Enter");
  await noor.page.type(`${BOX} input`, "spring tide");
  await marked("Put on “spring tide”");
  await noor.keys("Enter");
  await noor.reads(`${key} has spring tide now.`);
  expect((await readItem(NOOR, key)).item.labels).toEqual(["spring tide"]);
});

test("another view, the walk, and what is chosen on the board", async () => {
  const { at } = await onBoard(noor, "Rinse the deck");
  await noor.page.focus(at);
  await noor.keys("x");
  await noor.reads("1 item chosen", ".chosen-bar");
  await ask("give to");
  await marked("1 item chosen");
  await noor.keys("Enter");
  await noor.page.waitForSelector('[role="dialog"][aria-label^="Give to"]');
  await noor.keys("Escape");
  await ask("voyages");
  await marked("board · Ticket app");
  await noor.keys("Enter");
  await noor.page.waitForFunction(() => location.search.includes("tix-voyages"));
  await noor.open("/p/TIX/flow");
  await ask("walk");
  await marked("Walk");
  await noor.keys("Enter");
  await noor.page.waitForFunction(() => location.pathname.endsWith("/flow/walk"));
});

test("what is not there is said, and everything is there for the mouse", async () => {
  await noor.open("/p/TIX/flow");
  await ask("zzzqqq");
  await noor.reads("Nothing like that in what you can see.", BOX);
  await noor.keys("Escape");
  await away();
  await noor.press("Find or do");
  await noor.page.type(`${BOX} input`, "mailbox");
  await marked("Mailbox");
  await noor.click(`${BOX} [cmdk-item][data-selected="true"]`);
  await noor.page.waitForFunction(() => location.pathname === "/p/TIX/intake/mailbox");
});
