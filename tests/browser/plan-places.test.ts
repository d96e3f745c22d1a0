import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
});

/** Gives a file to the field of the page that takes one. */
async function upload(person: Person, name: string, text: string): Promise<void> {
  const file = path.join(mkdtempSync(path.join(tmpdir(), "plan-")), name);
  writeFileSync(file, text);
  const field = (await person.page.waitForSelector(
    "input[type=file]",
  )) as ElementHandle<HTMLInputElement>;
  await field.uploadFile(file);
}

describe("the calendar", () => {
  test("goes by months, and is read at a private address until that is ended", async () => {
    await ines.open("/p/TIX/plan/calendar");
    const month = await ines.text("h1");
    await ines.page.waitForSelector(".cal-sprint");
    await ines.click("[aria-label='The month after']");
    await ines.page.waitForFunction(
      (before: string) => document.querySelector("h1")!.textContent !== before,
      {},
      month,
    );
    await ines.press("This month");
    await ines.reads(month, "h1");
    await ines.press("Into my calendar program");
    await ines.press("Make an address", '//section[@aria-label="Ticket app"]');
    const address = await ines.text("section[aria-label='Ticket app'] code");
    const read = await fetch(address);
    expect(read.headers.get("content-type")).toContain("text/calendar");
    expect(await read.text()).toContain("BEGIN:VEVENT");
    await ines.press("End it", '//section[@aria-label="Ticket app"]');
    await ines.page.waitForFunction(
      () => !document.querySelector("section[aria-label='Ticket app'] code"),
    );
    expect((await fetch(address)).status).toBe(404);
  });

  test("holidays come out of a calendar file; what of it is none is said", async () => {
    await ines.open("/p/TIX/intake/promises");
    await ines.reads("Days without work");
    const lines = [
      "BEGIN:VCALENDAR",
      "VERSION:2.0",
      "BEGIN:VEVENT",
      "UID:1",
      "DTSTART;VALUE=DATE:20270503",
      "SUMMARY:Day of the lighthouse",
      "END:VEVENT",
      "BEGIN:VEVENT",
      "UID:2",
      "DTSTART:20270504T090000",
      "DTEND:20270504T110000",
      "END:VEVENT",
      "END:VCALENDAR",
      "",
    ];
    await upload(ines, "holidays.ics", lines.join("\r\n"));
    await ines.reads("Day of the lighthouse");
    await ines.reads("1 event left out: it lasts hours, not days.");
    await ines.press("Store the calendar");
    await ines.reads("The working calendar is changed.");
    await ines.open("/p/TIX/plan/calendar?day=2027-05-01");
    await ines.reads("Day of the lighthouse", ".cal-day[data-day='2027-05-03']");
  });
});

test("what does not hold is moved on with what follows it, and back", async () => {
  await ines.open("/p/TIX/plan/waiting");
  const words = "TIX-620 waits for TIX-744 in Sprint 22, by another team.";
  await ines.reads(words, ".wait-side");
  await ines.press("Move TIX-620 on to Sprint 23");
  await ines.reads("TIX-620 in Sprint 23.");
  await ines.page.waitForFunction(
    (said: string) => !document.querySelector<HTMLElement>(".wait-side")!.innerText.includes(said),
    {},
    words,
  );
  await ines.press("Undo");
  await ines.reads(words, ".wait-side");
});

test("something is given to who could take it, with the reason, and back", async () => {
  await ines.open("/p/TIX/plan/room");
  // Who has too much stands open by itself; who that is changes with the day.
  const given = 'ul[aria-label^="What "] li[data-movable]';
  await ines.page.waitForSelector(given);
  const [list, key] = await ines.page.$eval(given, (row) => [
    row.closest("ul")!.getAttribute("aria-label")!,
    row.getAttribute("data-key")!,
  ]);
  const held = `ul[aria-label="${list}"]`;
  await ines.choose(`More for ${key}`, "Who could take it");
  await ines.reads(/h (free|too much) in 2 weeks/, "[data-taker]");
  const taker = await ines.page.$eval("[data-taker]", (row) => row.getAttribute("data-taker")!);
  await ines.click(`[aria-label="Give it to ${taker}"]`);
  await ines.reads(`${taker} has ${key}.`);
  await ines.page.waitForFunction(
    (selector: string) => !document.querySelector(selector),
    {},
    `${held} [data-key="${key}"]`,
  );
  await ines.press("Undo");
  await ines.page.waitForSelector(`${held} [data-key="${key}"]`);
});

test("a large piece stands elsewhere in the tree, and back; its burn-up stands beside it", async () => {
  await ines.open("/p/TIX/plan/pieces");
  const depth = (key: string) =>
    ines.page.$eval(`.piece[data-key="${key}"]`, (row) => row.getAttribute("data-depth"));
  const key = await ines.page.$eval('.piece[data-depth="1"]', (row) =>
    row.getAttribute("data-key")!,
  );
  await ines.click(`.piece[data-key="${key}"] .piece-name`);
  await ines.page.waitForSelector(".piece-aside .recharts-surface");
  await ines.page.waitForSelector(".piece-story");
  await ines.choose(`More for ${key}`, "Under nothing");
  await ines.page.waitForSelector(`.piece[data-key="${key}"][data-depth="0"]`);
  await ines.press("Undo");
  await ines.page.waitForSelector(`.piece[data-key="${key}"][data-depth="1"]`);
  expect(await depth(key)).toBe("1");
});

test("a round: nobody sees what others say until it is shown; then it is settled", async () => {
  const ivo = await browser.person(app.address(), "Ivo Sandell");
  await ines.open("/p/TIX/plan/sizing");
  const key = await ines.page.$eval(".sizing-aside li", (row) => row.getAttribute("data-key")!);
  await ines.click(`[aria-label="Size ${key} together"]`);
  const round = `section[aria-label="Size of ${key}"]`;
  await ines.page.waitForSelector(round);
  await ivo.open("/p/TIX/plan/sizing");
  // What is like the items above it came with the page: nothing pushes it away under the pointer.
  expect(await ivo.text("main")).not.toContain("Looking for what is like it");
  await ivo.click(`${round} [aria-label="8: my size of ${key}"]`);
  await ines.reads("Ivo Sandell has said one.", round);
  expect(await ines.page.$$(`${round} [data-said]`)).toHaveLength(0);
  await ines.click(`${round} [aria-label="3: my size of ${key}"]`);
  await ines.reads("Ines Dahl and Ivo Sandell have said one.", round);
  await ines.press("Show what 2 people said", `//section[@aria-label="Size of ${key}"]`);
  await ivo.reads("Ines Dahl says the least, Ivo Sandell the most.", round);
  await ivo.click(`${round} [aria-label="5: settle on it for ${key}"]`);
  await ines.page.waitForFunction((gone: string) => !document.querySelector(gone), {}, round);
  await ines.open(`/p/TIX/items/${key}`);
  await ines.page.waitForFunction(
    () =>
      document.querySelector('[role=combobox][aria-label="Estimate"]')?.textContent?.trim() === "5",
  );
});

test("a table becomes items under each other, what is wrong is left out, and all is taken back", async () => {
  await ines.open("/p/TIX/plan/import");
  const rows = [
    "Key,Title,Under,Points,State",
    "A-1,Lanterns of the north pier,,5,",
    "A-2,Lanterns of the south pier,,many,",
    "A-3,Glass for them,A-1,2,Ready",
  ];
  await upload(ines, "piers.csv", rows.join("\n"));
  await ines.reads("Line 3: Estimate: “many” is no number.");
  await ines.reads("2 items would be made, 1 row left out");
  await ines.press("Make 2 items");
  // A story stands under no story: that row is told, and the other one is there.
  await ines.reads("1 item made");
  await ines.reads(/Line 4: /, "ul[aria-label='What did not go']");
  await ines.press("Take all of it back");
  await ines.reads("1 of 1 item taken back.");
});

test("sprints are made in a row and taken out; a project does without them, and has them again", async () => {
  await ines.open("/p/GATE/plan/planning");
  await ines.press("New sprints");
  await ines.fill("How many", "2");
  await ines.press("Make 2 sprints");
  await ines.reads("2 sprints made.");
  await ines.press("Undo");
  const greta = await browser.person(app.address(), "Greta Falk");
  await greta.open("/p/GATE/plan/planning");
  await greta.press("How we plan");
  await greta.click('form[aria-label="How we plan"] input[type=checkbox]');
  await greta.press("Store it");
  await greta.reads("Quay gates plans without sprints");
  await greta.open("/p/GATE/plan");
  await greta.reads("This project plans without sprints.", "section[aria-label='Sprints']");
  await greta.press("Plan in sprints");
  await greta.page.waitForSelector("[data-sprint]");
});

test("rows of the backlog are chosen by key and by press, and changed together; narrowed, the address keeps it", async () => {
  await ines.open("/p/TIX/plan");
  const keys = await ines.page.$$eval("ol[aria-label='Backlog in order'] > li[data-key]", (rows) =>
    rows.slice(0, 3).map((row) => row.getAttribute("data-key")!),
  );
  await ines.page.focus(`li[data-key="${keys[0]}"]`);
  await ines.keys("x");
  await ines.page.waitForSelector(`li[data-key="${keys[0]}"][data-chosen]`);
  await ines.page.keyboard.down("Shift");
  await ines.click(`[aria-label="3: choose ${keys[2]}"]`);
  await ines.page.keyboard.up("Shift");
  await ines.reads("3 items chosen", "[aria-label='Several at once']");
  await ines.press("Label", "//*[@aria-label='Several at once']");
  await ines.page.waitForSelector("[role=dialog]");
  await ines.keys("Escape");
  await ines.click("[aria-label='Choose none']");
  await ines.page.waitForFunction(() => !document.querySelector("li[data-chosen]"));
  const filter = { kind: "compare", fact: "classOfService", op: "is", value: "fixed date" };
  await ines.open(`/p/TIX/plan?filter=${encodeURIComponent(JSON.stringify(filter))}`);
  await ines.reads(/\d+ of \d+ items/, "h1 + p");
  await ines.press("Show all");
  await ines.page.waitForSelector(`li[data-key="${keys[0]}"]`);
  expect(await ines.page.evaluate(() => location.search)).toBe("");
});
