import type { HTTPRequest } from "puppeteer-core";
import { TOLD_STATUS } from "@/core/contract/told-status";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let noor: Person;

beforeAll(async () => {
  noor = await browser.person(app.address(), "Noor Bakri");
  await noor.open("/p/TIX/flow");
  ines = await browser.person(app.address(), "Ines Dahl");
  await openDesign(ines);
});

async function openDesign(person: Person, key = "TIX"): Promise<void> {
  await person.open(`/p/${key}/design`);
  await person.page.waitForSelector(".react-flow__node");
}

const tab = (person: Person, name: string) =>
  person.click(`::-p-xpath(//button[@role="tab"][starts-with(normalize-space(.), "${name}")])`);
/** Goes to another place of Design. */
const place = (person: Person, name: string) =>
  person.click(`::-p-xpath(//nav[@aria-label="What is designed"]//button[.="${name}"])`);
/**
 * Clicks a station; again, as a person would, when the map was just being drawn anew under the
 * pointer.
 */
const station = async (person: Person, name: string) => {
  for (let tries = 1; ; tries++) {
    await person.click(`.react-flow__node [data-state="${name}"]`);
    const shown = await person.page
      .waitForSelector(`[data-inspects="${name}"]`, { timeout: 3_000 })
      .catch(() => null);
    if (shown) return;
    if (tries === 4) throw new Error(`clicking ${name} does not show it`);
  }
};
const moveOf = async (person: Person, from: string, verb: string) => {
  await place(person, "Process");
  await tab(person, "Check");
  await station(person, from);
  await person.click(`::-p-xpath(//section//li//button[starts-with(., "${verb} →")])`);
  await person.page.waitForSelector(`[data-inspects="${verb}"]`);
};
const stored = (person: Person) => person.reads(/draft stored|nothing changed/);
async function publish(person: Person): Promise<void> {
  await stored(person);
  await person.press("Review and publish");
  await person.reads("What changes for everybody");
  await person.press("Publish version");
  await person.reads(/Version \d+ is in force/);
}

test("a limit, firm or advice: the open board follows at once, and what makes no sense is refused", async () => {
  await place(ines, "Boards");
  await ines.fill("Maximum of Build, building", "2");
  await ines.keys("Enter");
  await noor.reads(/\d over/, '[data-first-part="true"]:nth-child(2)');
  await ines.fill("Minimum of Build, building", "9");
  await ines.keys("Enter");
  await ines.reads("The minimum is above the maximum.");
  await ines.fill("Maximum of Build, building", "20");
  await ines.keys("Enter");
});

test("renamed, and a waiting state between two others: a draft until it is published, then on the open board", async () => {
  await place(ines, "Process");
  await tab(ines, "Check");
  await station(ines, "Waiting for test");
  await ines.fill("Name", "Waiting for the tide");
  await ines.keys("Enter");
  await station(ines, "In test");
  await ines.press("Add after");
  await ines.fill("Name of the state", "Waiting for the harbour");
  await ines.keys("Enter");
  await ines.page.waitForSelector('[data-state="Waiting for the harbour"]');
  await stored(ines);
  expect(await noor.text("main")).not.toContain("harbour");
  await ines.press("Review and publish");
  await ines.reads("Waiting for test is called Waiting for the tide.");
  await ines.reads("New state Waiting for the harbour, waiting");
  await ines.fill("Why (kept with the version)", "The harbour office approves now.");
  await ines.press("Publish version 4");
  await ines.reads("Version 4 is in force");
  await noor.reads("Waiting for the harbour", "main");
  await tab(ines, "Versions");
  await ines.reads("The harbour office approves now.", 'ol[aria-label="Versions"]');
});

test("a draft that cannot be stored says so; nothing is published over it, and later it is stored and published", async () => {
  const { page } = ines;
  await place(ines, "Process");
  await tab(ines, "Check");
  let away = true;
  const onRequest = (r: HTTPRequest) => {
    const isDraft = away && r.method() === "POST" && r.url().endsWith("/workflow/draft");
    void (isDraft
      ? r.respond({
          headers: { [TOLD_STATUS]: "422" },
          contentType: "application/problem+json",
          body: JSON.stringify({
            title: "Out at sea.",
            status: 422,
            detail: "Try again.",
            code: "invalid",
          }),
        })
      : r.continue());
  };
  await page.setRequestInterception(true);
  page.on("request", onRequest);
  await station(ines, "In review");
  await ines.fill("Name", "Under the lamp");
  await ines.keys("Enter");
  await ines.reads("not stored yet");
  await ines.press("Review and publish");
  await ines.reads("What changes for everybody");
  await ines.press("Publish version");
  await ines.reads("Your last changes are not stored, so nothing was published.");
  expect(await noor.text("main")).not.toContain("lamp");
  // Whoever goes to another place and comes back finds it as it was.
  await ines.keys("Escape");
  await ines.click('::-p-xpath(//nav//a[contains(., "Learn")])');
  await ines.reads("How ticket app work flowed");
  await ines.click('::-p-xpath(//nav//a[contains(., "Design")])');
  await place(ines, "Process");
  await tab(ines, "Check");
  await ines.reads("not stored yet");
  away = false;
  await ines.press("Review and publish");
  await ines.reads("What changes for everybody");
  await ines.press("Publish version");
  await ines.reads(/Version \d+ is in force/);
  page.off("request", onRequest);
  await page.setRequestInterception(false);
  // Back to its name, for the tests that follow.
  await station(ines, "Under the lamp");
  await ines.fill("Name", "In review");
  await ines.keys("Enter");
  await publish(ines);
});

test("by keyboard alone: choose, add, reorder, change the rail, connect, take out, and back and forth", async () => {
  const names = () =>
    ines.page.$$eval(".react-flow__node", (nodes) =>
      nodes
        .map((n) => ({
          name: n.querySelector("[data-state]")!.getAttribute("data-state")!,
          x: n.getBoundingClientRect().x,
        }))
        .sort((a, b) => a.x - b.x)
        .map((n) => n.name),
    );
  const map = '[aria-label^="Map of"]';
  await place(ines, "Process");
  await tab(ines, "Check");
  const before = await names();
  await ines.page.$eval(map, (e) => (e as HTMLElement).focus());
  await ines.keys("Escape", "ArrowRight", "ArrowRight");
  await ines.page.waitForSelector('[data-inspects="Ready"]');
  await ines.keys("a");
  await ines.page.waitForSelector('form[aria-label="Between Ready and Building"]');
  await ines.page.keyboard.type("Working");
  await ines.keys("Enter");
  await ines.page.waitForSelector('[data-inspects="Working"]');
  expect((await names())[2]).toBe("Working");
  // Its moves one after another, and back to it.
  await ines.keys("m");
  await ines.page.waitForSelector('[data-inspects^="Start building"]');
  await ines.keys("ArrowRight", "ArrowLeft");
  await ines.page.waitForSelector('[data-inspects="Working"]');
  await ines.keys("ArrowDown");
  await ines.page.waitForFunction(
    () => document.querySelector("[data-inspects] [role=combobox]")?.textContent === "waiting",
  );
  await ines.chord("Alt", "ArrowRight");
  await ines.page.waitForFunction(
    () => [...document.querySelectorAll(".react-flow__node")].length > 0,
  );
  expect((await names())[3]).toBe("Working");
  await ines.keys("c");
  await ines.reads("Where does the move from Working lead?");
  await ines.keys("ArrowLeft", "ArrowLeft", "Enter");
  await ines.page.waitForSelector('[data-inspects^="Back to Ready"]');
  for (let n = 0; n < 4; n++) {
    await ines.chord("Control", "z");
  }
  await ines.page.waitForFunction(
    (n) => document.querySelectorAll(".react-flow__node").length === n,
    {},
    before.length,
  );
  expect(await names()).toEqual(before);
  await stored(ines);
});

test("on the map: renamed in place, a state put into a line, the path led along, and joined when one is taken out", async () => {
  const map = '[aria-label^="Map of"]';
  await place(ines, "Process");
  await ines.page.$eval(map, (e) => (e as HTMLElement).focus());
  await station(ines, "Building");
  await ines.page.$eval(map, (e) => (e as HTMLElement).focus());
  await ines.keys("F2");
  await ines.page.waitForSelector('input[aria-label="Name of Building"]');
  await ines.page.keyboard.type("Crafting");
  await ines.keys("Enter");
  await ines.page.waitForSelector('[data-inspects="Crafting"]');
  // A line between two states, with "+" on it where the pointer is.
  await ines.click('::-p-xpath(//section//li//button[starts-with(., "Hand to review →")])');
  await ines.click('button[aria-label="Put a state between Crafting and Waiting for review"]');
  await ines.fill("Name of the state", "Own look");
  await ines.choose("There it is", "working");
  await ines.fill("The move into it", "Look over");
  await ines.press("Put it in");
  await ines.page.waitForSelector('[data-inspects="Own look"]');
  await ines.reads("Hand to review → Waiting for review", '[data-inspects="Own look"]');
  // Elsewhere in the order: the path follows when it is asked to.
  await ines.page.$eval(map, (e) => (e as HTMLElement).focus());
  await ines.chord("Alt", "ArrowRight");
  await ines.reads("Own look stands elsewhere; its moves lead the old way.");
  await ines.press("Lead the path along");
  await ines.reads("In review", '[data-inspects="Own look"]');
  await ines.page.waitForFunction(() => !document.body.innerText.includes("stands elsewhere"));
  await ines.press("Undo");
  await ines.press("Undo");
  await ines.reads("Hand to review → Waiting for review", '[data-inspects="Own look"]');
  // Taken out, its neighbours are joined.
  await ines.press("Take out");
  await ines.reads("“Crafting” leads to “Waiting for review” now, with the rules of both.");
  await station(ines, "Crafting");
  await ines.reads("Look over → Waiting for review", '[data-inspects="Crafting"]');
  await ines.page.$eval(map, (e) => (e as HTMLElement).focus());
  await ines.keys("Enter");
  expect(await ines.page.evaluate(() => document.activeElement?.getAttribute("aria-label"))).toBe(
    "Rules",
  );
  await ines.press("Throw the draft away");
  await ines.reads("nothing changed");
});

test("two rules on a move: what it asks for is asked at the card, in place", async () => {
  await moveOf(ines, "Building", "Hand to review");
  const focused = () =>
    ines.page.evaluate(() => document.activeElement?.getAttribute("aria-label") ?? "");
  await ines.choose("Demand that…", "a comment is left");
  await ines.page.waitForFunction(() =>
    document.activeElement?.getAttribute("aria-label")?.startsWith("Take out: "),
  );
  await ines.choose("Demand that…", "a field is filled");
  await ines.page.waitForFunction(() => document.activeElement?.role === "combobox");
  expect(await focused()).toBe("Field");
  await ines.choose("Field", "severity");
  await ines.reads("needs a severity", '[aria-label="It is allowed when"]');
  await publish(ines);
  const card = await noor.page.$eval('[role=list][aria-label$="Build building"] [data-key]', (e) =>
    e.getAttribute("data-key")!,
  );
  for (let tries = 1; tries < 5; tries++) {
    // The board is just following the new version; a key that came while it was drawn anew is
    // pressed again.
    await noor.focusCard(card);
    await noor.keys("]");
    if (await noor.page.waitForSelector("#ask-comment", { timeout: 2_500 }).catch(() => null))
      break;
  }
  await noor.fill("Comment", "Mind the tide.");
  await noor.choose("Severity", "minor");
  await noor.press("Hand to review");
  await noor.waitForPlace(card, "Review waiting");
});

test("a condition by choosing, as a sentence and as text, always the same; a mistake is marked at its character", async () => {
  await moveOf(ines, "Ready", "Start building");
  await ines.choose("Demand that…", "a condition holds");
  await ines.press("Add a comparison");
  await ines.choose("Fact", "days in state");
  await ines.choose("Comparison", "less than");
  await ines.fill("Value", "30");
  await ines.reads(
    "when it has been in its state for less than 30 days",
    '[aria-label="Condition"]',
  );
  await ines.click('::-p-xpath(//label[contains(., "as text")]/input)');
  expect(
    await ines.page.$eval(
      '[aria-label="Condition as text"]',
      (e) => (e as HTMLTextAreaElement).value,
    ),
  ).toBe("item.days_in_state < 30.0");
  await ines.fill("Condition as text", "item.days_in_state < 30 && item.typ");
  await ines.reads("An item has no “typ”.");
  await ines.reads("type", '[role="listbox"]');
  await ines.fill("Condition as text", 'item.days_in_state < 40 && item.type != "Task"');
  await ines.keys("Escape");
  await ines.reads("less than 40 days and the type is not Task", '[aria-label="Condition"]');
  await ines.click('::-p-xpath(//label[contains(., "by choosing")]/input)');
  expect(await ines.page.$$eval(".condition-rule", (rules) => rules.length)).toBe(2);
  await publish(ines);
});

test("a condition that is not finished stays as it was typed, is found, and stops publishing", async () => {
  const text = "days in state < 40 and item.typ";
  const written = () =>
    ines.page.$eval('[aria-label="Condition as text"]', (e) => (e as HTMLTextAreaElement).value);
  await moveOf(ines, "Ready", "Start building");
  await ines.click('::-p-xpath(//label[contains(., "as text")]/input)');
  await ines.fill("Condition as text", text);
  await ines.reads(`“${text}” holds, which is not finished`, '[aria-label="Condition"]');
  await ines.reads("draft stored");
  await openDesign(ines);
  const found = '[data-finding="unfinished condition"]';
  await ines.reads(`has a condition that is not finished: “${text}”`, found);
  await ines.press("Review and publish");
  await ines.reads("is not finished", '[aria-label="Publish"]');
  expect(
    await ines.page.$('::-p-xpath(//button[starts-with(., "Publish version")][not(@disabled)])'),
  ).toBeNull();
  await ines.press("Back to the draft");
  await ines.click(`${found} button`);
  await ines.page.waitForSelector('[aria-label="Condition as text"]');
  expect(await written()).toBe(text);
  // What was meant is one click away, and the rest of the text stays.
  await ines.press("Put “type” there");
  expect(await written()).toBe("days in state < 40 and item.type");
  await ines.fill("Condition as text", 'days in state < 40 and item.type != "Task"');
  await ines.reads("Nothing to mend", '[aria-label="Check of the draft"]');
  await ines.press("Throw the draft away");
  await ines.reads("nothing changed");
});

test("what is agreed before a state is entered is asked for at the drop", async () => {
  await station(ines, "In review");
  const point = "The tide table is in the ticket";
  await ines.fill("Agreed before it enters", point);
  await ines.keys("Enter");
  await publish(ines);
  const card = await noor.page.$eval('[role=list][aria-label$="Review waiting"] [data-key]', (e) =>
    e.getAttribute("data-key")!,
  );
  const asked = `::-p-xpath(//form//label[contains(., "${point}")])`;
  for (let tries = 1; tries < 5; tries++) {
    await noor.focusCard(card);
    await noor.keys("]");
    if (await noor.page.waitForSelector(asked, { timeout: 2_500 }).catch(() => null)) break;
  }
  await noor.choose("Reviewer", "Ivo Sandell", "form");
  await noor.press("Start review", "//form");
  await noor.reads("Every point has to be true before the move.", "form");
  await noor.click(asked);
  await noor.press("Start review", "//form");
  await noor.waitForPlace(card, "Review reviewing");
});

test("the check sees a trap, shows it, stops publishing and mends it", async () => {
  await moveOf(ines, "Waiting for the harbour", "Pass test");
  await ines.press("Take the move out");
  await ines.reads(
    "Nobody pulls from Waiting for the harbour",
    'section[aria-label="Check of the draft"]',
  );
  await tab(ines, "Table");
  await ines.page.waitForSelector('button[aria-label^="anywhere to Closed"]');
  // By its own click, because the word of the last publish may still lie over the table's end.
  await ines.page.$eval('button[aria-label^="anywhere to Closed"]', (e) =>
    (e as HTMLElement).click(),
  );
  await place(ines, "Process");
  await tab(ines, "Check");
  await ines.press("Take the move out");
  const list = 'section[aria-label="Check of the draft"]';
  await ines.reads("From Waiting for the harbour no finished state can be reached", list);
  await stored(ines);
  await ines.press("Review and publish");
  await ines.reads("items would be stuck there");
  expect(
    await ines.page.$("::-p-xpath(//button[starts-with(., 'Publish version') and not(@disabled)])"),
  ).toBeNull();
  await ines.press("Back to the draft");
  await ines.click('::-p-xpath(//li[@data-finding="no way out"]//button[.="Show"])');
  await ines.page.waitForSelector('[data-inspects="Waiting for the harbour"]');
  await ines.click(
    '::-p-xpath(//li[@data-finding="no way out"]//button[starts-with(., "Add a move")])',
  );
  await ines.page.waitForFunction(() => !document.querySelector('[data-finding="no way out"]'));
  await ines.press("Throw the draft away");
  await ines.reads("nothing changed");
});

test("a state that goes: its items get the state that the lead chooses", async () => {
  await place(ines, "Process");
  await tab(ines, "Check");
  await station(ines, "Ready to deploy");
  await ines.press("Take out");
  await stored(ines);
  await ines.press("Review and publish");
  await ines.reads("Ready to deploy is gone.");
  await ines.reads(/\d+ items? in Ready to deploy/);
  await ines.choose("New state of what is in Ready to deploy", "Waiting for the harbour");
  await ines.press("Back to the draft");
  await ines.press("Undo");
  await ines.reads("nothing changed");
});

test("two leads at once: what each changed is kept", async () => {
  const greta = await browser.person(app.address(), "Greta Falk");
  await openDesign(greta);
  await station(greta, "In review");
  await greta.fill("Expected days", "2");
  await greta.keys("Enter");
  await stored(greta);
  await station(ines, "In test");
  await ines.fill("Expected days", "3");
  await ines.keys("Enter");
  await ines.reads("2 changes since version");
  await stored(ines);
  await ines.press("Review and publish");
  await ines.reads("The expected time in In review is 2 days");
  await ines.reads("The expected time in In test is 3 days");
  await ines.press("Back to the draft");
  await ines.press("Throw the draft away");
});

test("an earlier version is made the draft and published again", async () => {
  await tab(ines, "Versions");
  await ines.click(
    '::-p-xpath(//ol[@aria-label="Versions"]/li[.//b="4"]//button[starts-with(., "Make it the draft")])',
  );
  await ines.reads(/\d changes? since version/);
  await publish(ines);
});

test("a lead learns before publishing how often a new rule would have said no, and of which items", async () => {
  await moveOf(ines, "Building", "Hand to review");
  await ines.choose("Demand that…", "a comment is left");
  await ines.choose("Demand that…", "a field is filled");
  await stored(ines);
  const past = 'section[aria-label="Against the past"]';
  await tab(ines, "Against the past");
  await ines.press("90 days", '//section[@aria-label="Against the past"]');
  await ines.reads(/refused\s*\d+/, past);
  const refused = Number((await ines.text(`${past} dl dd:last-of-type`)).replace(",", ""));
  expect(refused).toBeGreaterThan(50);
  await ines.click(`${past} li button`);
  await ines.reads(/\d+ items/, "main + aside");
  await ines.keys("Escape");
});

test("an item is tried on the draft: each rule says yes or no and why, and nothing is stored", async () => {
  await tab(ines, "Try it");
  await ines.click('::-p-xpath(//li[@data-tried-move="Pull"]//button)');
  await ines.page.waitForSelector('[data-tried-state="Ready"]');
  const start = '[data-tried-move="Start building"]';
  await ines.reads("It needs somebody who works on it.", start);
  await ines.choose("Assignee", "Noor Bakri", '[aria-label="Try it"]');
  await ines.page.waitForFunction(
    (s: string) => !document.querySelector(`${s} [aria-label="no:"]`),
    {},
    start,
  );
  await ines.click(`${start} button`);
  await ines.reads(
    "leaves a comment. This move leaves a comment.",
    '[data-tried-move="Hand to review"]',
  );
  // What is missing is asked for at the move, as at a drop on the board.
  const hand = '//li[@data-tried-move="Hand to review"]';
  await ines.press("Answer and move", hand);
  await ines.fill("Comment", "The tide table is in the ticket.");
  await ines.fill("Estimate", "3");
  await ines.keys("Tab");
  await ines.press("Hand to review", `${hand}//form`);
  await ines.page.waitForSelector('[data-tried-state="Waiting for review"]');
  await ines.press("Throw the draft away");
  await ines.reads("nothing changed");
});

test("a member can look, not change", async () => {
  await openDesign(noor);
  await noor.reads("you can look; a lead can change it");
  await station(noor, "In review");
  expect(
    await noor.page.$$eval("[data-inspects] :is(input, [role=combobox])", (fields) =>
      fields.every((f) => (f as HTMLInputElement).disabled),
    ),
  ).toBe(true);
});

test("a new lead gets from a template to a running process with two rules of their own", async () => {
  const oskar = await browser.person(app.address(), "Oskar Thorne");
  await oskar.open("/start");
  await oskar.fill("Name", "Buoy lights");
  await oskar.press("Start the project");
  await oskar.page.waitForSelector(".react-flow__node");
  await moveOf(oskar, "Building", "Hand to review");
  await oskar.choose("Demand that…", "a field is filled");
  await oskar.choose("Demand that…", "nothing blocks it");
  await publish(oskar);
  await oskar.open("/p/BL/flow");
  await oskar.reads("Nothing waits here.");
});
