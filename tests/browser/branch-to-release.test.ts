import { closeDatabase } from "@/db/connection";
import type { Trigger } from "@/core/workflow/trigger";
import { editSource } from "@/server/events/sources";
import { INES } from "../server/setup/people";
import { publishChange } from "../server/setup/process";
import { givenApplication } from "./setup/application";
import { givenCodeAndPipeline, type Clone } from "./setup/code-and-pipeline";
import { givenBrowser, type Person } from "./setup/person";
import { atStep } from "./setup/run-step";

/*
 * One piece of work from the word of somebody outside to the word that it is out, at the keyboard and in
 * a terminal, with a real git and real scripts: its process moves by what the code host says.
 */

const standIns = givenCodeAndPipeline();
const browser = givenBrowser();
const app = givenApplication(standIns.settings);

const TITLE = "Fare of a bicycle is charged twice";
const CODE = "section[aria-label=Code]";
const TESTS = "section[aria-label=Tests]";
const MAIL = "noor.bakri@saltmarsh.example";

let noor: Person;
let ivo: Person;
let lukas: Person;
let ines: Person;
let outside: Person;
let fares: Clone;
let key: string;

/** What the process does by itself when something is told of it. */
const byItself = (triggers: Record<string, Trigger>) =>
  publishChange((workflow) => ({
    ...workflow,
    transitions: workflow.transitions.map((t) =>
      t.verb in triggers ? { ...t, triggers: [triggers[t.verb]] } : t,
    ),
  }));

beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  await standIns.start(app.address());
  const told = async (name: string, more: object = {}) => {
    const { id, secret } = await editSource(INES, "TIX", { kind: "add", name, ...more });
    return { address: `${app.address()}/api/events/${id}`, secret: secret! };
  };
  await standIns.tellOf(
    "fares",
    [
      { name: "development", automatic: true },
      { name: "test", automatic: false },
    ],
    { code: await told("Host"), pipeline: await told("Pipeline", { asksAt: "/ask" }) },
  );
  await byItself({
    "Hand to review": { kind: "change opened" },
    "Pass review": { kind: "commit says done" },
  });
  noor = await browser.person(app.address(), "Noor Bakri");
  ivo = await browser.person(app.address(), "Ivo Sandell");
  lukas = await browser.person(app.address(), "Lukas Pell");
  ines = await browser.person(app.address(), "Ines Dahl");
  outside = await browser.person(app.address());
});
afterAll(async () => {
  await standIns.stop();
  await closeDatabase();
});

/** Proposes to merge the branch that was pushed last, and comes back with where that is. */
async function propose(title: string): Promise<string> {
  await noor.page.goto(`${standIns.host.address}/fares`);
  await noor.page.type("input[name=title]", title);
  await noor.press("Propose to merge");
  await noor.reads("What it does to main");
  return new URL(noor.page.url()).pathname;
}

/** Ivo begins to read it, approves it at the host, and merges it with a closing word. */
async function readAndMerge(change: string, again = false): Promise<void> {
  await ivo.open(`/p/TIX/items/${key}`);
  await ivo.press("Start review");
  if (!again) {
    await ivo.choose("Reviewer", "Ivo Sandell", "form");
    await ivo.press("Start review", "//form");
  }
  await ivo.reads("In review");
  await ivo.page.goto(`${app.address()}/api/code-host?to=${encodeURIComponent(change)}`);
  await ivo.press("Approve");
  await ivo.reads("Ivo Sandell approved");
  await ivo.page.type("input[name=message]", `Fixes ${key}`);
  await ivo.press("Merge into main");
  await ivo.reads("merged");
}

const at = (words: string) => atStep(lukas, words);

test("what somebody reports becomes work, begun by whoever takes it", async () => {
  await outside.open("/report/TIX/report");
  await outside.fill("In a few words", TITLE);
  await outside.fill("What happened?", "I paid for one bicycle and was charged for two.");
  await outside.click(
    '::-p-xpath(//fieldset[contains(., "Could you travel")]//label[contains(., "yes")]/input)',
  );
  await outside.fill("Where was it?", "Heron island");
  await outside.fill("Your mail address", "odil@post.saltmarsh.example");
  await outside.press("Send report");
  await outside.click("::-p-text(Open my page)");
  await outside.reads("Received");
  await ines.open("/p/TIX/intake");
  await ines.click(`::-p-xpath(//nav[@aria-label="Queue"]//button[contains(., "${TITLE}")])`);
  await ines.reads("charged for two", "article");
  await ines.keys("a");
  await ines.page.waitForSelector('form[aria-label="Accept"]');
  await ines.choose("Severity", "major");
  await ines.choose("It hits", "many people");
  await ines.choose("It is needed", "this week");
  await ines.choose("Where to", "top of the backlog");
  await ines.chord("Control", "Enter");
  await ines.reads(/is accepted as TIX-\d+/);
  key = /is accepted as (TIX-\d+)/.exec(await ines.text("body"))![1];
  await noor.open(`/p/TIX/items/${key}`);
  await noor.press("Pull");
  await noor.reads("Ready");
  await noor.press("Start building");
  await noor.choose("Assignee", "Noor Bakri", "form");
  await noor.press("Start building", "//form");
  await noor.reads("Building");
});

test("its branch is cloned, pushed and seen; its checks fail, and are mended; its case is written", async () => {
  fares = await standIns.clone(noor, "Noor Bakri", MAIL, "fares");
  await fares.git("switch", "--quiet", "--create", "main");
  await fares.commit(".pipeline/check", "#!/bin/sh\ngrep -q once fare.txt\n", "How it is checked");
  await fares.commit("fare.txt", "once for a person\n", "What there is");
  await fares.git("push", "--quiet", "--set-upstream", "origin", "main");

  await noor.open(`/p/TIX/items/${key}`);
  await noor.mayUseClipboard();
  await noor.click(`${CODE} [aria-label^="Copy the branch name"]`);
  await noor.reads("is on the clipboard.");
  const branch = await noor.page.evaluate(() => navigator.clipboard.readText());
  expect(branch).toContain(key.toLowerCase());
  await fares.git("switch", "--quiet", "--create", branch);
  await fares.commit("fare.txt", "twice for a bicycle\n", "A fare for bicycles");
  await fares.git("push", "--quiet", "--set-upstream", "origin", branch);
  await noor.reads("1 commit", CODE);
  const change = await propose("A fare for bicycles");
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("checks failed", CODE);
  // The change that was opened moved it.
  await noor.reads("Waiting for review");
  await fares.commit("fare.txt", "once for a bicycle\n", `${key}: charged once`);
  await fares.git("push", "--quiet");
  await noor.reads("checks passed", CODE);

  await noor.press("Write how to test");
  await noor.page.waitForSelector("[aria-label='How to test']");
  await noor.page.keyboard.type("Buy a ticket with one bicycle.");
  await noor.press("Save text");
  await noor.reads("Buy a ticket with one bicycle.");
  await noor.press("Write a case");
  const sheet = "//form[@aria-label='Write a test case']";
  await noor.page.waitForSelector("form[aria-label='Write a test case']");
  await noor.fill("Step 1: what is done", "Buy a ticket with a bicycle");
  await noor.press("Add a step", sheet);
  await noor.fill("Step 2: what is done", "Read the receipt");
  await noor.press("Keep the case", sheet);
  await noor.reads(/TIX-T\d+ is written\./);
  await readAndMerge(change);
});

test("a closing word brings it to test; where it is deployed its second step fails, and it comes back", async () => {
  await lukas.open(`/p/TIX/items/${key}`);
  await lukas.reads("Waiting for test");
  await lukas.reads("merged", CODE);
  await lukas.reads("approved by Ivo Sandell", CODE);
  await deployToTest();
  await lukas.open(`/p/TIX/ship/tests?test=${key}`);
  await lukas.reads("Buy a ticket with one bicycle.");
  await lukas.keys("t");
  await at("Buy a ticket with a bicycle");
  await lukas.keys("p");
  await at("Read the receipt");
  await lukas.keys("f");
  await lukas.page.waitForSelector("textarea[aria-label='What you saw']");
  await lukas.page.type("textarea[aria-label='What you saw']", "It names two bicycles.");
  await lukas.keys("Enter");
  await lukas.reads("Whose is it?");
  await lukas.choose("Give it to", "Noor Bakri");
  await lukas.page.evaluate(() => (document.activeElement as HTMLElement).blur());
  await lukas.keys("e");
  await lukas.reads(/Run \d+ has ended: .* has moved\./);
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("Building");
  await noor.reads("It names two bicycles. (step 2 of TIX-T", "section[aria-label=Children]");
});

test("it is mended by another change, tested again, and passes on", async () => {
  await fares.git("switch", "--quiet", "main");
  await fares.git("pull", "--quiet");
  const branch = `nb/${key.toLowerCase()}-receipt`;
  await fares.git("switch", "--quiet", "--create", branch);
  await fares.commit("receipt.txt", "one bicycle\n", "The receipt names one bicycle");
  await fares.git("push", "--quiet", "--set-upstream", "origin", branch);
  await readAndMerge(await propose("The receipt"), true);
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("Waiting for test");
  await deployToTest();
  await lukas.open(`/p/TIX/ship/tests?test=${key}`);
  await lukas.reads("Test it again");
  await lukas.keys("t");
  await at("Buy a ticket with a bicycle");
  await lukas.keys("p");
  await at("Read the receipt");
  await lukas.reads("It names two bicycles. (Lukas,", ".run-last");
  await lukas.keys("p");
  await lukas.reads("This run passed.", "form[aria-label='End the run']");
  await lukas.keys("e");
  await lukas.reads(/Run \d+ has ended: .* has moved\./);
  await noor.reads("Ready to deploy");
  await noor.reads(/passed .* by Lukas Pell, build/, TESTS);
});

test("whoever asked for it sees what was done and how it was tested, and accepts it", async () => {
  await ines.open(`/p/TIX/items/${key}`);
  await ines.click("section[aria-label=Acceptance] a[href*='show=']");
  const name = 'input[aria-label="Name of somebody without an account"]';
  await ines.page.waitForSelector(name);
  await ines.page.type(name, "Odil");
  await ines.press("Add");
  await ines.press("Show it to them");
  await ines.reads(/\/a\/[A-Za-z0-9_-]{32}/);
  const address = /\/a\/[A-Za-z0-9_-]{32}/.exec(await ines.text("body"))![0];
  await outside.page.goto(app.address() + address);
  await outside.reads("Buy a ticket with one bicycle.");
  await outside.reads(
    /What was tested\s+Fare of a bicycle is charged twice passed on .*, build \d/,
  );
  await outside.press("I accept it");
  await outside.keys("O", "d", "i", "l");
  await outside.press("I accept it");
  await outside.reads("Thank you, you accepted");
});

test("it goes out with notes in words for everybody, and whoever reported it reads that", async () => {
  await ines.open(`/p/TIX/items/${key}`);
  await ines.reads("accepted by 1 of 1", "section[aria-label=Acceptance]");
  const release = await ines.page.evaluate(async () => {
    const asked = await fetch("/api/projects/TIX/ship/releases");
    return ((await asked.json()) as { release: { name: string } }).release.name;
  });
  await ines.choose("Release", release);
  await ines.reads(release);
  await ines.open("/p/TIX/ship/releases");
  const line = `//aside[@aria-label="Notes"]//li[contains(., "${TITLE}")]`;
  await ines.click(`::-p-xpath(${line}//button)`);
  const field = "aside[aria-label=Notes] textarea";
  await ines.page.waitForSelector(field);
  await ines.page.click(field, { count: 3 });
  await ines.page.type(field, "A bicycle is paid once.");
  await ines.press("Keep it", "//aside[@aria-label='Notes']");
  await ines.reads(`The notes say it of ${key}.`);
  await ines.press("It is out");
  await ines.reads("not finished. Each of them", "form[aria-label='It is out']");
  await ines.choose(`What becomes of ${key}`, "is out too, and finished as delivered");
  await ines.press("It is out", "//form[@aria-label='It is out']");
  await ines.reads("is out.");
  await ines.reads("A bicycle is paid once.", "aside[aria-label=Notes]");
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("Live");

  await outside.page.goBack();
  await outside.reads(`It is out: what you reported is part of ${release}.`);
});

/** Asks for the newest build on test, and waits until the pipeline says that it is there. */
async function deployToTest(): Promise<void> {
  await ines.open("/p/TIX/ship/environments");
  const row = `.where-row[data-item="${key}"]`;
  await ines.page.waitForSelector(`${row} .where-stop:nth-of-type(3)[data-way=here]`);
  await ines.page.click("[data-environment=test] .button");
  await ines.reads("Build of fares", "form[aria-label^=Deploy]");
  await ines.press("Deploy ", "//form");
  await ines.page.waitForSelector(`${row} .where-stop:nth-of-type(4)[data-way=here]`);
}
