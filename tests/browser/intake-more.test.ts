import { mkdtempSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { TOLD_STATUS } from "@/core/contract/told-status";
import { givenApplication } from "./setup/application";
import { holdPosts } from "./setup/held-requests";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let tomas: Person;
let ines: Person;
beforeAll(async () => {
  tomas = await browser.person(app.address(), "Tomas Kerr");
  ines = await browser.person(app.address(), "Ines Dahl");
});

test("a table is looked at, imported row by row, and taken back", async () => {
  const file = path.join(mkdtempSync(path.join(os.tmpdir(), "zigzag-table-")), "old-list.csv");
  writeFileSync(
    file,
    [
      "Subject,Description,Where",
      '"Lamp, green side",It went out,Outer Pier',
      ",no words,",
      "Bell too quiet,,Quay 2",
    ].join("\r\n"),
  );
  await tomas.open("/p/TIX/intake");
  await tomas.click('::-p-xpath(//a[.="Import a table"])');
  const input = (await tomas.page.waitForSelector('input[type="file"]')) as unknown as {
    uploadFile: (f: string) => Promise<void>;
  };
  await input.uploadFile(file);
  await tomas.reads("2 reports would come into the queue, 1 row would not");
  await tomas.reads("Line 3: It says nothing in the column for a few words.");
  await tomas.press("Import 2 reports");
  await tomas.reads("2 reports are in the queue.");
  await tomas.click('::-p-xpath(//a[.="To the triage desk"])');
  await tomas.reads("Lamp, green side", "nav[aria-label='Queue']");
  await tomas.choose("Way in", "from a table");
  await tomas.page.waitForFunction(
    () => document.querySelectorAll("nav[aria-label='Queue'] li").length === 2,
  );
});

test("what a report is about is said at the desk, narrows it, and goes with it to its item", async () => {
  await tomas.open("/p/TIX/intake");
  const parts = '[role=group][aria-label="parts of the product"]';
  const queue = "nav[aria-label='Queue']";
  await tomas.click(`::-p-xpath(//nav[@aria-label="Queue"]//button[contains(., "charged twice")])`);
  await tomas.reads("Payments and refunds", `article ${parts}`);
  await tomas.click(`article ${parts} button[aria-label="Take off Payments and refunds"]`);
  await tomas.reads(/is about no part of the product\./);
  await tomas.press("Undo");
  await tomas.reads("Payments and refunds", `article ${parts}`);
  await tomas.choose("Part of the product", "Payments and refunds (1)");
  await tomas.page.waitForFunction(
    (list) => document.querySelectorAll(`${list} li`).length === 1,
    {},
    queue,
  );
  await tomas.press("Accept");
  await tomas.reads("Payments and refunds", `form[aria-label=Accept] ${parts}`);
  await tomas.keys("Escape");
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
  await tomas.chord("Control", "Enter");
  await tomas.reads(/is accepted as TIX-\d+/);
  await tomas.press("Undo");
  await tomas.reads(/R-\w+ waits again\./);
});

test("requests are judged, and the backlog put into their order after its moves were shown", async () => {
  await ines.open("/p/TIX/intake/worth");
  const first = "[data-worth]:first-of-type";
  const key = await ines.page.$eval(first, (e) => e.getAttribute("data-worth")!);
  await ines.fill(`How well it fits the goal of ${key}`, "0");
  await ines.keys("Enter");
  await ines.page.waitForFunction(
    (k: string) =>
      document.querySelector("[data-worth]")?.getAttribute("data-worth") !== k ||
      document.querySelector<HTMLInputElement>(`[aria-label="How well it fits the goal of ${k}"]`)
        ?.value === "0",
    {},
    key,
  );
  await ines.press("Reorder the backlog by this");
  await ines.reads(/\d+ of \d+ items would change their place/);
  await ines.press("Put the backlog into this order");
  await ines.reads("The backlog is in the order of score.");
  await ines.page.waitForFunction(
    () => document.querySelector("[data-worth] td")?.textContent === "1",
  );
});

test("a promise is made, stands at the items it is for, and is kept by a calendar", async () => {
  await ines.open("/p/TIX/intake/promises");
  await ines.press("New promise");
  await ines.fill("Name", "Night boat first");
  await ines.fill("Answer within, hours", "1");
  await ines.press("Promise it");
  await ines.reads("answer within 1 h, done within 80 h", '[data-target="Night boat first"]');
  await ines.click(
    '::-p-xpath(//li[@data-target="Night boat first"]//button[contains(@aria-label, "further up")])',
  );
  await ines.reads("The order is changed");
  await ines.fill("What that day is", "Harbour festival");
  await ines.fill("Day without work", "5 June 2027");
  await ines.press("Add", '//section[@aria-label="Working calendar"]');
  await ines.press("Store the calendar");
  await ines.reads("The working calendar is changed.");
  await ines.reads("Harbour festival", '[aria-label="Working calendar"]');
});

test("a form is made with questions of one's own, put in order, tried, opened, filled in and seen on the desk", async () => {
  await ines.open("/p/TIX/intake/forms");
  await ines.press("New form");
  await ines.reads("A new form, still closed.");
  await ines.fill("Title", "Lost on board");
  await ines.fill("Address", "lost");
  await ines.choose("Add a question of your own", "yes or no");
  await ines.fill("The question", "Was it on a boat?");
  await ines.click('::-p-xpath(//label[contains(., "An answer is needed")]/input)');
  await ines.choose("Add a question of your own", "one of");
  await ines.fill("The question", "Which boat?");
  await ines.fill("Options, one a line", "Curlew\nHeron");
  await ines.choose("Asked", "only if “Was it on a boat?” is “yes”");
  // In the preview the question comes with its answer.
  await ines.click(
    '::-p-xpath(//section[@aria-label="Preview"]//fieldset[contains(., "Was it on a boat?")]//label[contains(., "yes")]/input)',
  );
  await ines.reads("Which boat?", 'section[aria-label="Preview"]');
  // One place up by keyboard; above the question that it depends on it may not stand.
  const handle = await ines.page.waitForSelector('button[aria-label^="Move “Which boat?”"]');
  await handle!.focus();
  const up = async () => {
    await ines.chord("Alt", "ArrowUp");
  };
  await up();
  await ines.reads("It depends on a question that does not come before it.");
  await ines.chord("Alt", "ArrowDown");
  // What is not stored stays while another form is looked at.
  await ines.press("Travelling as a group");
  await ines.reads("not stored yet", 'nav[aria-label="Forms of the project"]');
  await ines.click(
    '::-p-xpath(//nav[@aria-label="Forms of the project"]//button[contains(., "not stored yet")])',
  );
  await ines.press("Store the form");
  await ines.reads("“Lost on board” is stored.");
  await ines.press("Open the form");
  await ines.reads("Close the form");

  const anybody = await browser.person(app.address());
  await anybody.page.setViewport({ width: 390, height: 844 });
  await anybody.open("/report/TIX/lost");
  expect(
    await anybody.page.evaluate(() => document.documentElement.scrollWidth),
  ).toBeLessThanOrEqual(390);
  await anybody.fill("In a few words", "A red cap");
  await anybody.fill("What happened?", "The wind took it.");
  await anybody.click(
    '::-p-xpath(//fieldset[contains(., "Was it on a boat?")]//label[contains(., "yes")]/input)',
  );
  await anybody.click(
    '::-p-xpath(//fieldset[contains(., "Which boat?")]//label[contains(., "Heron")]/input)',
  );
  await anybody.fill("Your mail address", "cap@post.saltmarsh.example");
  await anybody.press("Send report");
  await anybody.reads(/Your reference is R-/);

  await tomas.open("/p/TIX/intake");
  await tomas.click('::-p-xpath(//nav[@aria-label="Queue"]//button[contains(., "A red cap")])');
  await tomas.reads("Heron", "article");
});

test("a report that a colleague judges meanwhile stays open with what was typed, and nothing else is judged", async () => {
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const title = await tomas.text("article h2");
  const waiting = async () =>
    (await tomas.page.$$('nav[aria-label="Queue"] [data-reference]')).length;
  const before = await waiting();
  await tomas.keys("d");
  await tomas.fill("Why not?", "It is meant to be so.");
  await ines.open("/p/TIX/intake");
  await ines.page.waitForSelector("article h2");
  expect(await ines.text("article h2")).toBe(title);
  await ines.keys("p");
  await ines.chord("Control", "Enter");
  await ines.reads(/is parked/);
  await tomas.reads("Ines Dahl parked this just now. What you typed is kept.");
  expect(await tomas.text("article h2")).toBe(title);
  // Neither what is open nor what comes after it is judged.
  await tomas.chord("Control", "Enter");
  await tomas.press("Take theirs back, to give mine");
  await tomas.reads(title, 'nav[aria-label="Queue"]');
  await tomas.page.waitForFunction(() => !document.body.innerText.includes("parked this"));
  expect(await waiting()).toBe(before);
  expect(await tomas.page.$eval("form textarea", (e) => (e as HTMLTextAreaElement).value)).toBe(
    "It is meant to be so.",
  );
  await tomas.chord("Control", "Enter");
  await tomas.reads(/is declined/);
  expect(await tomas.text("article h2")).not.toBe(title);
  // Ines reads the next one; Tomas judges that under her, and she goes on.
  const next = await tomas.text("article h2");
  await ines.click(
    `::-p-xpath(//nav[@aria-label="Queue"]//button[@data-reference][contains(., ${JSON.stringify(next)})])`,
  );
  await ines.page.waitForFunction(
    (t: string) => document.querySelector("article h2")?.textContent === t,
    {},
    next,
  );
  await tomas.keys("p");
  await tomas.chord("Control", "Enter");
  await ines.reads("Tomas Kerr parked this just now.");
  expect(await ines.text("article h2")).toBe(next);
  await ines.press("Next report");
  await ines.page.waitForFunction(
    (t: string) => document.querySelector("article h2")?.textContent !== t,
    {},
    next,
  );
  await tomas.keys("u");
  await tomas.reads(/R-\w+ waits again\./);
  await tomas.reads(next, 'nav[aria-label="Queue"]');
  await tomas.keys("u");
  await tomas.reads(title, 'nav[aria-label="Queue"]');
});

test("two triagers see each other; several reports become one item; what was tried is kept", async () => {
  const reference = () =>
    tomas.page.$eval('nav[aria-label="Queue"] [aria-current="true"]', (e) =>
      e.getAttribute("data-reference")!,
    );
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const first = await reference();
  await ines.open("/p/TIX/intake");
  await ines.reads(
    "Tomas Kerr is reading it",
    `nav[aria-label="Queue"] [data-reference="${first}"]`,
  );
  await tomas.keys("t");
  await tomas.fill("Where, and with what?", "Gate 2 in the workshop");
  await tomas.click('::-p-xpath(//label[contains(., "did not happen")]/input)');
  await tomas.press("Keep it");
  await tomas.reads("Nobody could make it happen.", "article");
  await tomas.reads("Watch for it", "article");
  await tomas.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await tomas.keys("x", "ArrowDown", "x");
  await tomas.reads("2 selected");
  await tomas.keys("a");
  await tomas.click('::-p-xpath(//label[contains(., "one item for all of them")]/input)');
  await tomas.chord("Control", "Enter");
  await tomas.reads("2 reports are accepted.");
  await tomas.press("Undo");
  await tomas.reads(/Undone: R-\w+, R-\w+ stand where they stood before\./);
  await tomas.reads(first, 'nav[aria-label="Queue"]');
});

test("a judged report is found by its words and its address, and its verdict undone after leaving, in any order", async () => {
  const queue = 'nav[aria-label="Queue"]';
  const opened = () =>
    tomas.page.$eval(`${queue} [aria-current="true"]`, (e) => e.getAttribute("data-reference")!);
  const decline = async (why: string) => {
    const reference = await opened();
    await tomas.keys("d");
    await tomas.fill("Why not?", why);
    await tomas.chord("Control", "Enter");
    await tomas.reads(`${reference} is declined`);
    return reference;
  };
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const title = await tomas.text("article h2");
  const first = await decline("The town runs it.");
  const second = await decline("It is meant so.");
  // Gone and come back: what was judged has an address of its own.
  await tomas.open(`/p/GATE/intake?report=${first}`);
  await tomas.page.waitForFunction(
    (t: string) => document.querySelector("article h2")?.textContent === t,
    {},
    title,
  );
  expect(new URL(tomas.page.url()).pathname).toBe("/p/TIX/intake");
  await tomas.reads("Tomas Kerr declined it", "article");
  await tomas.open("/p/TIX/intake");
  await tomas.keys("/");
  await tomas.page.keyboard.type(first.toLowerCase());
  // The list is still while it is clicked.
  await tomas.page.waitForFunction(
    (list: string) => document.querySelectorAll(`${list} [data-reference]`).length === 1,
    {},
    queue,
  );
  await tomas.reads("declined", `${queue} [data-reference="${first}"]`);
  await tomas.click(`::-p-xpath(//button[@aria-label="Undo the verdict on ${first}"])`);
  await tomas.reads(`${first} waits again.`);
  expect(await opened()).toBe(first);
  await tomas.fill("Find a report", "");
  await tomas.choose("Reports shown", "judged");
  await tomas.reads("Tomas Kerr", `${queue} [data-reference="${second}"]`);
  await tomas.choose("Reports shown", "everything");
  await tomas.page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await tomas.keys("u");
  await tomas.reads(`${second} waits again.`);
  await tomas.open("/p/TIX/intake?report=R-NOWHERE");
  await tomas.reads("There is no report R-NOWHERE that you may read.");
});

test("the next report is there before the verdict is stored, no key is lost, and what is refused comes back with its words", async () => {
  await tomas.open("/p/TIX/intake");
  await tomas.page.waitForSelector("article h2");
  const references = await tomas.page.$$eval(
    'nav[aria-label="Queue"] section:first-of-type [data-reference]',
    (all) => all.slice(0, 3).map((e) => e.getAttribute("data-reference")!),
  );
  const posts = await holdPosts(tomas, "/verdicts");
  await tomas.keys("d");
  await tomas.page.waitForSelector("form textarea");
  await tomas.page.keyboard.type("First words.");
  // Esc keeps them.
  await tomas.keys("Escape", "d");
  await tomas.page.waitForSelector("form textarea");
  expect(await tomas.page.$eval("form textarea", (e) => (e as HTMLTextAreaElement).value)).toBe(
    "First words.",
  );
  await tomas.chord("Control", "Enter");
  await tomas.page.waitForFunction(
    (r: string) =>
      document
        .querySelector('nav[aria-label="Queue"] [aria-current="true"]')
        ?.getAttribute("data-reference") === r,
    {},
    references[1],
  );
  await tomas.page.waitForFunction(() => document.activeElement?.tagName === "H2");
  await tomas.keys("d");
  await tomas.page.waitForSelector("form textarea");
  await tomas.page.keyboard.type("Second words.");
  await tomas.page.waitForFunction(() => !document.body.innerText.includes("is declined"));
  await posts.first();
  await posts.held.shift()!.respond({
    status: 200,
    headers: { [TOLD_STATUS]: "409" },
    contentType: "application/problem+json",
    body: JSON.stringify({
      title: "It is refused here.",
      detail: "For the test.",
      code: "conflict",
    }),
  });
  await tomas.reads("It is refused here.");
  // Nobody is taken away from what they write.
  expect(await tomas.page.$eval("form textarea", (e) => (e as HTMLTextAreaElement).value)).toBe(
    "Second words.",
  );
  await tomas.press("Back to it");
  await tomas.reads("It is refused here.", "form");
  expect(await tomas.page.$eval("form textarea", (e) => (e as HTMLTextAreaElement).value)).toBe(
    "First words.",
  );
  await posts.stop();
  await tomas.chord("Control", "Enter");
  await tomas.reads(`${references[0]} is declined`);
  await tomas.keys("u");
  await tomas.reads(`${references[0]} waits again.`);
});
