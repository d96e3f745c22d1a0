import { eq } from "drizzle-orm";
import { closeDatabase, database } from "@/db/connection";
import { item } from "@/db/schema";
import { itemIn, move, send } from "../server/setup/board";
import { NOOR } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { holdPosts } from "./setup/held-requests";
import { givenBrowser, type Person } from "./setup/person";
import { atStep } from "./setup/run-step";

/*
 * What is handed to test is written down, gone through by keys, comes back with what failed, is tested
 * again and goes on.
 */

const browser = givenBrowser();
const app = givenApplication();

let noor: Person;
let lukas: Person;
beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  noor = await browser.person(app.address(), "Noor Bakri");
  lukas = await browser.person(app.address(), "Lukas Pell");
});
afterAll(() => closeDatabase());

const TO_TEST = ["Ready", "Building", "Waiting for review", "In review", "Waiting for test"];
const TESTS = "section[aria-label=Tests]";

async function handedToTest(title: string, criteria: string[] = []) {
  const id = await itemIn(NOOR, title, ...TO_TEST);
  const read = async () => (await database().select().from(item).where(eq(item.id, id)))[0];
  const { number, version: seenVersion } = await read();
  if (criteria.length > 0)
    await send(NOOR, id, {
      kind: "edit",
      seenVersion,
      changes: { criteria: criteria.map((text) => ({ id: crypto.randomUUID(), text })) },
    });
  return { id, key: `TIX-${number}`, read };
}

const at = (words: string) => atStep(lukas, words);

test("a case is written from what is wanted, run by keys, fails, comes back, is run again and passes on", async () => {
  const { id, key, read } = await handedToTest("Seats by the window", [
    "The seat is kept for ten minutes.",
    "A second phone sees that it is taken.",
  ]);
  await noor.open(`/p/TIX/items/${key}`);
  await noor.press("Write one from what it is accepted by");
  const sheet = "//form[@aria-label='Write a test case']";
  await noor.page.waitForSelector("form[aria-label='Write a test case']");
  await noor.fill("Step 1: what is done", "Take a seat and wait");
  await noor.press("Keep the case", sheet);
  await noor.reads(/TIX-T\d+ is written\./);
  await noor.reads("never tried for it", TESTS);

  await lukas.open(`/p/TIX/ship/tests?test=${key}`);
  await lukas.reads("It comes to In test by that.");
  await lukas.keys("t");
  await at("Take a seat and wait");
  await lukas.keys("p");
  await at("A second phone sees that it is taken.");
  await lukas.keys("f");
  const note = "textarea[aria-label='What you saw']";
  await lukas.page.waitForSelector(note);
  // Without a word nobody could mend it.
  await lukas.page.focus(note);
  await lukas.keys("Enter");
  await lukas.reads("Say what you saw", "form[aria-label='What you saw'] [role=alert]");
  await lukas.page.type(note, "The second phone sells it again.");
  const picker = await lukas.page.$("input[aria-label='Pictures of it']");
  await picker!.uploadFile("docs/screenshots/board.png");
  await lukas.page.waitForSelector(".step-picture");
  await lukas.page.focus(note);
  await lukas.keys("Enter");
  await lukas.reads("Whose is it?");
  await lukas.choose("Give it to", "Noor Bakri");
  await lukas.reads("for Noor Bakri", "form[aria-label='End the run']");
  await lukas.page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await lukas.keys("e");
  await lukas.reads(/Run \d+ has ended: TIX-\d+ is made, TIX-\d+ is made, TIX-\d+ has moved\./);
  await lukas.reads("The second phone sells it again. (step 2 of TIX-T");

  // Noor's page has heard it by itself.
  await noor.reads("failed its last test", TESTS);
  await noor.reads("Building");
  await noor.reads(
    "The second phone sells it again. (step 2 of TIX-T",
    "section[aria-label=Children]",
  );
  const [task] = await database()
    .select()
    .from(item)
    .where(eq(item.parentId, id))
    .orderBy(item.number);
  expect([task.assigneeId, task.remainingHours]).toEqual(["noor", 2]);
  await noor.open(`/p/TIX/items/TIX-${task.number}`);
  await noor.reads(/Found by step 2 of TIX-T\d+ in run \d+/, TESTS);
  await noor.reads("board.png");

  for (const to of ["Waiting for review", "In review", "Waiting for test"])
    await move(NOOR, id, to);
  await lukas.open(`/p/TIX/ship/tests?test=${key}`);
  await lukas.reads("Test it again");
  await lukas.keys("t");
  await at("Take a seat and wait");
  await lukas.reads("The second phone sells it again. (Lukas,", ".run-last");
  await lukas.keys("p");
  await at("A second phone");
  const steps = await holdPosts(lukas, "/steps");
  const ends: string[] = [];
  lukas.page.on("request", (request) => {
    if (request.url().endsWith("/end")) ends.push(request.url());
  });
  await lukas.keys("p");
  await steps.first();
  await lukas.reads("This run passed.", "form[aria-label='End the run']");
  // The end waits for what is still on its way, on however slow a line.
  await lukas.keys("e");
  await lukas.page.waitForSelector("form[aria-label='End the run'] [aria-busy]");
  expect(ends).toEqual([]);
  await steps.letGo();
  await lukas.reads(/Run \d+ has ended: TIX-\d+ has moved\./);
  await steps.stop();
  expect((await read()).outside.testResult).toBe("passed");
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("Ready to deploy");
  await noor.reads(/passed .* by Lukas Pell/, TESTS);
});

test("a run is given up by mistake and taken back; a step is said anew", async () => {
  const { key } = await handedToTest("Seats by the door");
  await lukas.open(`/p/TIX/ship/tests?test=${key}`);
  await lukas.reads("No case says how it is tested.");
  await lukas.press("Take one that is there");
  await lukas.find("A case that is there", "Ticket without a connection");
  await lukas.reads("TIX-T1 tests");
  await lukas.press("Begin the test");
  await at("Buy a day pass");
  await lukas.press("Passed");
  await at("Switch the phone to flight mode");
  await lukas.press("Give the run up");
  await lukas.reads(/Run \d+ is given up\./);
  await lukas.press("Undo");
  await at("Switch the phone to flight mode");
  await lukas.keys("ArrowUp");
  await at("Buy a day pass");
  await lukas.keys("b");
  await lukas.page.waitForSelector("textarea[aria-label='What kept you from trying it']");
  await lukas.page.keyboard.type("The machine is off.");
  await lukas.keys("Enter");
  await lukas.reads("1 could not be tried, 5 left");
  await lukas.press("End the run here");
  await lukas.reads("This run could not be tried.", "form[aria-label='End the run']");
});

test("cases are written anew with their versions, copied, put away and back; a suite is run", async () => {
  await lukas.open("/p/TIX/ship/tests/cases?case=3");
  const beside = "aside[aria-label='TIX-T3']";
  await lukas.reads("A family with a voucher", beside);
  await lukas.press("Write it anew");
  await lukas.fill("Title", "A family with two vouchers");
  await lukas.press("Keep the case", "//form[@aria-label='Write a test case']");
  await lukas.reads("TIX-T3 is written.");
  await lukas.reads(/2\s+Lukas Pell gave it another title/, beside);
  await lukas.press("Put it away");
  await lukas.reads("TIX-T3 is put away.");
  await lukas.reads("Bring it back", beside);
  await lukas.press("Undo");
  await lukas.reads("Put it away", beside);
  await lukas.press("Copy it");
  await lukas.press("Keep the case", "//form[@aria-label='Write a test case']");
  await lukas.reads("A family with two vouchers, again");
  await lukas.click(
    "::-p-xpath(//section[@aria-label='Fares']//button[contains(., 'Run all of it')])",
  );
  await lukas.reads("Fares", "section[aria-label^='Test run']");
  await lukas.page.waitForSelector(".run-step[data-active]");
});

test("who only watches sees what was tested and can say nothing", async () => {
  const arthur = await browser.person(app.address(), "Arthur Quill");
  await arthur.open("/p/TIX/ship/tests");
  await arthur.page.waitForSelector(".run-step, .case-lines li");
  expect(await arthur.page.$$(".run-acts, .start-run")).toHaveLength(0);
  await arthur.open("/p/TIX/ship/tests/cases");
  await arthur.reads("Ticket without a connection");
  expect(await arthur.text("main, .cases-screen")).not.toContain("Run all of it");
  const ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/ship/tests/cases");
  await ines.press("Make a suite");
  await ines.page.waitForSelector("[aria-label='Name of the suite']");
  await ines.page.type("[aria-label='Name of the suite']", "fares");
  await ines.press("Keep it");
  await ines.reads("There is a suite fares already.");
});

test("a release says what stands against it, its notes are written, it goes out and comes back", async () => {
  const ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/ship/releases");
  const against = () => ines.page.$$eval(".against-rows li", (all) => all.length);
  const all = await against();
  expect(all).toBeGreaterThan(1);
  const tested = "section[aria-label='What is tested']";
  await ines.reads(/passed .* ago by /, tested);
  const cases = () => ines.page.$$eval(".tested-rows > li", (rows) => rows.length);
  const tests = await cases();
  const passed = Number(/(\d+) passed/.exec(await ines.text(tested))![1]);
  expect(passed).toBeLessThan(tests);
  const figure = () => ines.press(`${passed} passed`, "//section[@aria-label='What is tested']");
  await figure();
  await ines.page.waitForFunction(
    (n: number) => document.querySelectorAll(".tested-rows > li").length === n,
    {},
    passed,
  );
  await figure();
  expect(await cases()).toBe(tests);
  // Which figures there are differs with the hour at which the world is loaded.
  const stands = "section[aria-label='What stands against it']";
  const figures = await ines.page.$$eval(`${stands} button`, (found) =>
    found.flatMap((one) => /^\d+ ?[a-z ]+$/.exec(one.textContent!.trim()) ?? []),
  );
  const fewest = figures.toSorted((a, b) => parseInt(a) - parseInt(b))[0];
  expect(parseInt(fewest)).toBeLessThan(all);
  const fewestAlone = () => ines.press(fewest, `//section[@aria-label='What stands against it']`);
  await fewestAlone();
  await ines.page.waitForFunction(
    (n: number) => document.querySelectorAll(".against-rows li").length === n,
    {},
    parseInt(fewest),
  );
  await fewestAlone();
  expect(await against()).toBe(all);
  const notes = "aside[aria-label=Notes]";
  await ines.click(`${notes} .notes-lines button`);
  const field = `${notes} textarea`;
  await ines.page.waitForSelector(field);
  await ines.page.click(field, { count: 3 });
  await ines.page.type(field, "The seat stays yours on the way back.");
  await ines.press("Keep it", "//aside[@aria-label='Notes']");
  await ines.reads(/The notes say it of TIX-\d+\./);
  await ines.reads("The seat stays yours on the way back.", notes);
  await ines.press("Undo");
  await ines.page.waitForFunction(
    () => !document.querySelector("aside[aria-label=Notes]")!.textContent!.includes("stays yours"),
  );
  await ines.press("It is out");
  const form = "form[aria-label='It is out']";
  await ines.reads(/are not finished\. Each of them/, form);
  const [key] = await ines.page.$$eval(`${form} .out-rows .key`, (found) =>
    found.map((one) => one.textContent!),
  );
  await ines.choose(`What becomes of ${key}`, "stays in it, open");
  await ines.press("It is out", "//form[@aria-label='It is out']");
  await ines.reads(/is out\. What becomes of \d+ is on its way\./);
  await ines.reads("Notes, as they went out", notes);
  // The others leave by themselves, in a job that goes on without the page.
  await ines.page.waitForFunction(() => document.querySelectorAll(".against-rows li").length === 1);
  expect(await ines.text(".against-rows li")).toContain(key);
  await ines.press("It is not out");
  await ines.reads("Notes, as they will be read", notes);
});
