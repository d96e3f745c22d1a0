import { mkdtempSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

jest.setTimeout(90_000);
const browser = givenBrowser();
const app = givenApplication();

let tomas: Person;
let ines: Person;
beforeAll(async () => {
  tomas = await browser.person(app.address(), "Tomas Kerr");
  ines = await browser.person(app.address(), "Ines Dahl");
}, 60_000);

test("a table is looked at, imported row by row, and taken back", async () => {
  const file = path.join(mkdtempSync(path.join(os.tmpdir(), "zigzag-table-")), "old-list.csv");
  writeFileSync(file, ["Subject,Description,Where", '"Lamp, green side",It went out,Outer Pier', ",no words,", "Bell too quiet,,Quay 2"].join("\r\n"));
  await tomas.open("/p/TIX/intake");
  await tomas.click('::-p-xpath(//a[.="Import a table"])');
  const input = (await tomas.page.waitForSelector('input[type="file"]')) as unknown as { uploadFile: (f: string) => Promise<void> };
  await input.uploadFile(file);
  await tomas.reads("2 reports would come into the queue, 1 row would not");
  await tomas.reads("Line 3: It says nothing in the column for a few words.");
  await tomas.press("Import 2 reports");
  await tomas.reads("2 reports are in the queue.");
  await tomas.click('::-p-xpath(//a[.="To the triage desk"])');
  await tomas.reads("Lamp, green side", "nav[aria-label='Queue']");
  await tomas.choose("Way in", "from a table");
  await tomas.page.waitForFunction(() => document.querySelectorAll("nav[aria-label='Queue'] li").length === 2);
});

test("one key reports something from the board, with the item in view", async () => {
  await ines.open("/p/TIX/flow?item=TIX-100");
  await ines.page.waitForSelector('aside[aria-label^="Item"] figure');
  await ines.page.$eval("h1 button", (e) => (e as HTMLElement).focus());
  await ines.keys("r");
  await ines.fill("What is wrong, in a few words?", "Figure cut off");
  await ines.reads("seen at TIX-100");
  await ines.press("Put it in the queue");
  await ines.reads(/R-\w+ is in the queue of Intake/);
});

test("a bug found in work that is being built becomes a part of that work, by keyboard and undone", async () => {
  await tomas.open("/p/TIX/intake");
  await tomas.keys("a");
  await tomas.click('::-p-xpath(//label[contains(., "still being built")]/input)');
  await tomas.fill("Hours to mend it", "3");
  await tomas.page.keyboard.down("Control");
  await tomas.keys("Enter");
  await tomas.page.keyboard.up("Control");
  await tomas.reads(/is accepted as TIX-\d+/);
  await tomas.press("Undo");
  await tomas.reads("Undone.");
});

test("requests are judged, and the backlog put into their order after its moves were shown", async () => {
  await ines.open("/p/TIX/intake/worth");
  const first = '[data-worth]:first-of-type';
  const key = await ines.page.$eval(first, (e) => e.getAttribute("data-worth")!);
  await ines.fill(`How well it fits the goal of ${key}`, "0");
  await ines.keys("Enter");
  await ines.page.waitForFunction((k: string) => document.querySelector("[data-worth]")?.getAttribute("data-worth") !== k || document.querySelector<HTMLInputElement>(`[aria-label="How well it fits the goal of ${k}"]`)?.value === "0", {}, key);
  await ines.press("Reorder the backlog by this");
  await ines.reads(/\d+ of \d+ items would change their place/);
  await ines.press("Put the backlog into this order");
  await ines.reads("The backlog is in the order of score.");
  await ines.page.waitForFunction(() => document.querySelector("[data-worth] td")?.textContent === "1");
});

test("a promise is made, stands at the items it is for, and is kept by a calendar", async () => {
  await ines.open("/p/TIX/intake/promises");
  await ines.press("New promise");
  await ines.fill("Name", "Night boat first");
  await ines.fill("Answer within, hours", "1");
  await ines.press("Promise it");
  await ines.reads("answer within 1 h, done within 80 h", '[data-target="Night boat first"]');
  await ines.click('::-p-xpath(//li[@data-target="Night boat first"]//button[contains(@aria-label, "further up")])');
  await ines.reads("The order is changed");
  await ines.fill("What that day is", "Harbour festival");
  await ines.page.$eval('input[aria-label="Day without work"]', (e) => {
    const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value")!.set!;
    set.call(e, "2027-06-05");
    e.dispatchEvent(new Event("input", { bubbles: true }));
  });
  await ines.press("Add", '//section[@aria-label="Working calendar"]');
  await ines.press("Store the calendar");
  await ines.reads("The working calendar is changed.");
  await ines.reads("Harbour festival", '[aria-label="Working calendar"]');
});
