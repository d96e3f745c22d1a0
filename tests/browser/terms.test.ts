import { closeDatabase } from "@/db/connection";
import { readItem } from "@/server/item/read";
import { readFreePlaces } from "@/server/item/terms/free-places";
import { readTerms } from "@/server/item/terms/read";
import { INES } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { onBoard } from "./setup/on-board";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let noor: Person;
beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  [ines, noor] = await Promise.all([
    browser.person(app.address(), "Ines Dahl"),
    browser.person(app.address(), "Noor Bakri"),
  ]);
});
afterAll(() => closeDatabase());

const termOf = async (name: string) =>
  (await readTerms(INES, "TIX")).terms.find((term) => term.name === name);
const labelsOf = async (key: string) => (await readItem(INES, key)).item.labels;

test("a label is described, said, renamed before everybody's eyes, followed and retired", async () => {
  await ines.open("/p/TIX/design?place=terms");
  await ines.press("New label");
  await ines.fill("Name", "low bridge");
  await ines.fill("What it means", "No boat with a mast gets under it.");
  await ines.click('button[aria-label="arrow"]');
  await ines.press("Make it");
  await ines.reads("No boat with a mast gets under it.", '[data-term="low bridge"]');
  expect(await termOf("low bridge")).toMatchObject({ sign: "arrow", described: true, items: 0 });

  const { key } = await onBoard(noor, "Measure the mast");
  await noor.open(`/p/TIX/items/${key}`);
  // A few letters are enough, and a new word is one of its own; a comma is part of it.
  await noor.addTerms("labels", "LOW BRI", "masts, spars");
  expect(await labelsOf(key)).toEqual(["low bridge", "masts, spars"]);

  await ines.reads("1 item", '[data-term="low bridge"]');
  await ines.click('button[aria-label="Change low bridge"]');
  await ines.fill("Name", "lifting bridge");
  await ines.reads("It is called so on 1 item");
  await ines.press("Store it");
  await ines.reads("Before: low bridge.", '[data-term="lifting bridge"]');
  await noor.reads("lifting bridge", '[role=group][aria-label="labels"]');
  expect(await labelsOf(key)).toEqual(["lifting bridge", "masts, spars"]);

  await ines.press("Follow", '//li[@data-term="lifting bridge"]');
  await ines.reads("Following", '[data-term="lifting bridge"]');
  await ines.click('button[aria-label="Change lifting bridge"]');
  await ines.press("Retire it");
  await ines.reads("“lifting bridge” is not offered any more.");
  await noor.click(
    '[role=group][aria-label="labels"] button[aria-label="Take off lifting bridge"]',
  );
  await noor.click('[role=group][aria-label="labels"] .term-add');
  await noor.page.waitForSelector(".combobox-text");
  await noor.page.type(".combobox-text", "Lifting bridge");
  await noor.reads("It has that one already, or it is not used any more.");
  await noor.keys("Escape");
});

test("places as people wrote them are put to a part by a lead, their items with them", async () => {
  await ines.open("/p/TIX/design?place=terms");
  const before = (await readFreePlaces(INES, "TIX")).places.find(
    ({ place }) => place === "Heron island",
  )!;
  await ines.choose(`Heron island, ${before.items} items, belongs to`, "Sailings in the app");
  await ines.reads(/items? put to the part Sailings in the app/);
  const part = (await termOf("Sailings in the app"))!;
  expect(part.places).toContain("Heron island");
  await ines.page.waitForFunction(
    () => ![...document.querySelectorAll("td")].some((cell) => cell.innerText === "Heron island"),
  );
  await ines.open("/p/TIX/plan/parts?part=Sailings+in+the+app");
  await ines.reads(`${part.items} items in a table`);
  await ines.reads(String(part.open), "section[aria-label=Open] h3");
  await ines.click("section[aria-label=Open] li .key");
  await ines.page.waitForSelector('aside[aria-label^="Item TIX-"]');
});

test("what leads changed stands in the history of the design, for leads", async () => {
  await ines.open("/p/TIX/design?place=history");
  await ines.reads("Ines Dahl renamed the label “low bridge” to “lifting bridge”, on 1 item");
  await noor.open("/p/TIX/design?place=history");
  await noor.reads("Process");
  expect(await noor.page.$$eval("nav button", (all) => all.map((b) => b.innerText))).not.toContain(
    "History",
  );
});
