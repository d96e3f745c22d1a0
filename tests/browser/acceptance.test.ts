import { closeDatabase } from "@/db/connection";
import { itemIn, TO_LIVE } from "../server/setup/board";
import { NOOR } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";
import { seriousFindings } from "./setup/axe";

/*
 * Work is shown to somebody without an account: they look, say what is missing, and accept; whoever showed it sees each
 * without reading it again.
 */

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let key: string;

beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  await itemIn(NOOR, "Choose the colour of the boat", ...TO_LIVE.slice(0, -1));
  ines = await browser.person(app.address(), "Ines Dahl");
});
afterAll(closeDatabase);

const mine = () => `.acceptance-row[data-key=${key}]`;
const MINE = `//li[contains(@class, "acceptance-row")][contains(., "Choose the colour of the boat")]`;

test("from the list it is shown to somebody by name, with words and what they see, and its address is copied", async () => {
  await ines.open("/p/TIX/ship/acceptance");
  await ines.reads("Choose the colour of the boat");
  key = await ines.page.$eval(
    `::-p-xpath(${MINE}//span[contains(@class, "key")])`,
    (e) => e.textContent!,
  );
  await ines.press("Show it to somebody …", MINE);
  const name = 'input[aria-label="Name of somebody without an account"]';
  await ines.page.waitForSelector(name);
  expect(await seriousFindings(ines)).toEqual([]);
  await ines.press("Show it to them");
  await ines.reads("Say whom it is shown to.");
  await ines.page.type(name, "Painter’s office");
  await ines.press("Add");
  await ines.reads("Painter’s office, address by hand");
  await ines.page.type(
    "::-p-xpath(//label[contains(., 'What you write')]//textarea)",
    "As you wished.",
  );
  await ines.press("Show it to them");
  await ines.reads("It is shown.");
  await ines.reads(/\/a\/[A-Za-z0-9_-]{32}/);
  await ines.press("Done");
  await ines.reads("no word for", mine());
});

test("on their page they say what is missing, and it comes back to be built; then they accept", async () => {
  const answer = await ines.page.evaluate(async () => {
    const asked = await fetch("/api/projects/TIX/ship/acceptance");
    return (await asked.json()) as { showings: { name: string; page: string | null }[] };
  });
  const { page } = answer.showings.find((one) => one.name === "Painter’s office")!;
  const painter = await browser.person(app.address());
  await painter.page.goto(app.address() + new URL(page!).pathname);
  await painter.reads("This is done: please have a look");
  await painter.reads("As you wished.");
  const text = await painter.text("main");
  expect(text).not.toMatch(/Ines|Noor|TIX-/);
  expect(await seriousFindings(painter)).toEqual([]);
  // A name first: the page leads to it.
  await painter.press("I accept it");
  await painter.reads("Type your name first");
  await painter.keys("O", "d", "i", "l");
  await painter.press("Something is missing …");
  await painter.keys("N", "o", " ", "r", "e", "d", ".");
  await painter.press("Say what is missing");
  await painter.reads("Odil said that something is missing");

  // Without anybody reading it again, and by the rule of the process.
  await ines.reads("No red.", mine());
  await ines.reads("Building", mine());

  await painter.press("I accept it");
  await painter.reads("Thank you, you accepted all of it");
  await ines.reads("accepted", `${mine()} .shown-to`);
  await ines.open(`/p/TIX/items/${key}`);
  await ines.reads("accepted by 1 of 1", 'section[aria-label="Acceptance"]');
  await ines.reads("No red.", 'section[aria-label="Acceptance"]');
});

test("taken back, the page says nothing any more", async () => {
  await ines.open("/p/TIX/ship/acceptance");
  const address = await ines.page.evaluate(async () => {
    const asked = await fetch("/api/projects/TIX/ship/acceptance");
    const { showings } = (await asked.json()) as { showings: { name: string; page: string }[] };
    return showings.find((one) => one.name === "Painter’s office")!.page;
  });
  await ines.page.click(`::-p-xpath(${MINE}//button[contains(@class, "shown-to")])`);
  await ines.press("Take back");
  await ines.reads("is taken back.");
  const painter = await browser.person(app.address());
  await painter.page.goto(app.address() + new URL(address).pathname);
  await painter.reads("This page was taken back");
  expect(await painter.text("main")).not.toContain("colour");
});

test("somebody with an account finds it on their day, and says their word there", async () => {
  const arthur = await browser.person(app.address(), "Arthur Quill");
  await arthur.open("/p/TIX/today");
  await arthur.reads("Ines Dahl shows it to you: do you accept it?");
  await arthur.page.click("::-p-xpath(//a[starts-with(normalize-space(.), 'Say your word')])");
  await arthur.reads("Waits for your word");
  await arthur.press("I accept it", '//section[@aria-label="Waits for your word"]');
  await arthur.reads("Shown to you");
  await arthur.page.close();
});
