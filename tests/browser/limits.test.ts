import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();
const panel = "aside";

let ines: Person;
let noor: Person;
beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  noor = await browser.person(app.address(), "Noor Bakri");
});

test("a limit for a part of a column: added in a sentence, on the board at once, taken off again", async () => {
  await noor.open("/p/TIX/flow");
  await ines.open("/p/TIX/design?place=boards");
  await ines.press("Add a limit for a part");
  await ines.choose("Where the limit is", "Build, building");
  await ines.choose("Field that the limit is for", "team");
  await ines.choose("Value that the limit is for", "Quayside");
  await ines.fill("At most", "2");
  await ines.press("Add limit");
  await ines.reads("at most 2", 'section[aria-label="Changes of limits"]');
  await ines.reads("of 2", '[data-column="Build, building, Quayside"]');
  await noor.reads(/Quayside \d of 2/, "[data-head]");
  await ines.fill("Maximum of Build, building, Quayside", "");
  await ines.keys("Enter");
  await noor.page.waitForFunction(() => !/Quayside \d of 2/.test(document.body.innerText));
});

test("by size, with what an item without one counts for; and how much is said everywhere", async () => {
  await ines.open("/p/TIX/design?place=boards");
  await ines.choose("What counts in Build, building", "their size");
  await ines.reads(/size .* (of|over)/, '[data-column="Build, building"]');
  await noor.reads(/size\s+\d/, '[data-first-part="true"]:nth-child(2)');
  await ines.choose("What counts in Build, building", "items");
  await ines.page.waitForFunction(
    () =>
      !document
        .querySelector<HTMLElement>('[data-column="Build, building"]')!
        .innerText.includes("size "),
  );
});

test("how much somebody may have in their hands: said where they are chosen, and held", async () => {
  await ines.fill("In the hands of Noor Bakri at most", "1");
  await ines.keys("Enter");
  await ines.choose("In the hands of Noor Bakri at most is", "firm");
  await ines.reads("over", '[data-person="Noor Bakri"]');
  await noor.open("/p/TIX/flow");
  await noor.press("New item");
  await noor.fill("What is to be done?", "A sign for the slipway");
  await noor.press("Add to the backlog");
  await noor.reads(/TIX-\d+ is at the end of the backlog/);
  const [, key] = /(TIX-\d+) is at the end/.exec(await noor.text("body"))!;
  await noor.open(`/p/TIX/flow?item=${key}`);
  await noor.reads(key, panel);
  await noor.press("Pull", "//aside");
  await noor.reads("Ready", panel);
  await noor.choose("Assignee", "Noor Bakri", panel);
  await noor.reads("Noor Bakri takes 1 item at most.");
  await ines.open(`/p/TIX/flow?item=${key}`);
  await ines.page.waitForSelector(`${panel} button[role=combobox]`);
  await ines.page.focus(`${panel} button[role=combobox]`);
  await ines.keys("Enter");
  await ines.reads(/Noor Bakri\s+\d+ in hand, \d+ over/, "[role=listbox]");
  await ines.keys("Escape");
  // A lead says why, over the page, or leaves it as it was.
  await ines.choose("Assignee", "Noor Bakri", panel);
  await ines.reads("Noor Bakri takes 1 item at most.", "[role=dialog]");
  await ines.keys("Escape");
  await ines.page.waitForSelector("[role=dialog]", { hidden: true });
  await ines.reads("Nobody yet", panel);
  await ines.choose("Assignee", "Noor Bakri", panel);
  await ines.fill("Why beyond the limit?", "Only she has the key");
  await ines.press("Go beyond it");
  await ines.page.waitForSelector("[role=dialog]", { hidden: true });
  await ines.reads("Noor Bakri", panel);
  await ines.press("Both");
  await ines.reads(/Only she has the key/, panel);
});

test("a fixed date is asked for where something gets that class", async () => {
  await ines.choose("Class", "fixed date", panel);
  await ines.reads("needs that date", "[role=dialog]");
  await ines.press("Store it so");
  await ines.reads("needs that date", "[role=dialog]");
  await ines.page.type("[role=dialog] input", "2027-02-01");
  await ines.press("Store it so");
  await ines.page.waitForSelector("[role=dialog]", { hidden: true });
  await ines.reads("fixed date", panel);
  await ines.page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLInputElement>("aside input")].some(({ value }) =>
      value.includes("2027-02-01"),
    ),
  );
});

test("what a column takes of one class stands in the cell where there are lanes of classes", async () => {
  const lane = 'section[aria-label="Lane Intangible"]';
  await ines.open("/p/TIX/flow?lanes=class%20of%20service");
  await ines.reads(/\d (of|over) ?1?/, `${lane} [data-column]:nth-child(2)`);
  await ines.page.waitForFunction(
    () => !/Intangible \d/.test(document.querySelector("[data-head]:nth-child(2)")!.textContent!),
  );
  await ines.open("/p/TIX/flow");
  await ines.reads(/Intangible \d/, "[data-head]:nth-child(2)");
});

test("what went beyond limits is listed by week, with who, what and why", async () => {
  await ines.open("/p/TIX/learn");
  const section = 'section[aria-label="Beyond limits"]';
  await ines.reads(/Waiting for review \d+/, section);
  await ines.press("the ", "//section[@aria-label='Beyond limits']");
  await ines.reads(/with at most \d/, section);
  await ines.click(`${section} li button`);
  await ines.press("Both");
  await ines.reads(/went beyond the (advised )?limit/, panel);
});

test("the limits that do not hold are opened from the pulse", async () => {
  await ines.click('button[aria-label$="broken: which"]');
  await ines.reads(/Noor Bakri\s+\d+ over/, '[aria-label="Limits that do not hold"]');
});
