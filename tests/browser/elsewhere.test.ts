import { closeDatabase } from "@/db/connection";
import { readItem } from "@/server/item/read";
import { INES } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { onBoard } from "./setup/on-board";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let tomas: Person;
beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  [ines, tomas] = await Promise.all([
    browser.person(app.address(), "Ines Dahl"),
    browser.person(app.address(), "Tomas Kerr"),
  ]);
});
afterAll(() => closeDatabase());

/** Chooses in the menu of the item that is open. */
async function inMenu(person: Person, key: string, words: string): Promise<void> {
  await person.click(`button[aria-label="More for ${key}"]`);
  await person.click(`::-p-xpath(//*[@role="menuitem"][contains(., "${words}")])`);
}
const path = (person: Person) => person.page.evaluate(() => location.pathname);
const leads = (person: Person, wanted: RegExp) =>
  person.page.waitForFunction((p: string) => new RegExp(p).test(location.href), {}, wanted.source);

test("an item moves to another project before the eyes of both, is found by its old key, and comes back", async () => {
  const { key } = await onBoard(tomas, "Say at the gate why a ticket is refused");
  await ines.open("/p/TIX/flow");
  await ines.page.waitForSelector(`[data-key="${key}"]`);
  await tomas.open(`/p/TIX/items/${key}`);
  await inMenu(tomas, key, "Move to another project");
  await tomas.choose("To the project", "Quay gates");
  await tomas.reads(`It gets a key of GATE, and ${key} keeps leading to it.`);
  await tomas.press("Move it to Quay gates");
  await tomas.reads(/is in Quay gates now, as GATE-\d+\./);
  await ines.page.waitForFunction(
    (at: string) => !document.querySelector(at),
    {},
    `[data-key="${key}"]`,
  );
  const { key: there } = await readItem(INES, key);
  await ines.open(`/p/TIX/items/${key}`);
  expect(await path(ines)).toBe(`/p/GATE/items/${there}`);
  await ines.press("Both");
  await ines.reads(`moved it to another project: it was ${key} and is ${there} now`);
  await tomas.press("Undo");
  await ines.reads("undid the step");
  expect((await readItem(INES, there)).key).toBe(key);
});

test("a link reaches an item of another project, says who has it, and can be put back", async () => {
  const { key } = await onBoard(tomas, "Show the quay on the ticket");
  const { key: other } = await readItem(INES, "GATE-1");
  await tomas.open(`/p/TIX/items/${key}`);
  await tomas.link("is waited for by", other);
  const links = "[aria-label=Links]";
  await tomas.reads(/is waited for by\s+GATE-1/, links);
  await tomas.click(`button[aria-label="Take away the link to ${other}"]`);
  await tomas.reads(`${key} is not linked to ${other} any more.`);
  await tomas.press("Undo");
  await tomas.reads(/is waited for by\s+GATE-1/, links);
  await ines.open(`/p/GATE/items/${other}`);
  await ines.reads(new RegExp(`waits for\\s+${key}`), links);
});

test("children are of any smaller type, are put in order, and become items of their own", async () => {
  const { key } = await onBoard(tomas, "A piece with parts");
  await tomas.open(`/p/TIX/items/${key}`);
  const children = "[aria-label=Children]";
  const titles = () =>
    tomas.page.$$eval(`${children} li`, (all) => all.map((li) => li.textContent ?? ""));
  for (const title of ["Wire it", "Test the wire"]) {
    await tomas.fill("New child", title);
    await tomas.press("Add task");
    await tomas.reads(title, children);
  }
  expect((await titles()).map((t) => t.startsWith("Wire it"))).toEqual([true, false]);
  const { children: stored } = await readItem(INES, key);
  await inMenu(tomas, stored[1].key, "One up");
  await tomas.page.waitForFunction(
    (at: string) => document.querySelector(at)?.textContent?.startsWith("Test the wire"),
    {},
    `${children} li`,
  );
  await inMenu(tomas, stored[0].key, "Make it an item of its own");
  await tomas.press("Let it go");
  await tomas.reads(`${stored[0].key} is an item of its own now, of type Story.`);
  const alone = await readItem(INES, stored[0].key);
  expect([alone.parent, alone.item.typeId]).toEqual([null, "story"]);
  await tomas.click(`::-p-xpath(//section[@aria-label="Children"]//button[.="${stored[1].key}"])`);
  await leads(tomas, new RegExp(stored[1].key));
});

test("a project is put away, read, and brought back", async () => {
  await ines.open("/p/TIDE/design?place=project");
  await ines.press("Put it away");
  await ines.click('::-p-xpath(//*[@role="dialog"]//button[.="Put it away"])');
  await ines.reads("This project was put away");
  await ines.open("/p/TIDE/flow");
  await ines.reads("it can be read, and nothing of it changes");
  await ines.press("Timetables");
  await ines.reads("Put away", "[role=menu]");
  await ines.keys("Escape");
  await ines.press("Bring it back");
  await ines.reads("Timetables is back.");
  await ines.page.waitForFunction(() => !document.body.innerText.includes("was put away on"));
});
