import { mkdtempSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let noor: Person;
beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  noor = await browser.person(app.address(), "Noor Bakri");
});

const design = async (place: string) => {
  await ines.open(`/p/TIX/design?place=${place}`);
  await ines.page.waitForSelector('nav[aria-label="What is designed"]');
};
const file = (name: string, text: string) => {
  const at = path.join(mkdtempSync(path.join(os.tmpdir(), "zigzag-lost-")), name);
  writeFileSync(at, text);
  return at;
};

test("a file that cannot be read is said where the eye is, wherever the list was scrolled to", async () => {
  await ines.open("/p/TIX/design");
  await ines.press("New workflow");
  const input = (await ines.page.waitForSelector(
    'input[type="file"]',
  )) as ElementHandle<HTMLInputElement>;
  await input.evaluate((e) => e.closest("label")!.scrollIntoView({ block: "end" }));
  await input.uploadFile(file("bad.scxml", "<!DOCTYPE x><scxml/>") as never);
  await ines.reads("document type declaration");
  const covered = await ines.page.evaluate(() => {
    const note = [...document.querySelectorAll("[role=alert],[role=status]")].find((e) =>
      e.textContent!.includes("document type declaration"),
    )!;
    const { top, bottom, left, right } = note.getBoundingClientRect();
    const at = document.elementFromPoint((left + right) / 2, (top + bottom) / 2);
    return top < 0 || bottom > innerHeight || !note.contains(at);
  });
  expect(covered).toBe(false);
  await ines.keys("Escape");
});

test("the states of a type's other workflow are said and come onto the board; what no column shows is said and put on", async () => {
  await ines.press("New workflow");
  await ines.click('::-p-xpath(//button[starts-with(normalize-space(.), "Repair")])');
  await ines.reads("The workflow is there");
  await design("fields");
  await ines.click('::-p-xpath(//*[@data-type="Request"]//button[.="Change"])');
  await ines.choose("It follows the workflow", "Repair");
  await ines.reads("a new column");
  await ines.press("Store the type");
  await ines.reads("Repair", '[data-type="Request"]');
  await noor.open("/p/TIX/flow");
  // Its items stand where they went, in a column that was not there before.
  await noor.page.waitForSelector('[role=list][aria-label*="Look"]');
  expect(await noor.page.evaluate(() => document.body.innerText)).not.toContain("in no column");
  // A lead takes the columns off again: what stands in them is said and put back by a click.
  const view = await ines.page.evaluate(async () => {
    const of = (path: string) => fetch(`/api/projects/TIX/${path}`).then((r) => r.json());
    const { boards, workflows } = await of("workflow");
    const repair = workflows.find((w: { name: string }) => w.name.startsWith("Repair"));
    const [board] = boards;
    const own = new Set(repair.states.map((s: { id: string }) => s.id));
    const columns = board.columns.filter(
      (c: { stateIds: string[] }) => !c.stateIds.some((id) => own.has(id)),
    );
    const sent = await fetch("/api/projects/TIX/boards", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({
        kind: "save",
        board: { ...board, columns },
        seenVersion: board.version,
      }),
    });
    return { status: sent.status, answer: await sent.text() };
  });
  expect(view).toMatchObject({ status: 200 });
  await noor.reads(/\d+ items? in no column/);
  await ines.open("/p/TIX/plan");
  await ines.reads(/\d+ items? in no column/);
  await ines.press("put on the board");
  await ines.reads("The board shows them now.");
  await noor.page.waitForSelector('[role=list][aria-label*="Look"]');
  await noor.page.waitForFunction(() => !document.body.innerText.includes("in no column"));
});

test("one limit of a state: what is set in the process stands in the limits and on the board, and the other way round", async () => {
  const maximum = (label: string) =>
    ines.page.$eval(`[aria-label="${label}"]`, (e) => (e as HTMLInputElement).value);
  await ines.open("/p/TIX/design");
  await ines.page.waitForSelector(".react-flow__node");
  await ines.click('.react-flow__node [data-state="Building"]');
  await ines.page.waitForSelector('[data-inspects="Building"]');
  await ines.fill("At most, items", "2");
  await ines.keys("Enter");
  await ines.choose("The maximum is", "firm");
  await ines.reads("draft stored");
  await ines.press("Review and publish");
  await ines.press("Publish version");
  await ines.reads(/Version \d+ is in force/);
  await noor.reads(/over\s*, firm limit/);
  await design("boards");
  await ines.page.waitForSelector('[aria-label="Maximum of Build, building"]');
  expect(await maximum("Maximum of Build, building")).toBe("2");
  await ines.fill("Maximum of Build, building", "30");
  await ines.keys("Enter");
  await ines.reads(/of 30/, '[data-column="Build, building"]');
  await design("process");
  await ines.page.waitForSelector(".react-flow__node");
  await ines.click('.react-flow__node [data-state="Building"]');
  await ines.page.waitForSelector('[data-inspects="Building"]');
  expect(
    await ines.page.$$eval("label", (all) =>
      all
        .filter((l) => l.textContent!.startsWith("At most, items"))
        .map((l) => l.querySelector("input")!.value),
    ),
  ).toEqual(["30"]);
});

test("a parking that breaks a promise says so first, and a report that sounds like a hole in security is kept to few", async () => {
  await ines.open("/p/TIX/intake");
  await ines.page.waitForSelector("article h2");
  await ines.keys("p");
  await ines.fill("Look at it again on", "2029-01-10");
  await ines.keys("Tab");
  await ines.reads(/Parking until then breaks the promise “.+”: it is due on/);
  await ines.press("Back to reading");
  await ines.open("/p/TIX/intake?report=R-TX276");
  await ines.reads("it may be a hole in security", "article");
  await ines.keys("m");
  await ines.page.waitForSelector('form[aria-label="Merge"]');
  expect(
    await ines.page.$('::-p-xpath(//form//button[@type="submit"][not(@disabled)])'),
  ).toBeNull();
  // Letters look for an item at once; they are no keys of the desk.
  await ines.page.keyboard.type("offline gannet");
  await ines.reads(/TIX-743 Tickets bought offline/, '[role="listbox"]');
  await ines.keys("Enter");
  await ines.reads(/TIX-743/, 'form[aria-label="Merge"]');
  await ines.page.waitForFunction(() =>
    document.activeElement?.getAttribute("aria-label")?.includes("TIX-743"),
  );
  await ines.keys("Escape", "a");
  await ines.reads("Restricted", 'form[aria-label="Accept"]');
  await ines.chord("Control", "Enter");
  await ines.reads(/R-TX276 is accepted as TIX-\d+/);
  const key = (await ines.text("[data-sonner-toast]")).match(/TIX-\d+/)![0];
  await noor.open(`/p/TIX/items/${key}`);
  expect(await noor.page.evaluate(() => document.body.innerText)).not.toContain(
    "I can open tickets",
  );
});
