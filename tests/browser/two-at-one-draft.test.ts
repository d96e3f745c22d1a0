import { givenApplication } from "./setup/application";
import { holdPosts } from "./setup/held-requests";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let greta: Person;

beforeAll(async () => {
  greta = await browser.person(app.address(), "Greta Falk");
  ines = await browser.person(app.address(), "Ines Dahl");
  for (const person of [ines, greta]) await openDesign(person);
});

async function openDesign(person: Person): Promise<void> {
  await person.open("/p/TIX/design");
  await person.page.waitForSelector(".react-flow__node");
}

const state = (name: string) => `.react-flow__node [data-state="${name}"]`;

/** Chooses a state on the map; again where it was just being drawn anew. */
async function station(person: Person, name: string): Promise<void> {
  for (let tries = 1; ; tries++) {
    await person.click(state(name));
    const shown = await person.page
      .waitForSelector(`[data-inspects="${name}"]`, { timeout: 3_000 })
      .catch(() => null);
    if (shown) return;
    if (tries === 4) throw new Error(`clicking ${name} does not show it`);
  }
}

async function rename(person: Person, from: string, to: string): Promise<void> {
  await station(person, from);
  await person.fill("Name", to);
  await person.keys("Enter");
  await person.page.waitForSelector(state(to));
}

test("each sees where the other is, on the map and in words, and goes there by a click", async () => {
  const others = 'ul[aria-label="Also at this draft"]';
  await greta.reads("is here too", others);
  await station(ines, "In review");
  await greta.reads("at In review", others);
  await greta.page.waitForSelector(`${state("In review")} [data-visited]`);
  await greta.click(`${others} button`);
  await greta.page.waitForSelector('[data-inspects="In review"]');
  await ines.reads("at In review", others);
});

test("what one changes is there for the other at once, without a reload", async () => {
  await rename(ines, "Ready", "To pull");
  await greta.page.waitForSelector(state("To pull"));
  await greta.reads(/1 change since version/);
  await rename(greta, "Ready to deploy", "Packed");
  await ines.page.waitForSelector(state("Packed"));
  await ines.reads(/2 changes since version 3, not published, draft stored/);
});

test("of what both changed at once the other's stands, and whose it is to be is asked", async () => {
  const posts = await holdPosts(greta, "/workflow/draft");
  await rename(greta, "In test", "Checking");
  await greta.reads("storing…");
  await rename(ines, "In test", "Testing");
  await greta.reads("Ines Dahl and you both changed the name of Testing.");
  await greta.reads("With yours: Testing is called Checking.");
  await greta.page.waitForSelector(state("Testing"));
  await posts.letGo();
  await greta.press("Take mine");
  await ines.page.waitForSelector(state("Checking"));
  await greta.reads("draft stored");
  expect(await greta.text("body")).not.toContain("both changed");
  await posts.stop();
});

test("what was done is undone after a reload too, and made again", async () => {
  await ines.reads("draft stored");
  await rename(ines, "Packed", "Under seal");
  await ines.reads("draft stored");
  await openDesign(ines);
  await ines.press("Undo");
  await ines.page.waitForSelector(state("Packed"));
  await ines.press("Redo");
  await ines.page.waitForSelector(state("Under seal"));
  await ines.reads("draft stored");
});

test("an earlier version is looked at and compared, with its lines, and the draft stays as it is", async () => {
  await ines.click('::-p-xpath(//button[@role="tab"][.="Versions"])');
  const list = 'ol[aria-label="Versions"]';
  await ines.reads("After the tickets that were read by the one who wrote them.", list);
  await ines.press("What it changed");
  await ines.reads("“Send back” from In review to Building, from now on: says why.", list);
  await ines.press("Look at it", '//li[contains(., "first day")]');
  await ines.reads("You look at version 1, published by Ines Dahl");
  await ines.page.waitForSelector(state("Ready"));
  expect(new URL(ines.page.url()).searchParams.get("version")).toBe("1");
  await ines.page.waitForSelector(".react-flow__edge");
  expect((await ines.page.$$(".react-flow__edge")).length).toBeGreaterThan(8);
  const different = 'section[aria-label="What is different"]';
  await ines.reads("“Hand to review” from Building to Waiting for review", different);
  await ines.choose("Compare with", "the draft");
  await ines.reads("Ready is called To pull.", different);
  await station(ines, "Ready");
  expect(await ines.page.$(`${state("Ready")} ~ [role="toolbar"]`)).toBeNull();
  await ines.press("Back to the draft");
  await ines.page.waitForSelector(state("Under seal"));
});

test("a workflow that nothing follows is taken out and brought back", async () => {
  await ines.press("New workflow");
  await ines.press("Test first");
  await ines.reads("The workflow is there");
  await ines.click('button[aria-label="Rename or take out the workflow"]');
  await ines.press("Take the workflow out");
  await ines.reads("“Test first” is taken out");
  await ines.page.waitForSelector(state("Under seal"));
  await ines.press("New workflow");
  await ines.reads("Bring back what was taken out");
  await ines.press("Test first", '//*[@aria-label="Bring back what was taken out"]');
  await ines.page.waitForSelector(state("Writing the test"));
});

test("whoever leaves is not there any more", async () => {
  await greta.open("/p/TIX/flow");
  await openDesign(ines);
  await ines.page.waitForFunction(
    () => document.querySelector('ul[aria-label="Also at this draft"]')?.children.length === 0,
  );
});
