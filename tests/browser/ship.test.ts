import { randomUUID } from "node:crypto";
import { closeDatabase } from "@/db/connection";
import { editSource } from "@/server/events/sources";
import { saveCase } from "@/server/ship/testing/cases";
import { move } from "../server/setup/board";
import { INES, NOOR } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { givenCodeAndPipeline, type Clone } from "./setup/code-and-pipeline";
import { onBoard } from "./setup/on-board";
import { givenBrowser, type Person } from "./setup/person";

/*
 * From the name of a branch to main, at the keyboard, in a terminal, and at the pages of the code host
 * that comes along.
 */

const standIns = givenCodeAndPipeline();
const browser = givenBrowser();
const app = givenApplication(standIns.settings);

let noor: Person;
let ivo: Person;
let prices: Clone;

beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  await standIns.start(app.address());
  noor = await browser.person(app.address(), "Noor Bakri");
  ivo = await browser.person(app.address(), "Ivo Sandell");
});
afterAll(async () => {
  await standIns.stop();
  await closeDatabase();
});

const git = (...args: string[]) => prices.git(...args);
const commit = (text: string, message: string) => prices.commit("price.txt", text, message);
const CODE = "section[aria-label=Code]";

test("in the code host a repository is made, told to the project, and cloned with one's own token", async () => {
  const { id, secret } = await editSource(INES, "TIX", { kind: "add", name: "Host" });
  await noor.open("/p/TIX/ship");
  const way = await noor.page.$eval("a[href^='/api/code-host']", (a) => a.getAttribute("href")!);
  await noor.page.goto(app.address() + way);
  await noor.reads("Noor Bakri");
  await noor.page.type("input[name=name]", "prices");
  await noor.press("Make it");
  await noor.reads("It is empty");
  await noor.page.type("input[name=address]", `${app.address()}/api/events/${id}`);
  await noor.page.type("input[name=secret]", secret!);
  await noor.press("Tell it too");
  await noor.reads(`/api/events/${id}`);
  prices = await standIns.clone(noor, "Noor Bakri", "noor.bakri@saltmarsh.example", "prices");
  await git("switch", "--quiet", "--create", "main");
  await commit("none\n", "What there is so far");
  await git("push", "--quiet", "--set-upstream", "origin", "main");
});

test("a card's branch name is copied by a key, pushed, proposed, approved by somebody else, merged; the item says each", async () => {
  const { at, key } = await onBoard(noor, "Prices by zone");
  await noor.mayUseClipboard();
  await noor.page.focus(at);
  await noor.keys("k");
  const branch = `nb/${key.toLowerCase()}-prices-by-zone`;
  await noor.reads(`${branch} is on the clipboard.`);
  expect(await noor.page.evaluate(() => navigator.clipboard.readText())).toBe(branch);

  await noor.page.focus(at);
  await noor.keys("Enter");
  await noor.reads("Nothing is pushed for it yet.", CODE);
  await git("switch", "--quiet", "--create", branch);
  await commit("one\ntwo\n", "Prices by zone");
  await git("push", "--quiet", "--set-upstream", "origin", branch);
  // Without anybody reading it again.
  await noor.reads("not proposed yet", CODE);
  await noor.reads("1 commit", CODE);
  await noor.press("1 commit", `//section[@aria-label="Code"]`);
  await noor.reads(/Prices by zone\s+Noor Bakri/, CODE);

  await noor.page.goto(`${standIns.host.address}/prices`);
  await noor.page.type("input[name=title]", "Zones");
  await noor.press("Propose to merge");
  await noor.reads("What it does to main");
  const change = new URL(noor.page.url()).pathname;
  expect(await noor.text("main")).not.toContain("Approve");
  await ivo.page.goto(`${app.address()}/api/code-host?to=${encodeURIComponent(change)}`);
  await ivo.reads("Zones");
  await ivo.press("Approve");
  await ivo.reads("Ivo Sandell approved");
  await ivo.page.type("input[name=message]", `Fixes ${key}`);
  await ivo.press("Merge into main");
  await ivo.reads("merged");

  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("merged", CODE);
  await noor.reads("approved by Ivo Sandell", CODE);
  await noor.reads("on main", CODE);
  // No move of the process waits for what the commit says: the work here is done.
  await noor.reads(/Ready for .*: take back/);
});

test("what is merged is built, stands on the first environment, and goes to the next when somebody asks", async () => {
  const source = { kind: "add", name: "Pipeline", asksAt: "/ask" } as const;
  const { id, secret } = await editSource(INES, "TIX", source);
  const greta = await browser.person(app.address(), "Greta Falk");
  await greta.open("/p/TIX/ship/environments");
  const way = await greta.page.$eval("a[href*='of=pipeline']", (a) => a.getAttribute("href")!);
  await greta.page.goto(app.address() + way);
  await greta.reads("Greta Falk");
  await greta.page.type("input[name=repository]", "prices");
  await greta.page.click("input[name=environments]", { count: 3 });
  await greta.page.type("input[name=environments]", "development, test");
  await greta.press("Follow it");
  await greta.reads("nothing yet");
  const told = /at (\S+), signed with (\S+)\./.exec(await greta.text("main"))!;
  await greta.page.type("input[name=address]", `/api/events/${id}`);
  await greta.page.type("input[name=secret]", secret!);
  await greta.press("Tell it too");
  await noor.page.goto(`${standIns.host.address}/prices`);
  await noor.page.type("input[name=address]", told[1]);
  await noor.page.type("input[name=secret]", told[2]);
  await noor.press("Tell it too");

  const { key } = await onBoard(noor, "Prices on the way");
  await git("switch", "--quiet", "main");
  await git("pull", "--quiet");
  await commit("three\n", `${key}: prices on the way`);
  await git("push", "--quiet");
  await noor.open(`/p/TIX/items/${key}`);
  const environments = `${CODE} [aria-label=Environments]`;
  await noor.page.waitForSelector(`${environments} li:nth-child(1)[data-there=all]`);
  await noor.page.waitForSelector(`${environments} li:nth-child(2)[data-there=none]`);

  await greta.open("/p/TIX/ship/environments");
  const row = `.where-row[data-item="${key}"]`;
  await greta.page.waitForSelector(`${row} .where-stop:nth-of-type(3)[data-way=here]`);
  await greta.page.click("[data-environment=test] .button");
  await greta.reads("Build of prices", "form[aria-label^=Deploy]");
  await greta.reads(/It brings \d+ commits, with \d+ items?:/);
  await greta.reads(`${key}`, "form[aria-label^=Deploy]");
  await greta.press("Deploy 1", "//form");
  await greta.reads("1 is asked for on test.");
  // Nothing but the pipeline's event moves it.
  await greta.page.waitForSelector(`${row} .where-stop:nth-of-type(4)[data-way=here]`);
  await greta.press("test", "//*[@data-environment='test']");
  await greta.reads(/1\s+deployed just now by Greta Falk, is there now/, "[role=dialog]");
  await noor.page.waitForSelector(`${environments} li:nth-child(2)[data-there=all]`);
});

test("what the check's own results say stands with the case that they carry out", async () => {
  const { key } = await onBoard(noor, "Prices by weight");
  const { number } = await saveCase(NOOR, "TIX", {
    ...{ id: randomUUID(), seenVersion: null, part: null, suiteId: null, itemKey: key },
    ...{ title: "By weight", before: "" },
    steps: [{ id: randomUUID(), action: "Weigh it", expected: "It costs more" }],
  });
  const checks = (failing: string) => {
    const script = `#!/bin/sh
printf '<testsuite name="prices"><testcase name="TIX-T${number} by weight">${failing}</testcase></testsuite>' > "$RESULTS/prices.xml"
[ -z '${failing}' ]
`;
    return prices.commit(".pipeline/check", script, failing ? "The test first" : "The work");
  };
  await git("switch", "--quiet", "--create", `nb/${key.toLowerCase()}-weight`);
  await checks('<failure message="too light"/>');
  await git("push", "--quiet", "--set-upstream", "origin", `nb/${key.toLowerCase()}-weight`);
  await noor.open(`/p/TIX/items/${key}`);
  const tests = "section[aria-label=Tests]";
  await noor.reads("by machine: failed", tests);
  await checks("");
  await git("push", "--quiet");
  await noor.reads("by machine: passed", tests);
  await noor.click(`${tests} a[href*="test="]`);
  await noor.reads("passes since", "aside[aria-label='Beside the test']");
});

test("a lead lists environments and their frozen days, undoes it, and hears what cannot be", async () => {
  const ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/ship/environments");
  await ines.press("Environments");
  const form = "form[aria-label=Environments]";
  await ines.press("Freeze test");
  await ines.page.type('[aria-label="Why test is frozen"]', "inventory");
  await ines.press("Store them");
  await ines.reads("The environments are changed.");
  await ines.reads(/test is frozen until/);
  await ines.press("Undo");
  await ines.reads(/live is frozen from/);
  await ines.press("Environments");
  await ines.page.click('[aria-label="Name of test"]', { count: 3 });
  await ines.page.type('[aria-label="Name of test"]', "live");
  await ines.press("Store them");
  await ines.reads("Two environments have the same name.", `${form} [role=alert]`);
});

test("what nobody reads yet is taken by a press, given to another one with a reason, and given back", async () => {
  const { id, key } = await onBoard(noor, "Who reads this");
  await move(NOOR, id, "Waiting for review", {});
  await ivo.open("/p/TIX/ship/reviews");
  const nobodys = `section[aria-label="Nobody’s yet"] [data-key="${key}"]`;
  const mine = `section[aria-label=Yours] [data-key="${key}"]`;
  await ivo.page.waitForSelector(nobodys);
  await ivo.click(`[aria-label="I read it: ${key}"]`);
  await ivo.page.waitForSelector(mine);
  await ivo.reads("you", mine);
  await ivo.press("Undo");
  await ivo.page.waitForSelector(nobodys);
  await ivo.openMenu(`[aria-label="Who reviews ${key}"]`);
  await ivo.reads("to review", "[role=menu]");
  const offered = await ivo.page.$$eval("[role=menuitem] b", (all) => all.map((b) => b.innerText));
  expect(offered).not.toContain("Noor Bakri");
  await ivo.keys("ArrowDown");
  await ivo.keys("Enter");
  await ivo.page.waitForSelector(`section[aria-label="With others"] [data-key="${key}"]`);
  await ivo.click(`[data-key="${key}"] [data-opens]`);
  await ivo.press("Start review", `//aside[@aria-label="Item ${key}"]`);
  await ivo.reads("In review", `[data-key="${key}"]`);
});

test("what stands against changes is counted, and a press shows it alone", async () => {
  await ivo.open("/p/TIX/ship");
  const rows = () => ivo.page.$$eval(".work-row", (found) => found.length);
  const all = await rows();
  const words = `[aria-label="What stands against it"] button[data-grave]`;
  const counted = Number(/\d+/.exec(await ivo.text(words))![0]);
  await ivo.click(words);
  await ivo.page.waitForFunction(
    (before) => document.querySelectorAll(".work-row").length < before,
    {},
    all,
  );
  expect(await rows()).toBe(counted);
  await ivo.click(words);
  await ivo.page.waitForFunction(
    (before) => document.querySelectorAll(".work-row").length === before,
    {},
    all,
  );
});

test("a lead says how branches are named, sees what it comes to, and takes it back; what cannot be is said", async () => {
  const ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/ship");
  await ines.press("How code goes");
  const field = "form[aria-label='How code goes'] input.key";
  const write = async (pattern: string) => {
    await ines.page.click(field, { count: 3 });
    await ines.page.type(field, pattern);
  };
  await write("{initials}");
  await ines.reads("put {key} into the pattern");
  await ines.press("Store it");
  await ines.reads("put {key} into the pattern", "form [role=alert]");
  await write("work/{key}");
  await ines.reads("For Ines it would be work/tix-606");
  await ines.press("Store it");
  await ines.reads("How code goes is changed.");
  await ines.open("/p/TIX/items/TIX-100");
  await ines.reads("work/tix-100", CODE);
  await ines.open("/p/TIX/ship");
  await ines.press("1 unknown address");
  await ines.choose("Who commits as ivo@boathouse.example", "Ivo Sandell");
  await ines.reads("Everybody who commits is known.");
});

test("what the last column has goes into a release of its own, whose page is there; undone, it is gone", async () => {
  const ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/flow");
  await ines.openMenu('[aria-label^="More for Live"]');
  await ines.click("::-p-xpath(//*[@role='menuitem'][contains(., 'Send out what is here')])");
  const form = "form[aria-label='Send it out']";
  await ines.reads(/Put \d+ into it/, form);
  const boxes = await ines.page.$$eval(`${form} li`, (all) => all.length);
  expect(boxes).toBeGreaterThan(1);
  await ines.click(`${form} li input`);
  await ines.reads(`Put ${boxes - 1} into it`, form);
  await ines.fill("Its name", "Crossing of the day");
  await ines.press("Put ");
  await ines.page.waitForFunction(() => location.pathname.endsWith("/ship/releases"));
  await ines.reads(`${boxes - 1}\nLive`, "[aria-label='Where its items are']");
  await ines.reads("Crossing of the day");
  await ines.press("Undo");
  await ines.page.waitForFunction(
    () => !document.querySelector(".release-screen")!.textContent.includes("Crossing of the day"),
  );
});
