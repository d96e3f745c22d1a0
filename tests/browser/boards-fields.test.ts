import { randomUUID } from "node:crypto";
import { mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import { closeDatabase } from "@/db/connection";
import { createItem } from "@/server/item/create";
import { send } from "../server/setup/board";
import { NOOR } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
let noor: Person;

beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  noor = await browser.person(app.address(), "Noor Bakri");
  ines = await browser.person(app.address(), "Ines Dahl");
});

afterAll(() => closeDatabase());

const design = (place: string) => ines.open(`/p/TIX/design?place=${place}`);
const within = (selector: string) => `//*[@${selector}]`;

test("a computed field is made, is wrong at the right character first, and is on the item and on its card at once", async () => {
  await design("fields");
  await ines.press("New field");
  await ines.fill("Name", "Value for each point");
  await ines.choose("It holds", "computed number");
  await ines.fill("Formula", "item.value_lost_per_week / item.estimat");
  await ines.reads(/Character 33: An item has no number “estimat”/);
  await ines.fill("Formula", "item.value_lost_per_week / item.estimate");
  await ines.click('::-p-xpath(//label[contains(., "on cards of the board")]/input)');
  await ines.press("Add the field");
  await ines.reads(
    "= item.value_lost_per_week / item.estimate",
    '[data-field="Value for each point"]',
  );
  await noor.open("/p/TIX/flow");
  await noor.press("New item");
  await noor.fill("What is to be done?", "Tickets for the night boat");
  await noor.fill("Value lost per week", "600");
  await noor.press("Add to the backlog");
  await noor.reads(/is at the end of the backlog/);
  const key = (await noor.text('[aria-label="New item"] [role="status"]')).match(/TIX-\d+/)![0];
  await noor.open(`/p/TIX/items/${key}`);
  await noor.reads("once its numbers are known");
  await noor.choose("Estimate", "3");
  await noor.reads("200", 'output[aria-label="Value for each point"]');
});

test("a field shows a value of the parent, and follows it on the page that is open", async () => {
  await design("fields");
  await ines.press("New field");
  await ines.fill("Name", "Above is due");
  await ines.choose("It holds", "value of something linked");
  await ines.choose("Of", "its parent");
  await ines.choose("It shows", "due date");
  await ines.reads("Shows due date of its parent.");
  await ines.press("Add the field");
  await ines.reads("due date of its parent", '[data-field="Above is due"]');
  const make = async (title: string, typeId: string, parentId: string | null) =>
    (
      await createItem(NOOR, {
        commandId: randomUUID(),
        projectKey: "TIX",
        parentId,
        fields: { title, typeId },
      })
    ).card;
  const parent = await make("Repaint the whole jetty", "story", null);
  const child = await make("Buy the paint", "task", parent.id);
  await noor.open(`/p/TIX/items/${child.key}`);
  const shown = 'output[aria-label="Above is due"]';
  await noor.reads("nothing to show", shown);
  await send(NOOR, parent.id, { kind: "edit", seenVersion: 1, changes: { dueOn: "2027-03-01" } });
  await noor.reads("1 Mar", shown);
});

test("a field is taken out and brought back with what items say in it", async () => {
  await design("fields");
  await ines.click('::-p-xpath(//li[@data-field="Route"]//button[.="Change"])');
  await ines.press("Take it out", within('data-field="Route"'));
  await ines.reads("Taken out, values kept:");
  await ines.click('::-p-xpath(//span[contains(., "Route")]/button[.="bring back"])');
  await ines.page.waitForSelector('[data-field="Route"]');
});

test("a type with its sign, its description and its own workflow from a template", async () => {
  await ines.open("/p/TIX/design");
  await ines.press("New workflow");
  await ines.click('::-p-xpath(//button[starts-with(normalize-space(.), "Repair")])');
  await ines.reads("The workflow is there; no type follows it yet.");
  await design("fields");
  await ines.press("New type");
  await ines.fill("Name", "Scanner repair");
  await ines.choose("It follows the workflow", "Repair");
  await ines.click('button[aria-label="buoy"]');
  await ines.fill("A new description begins with", "**Serial number**");
  await ines.press("Add the type");
  await ines.reads(/Repair/, '[data-type="Scanner repair"]');
  await noor.open("/p/TIX/plan");
  await noor.press("New item");
  await noor.choose("Type", "Scanner repair");
  await noor.fill("What is to be done?", "Scanner 4 fogs up");
  await noor.press("Add to the backlog");
  await noor.reads(/TIX-\d+ is at the end/);
});

test("a board by who has it: a drop gives the item to somebody, by mouse and by keyboard", async () => {
  await noor.open("/p/TIX/flow?board=tix-people");
  await noor.reads("Who has what", "h1");
  const key = await noor.page.$eval('[role=list][aria-label*="Nobody yet"] [data-key]', (e) =>
    e.getAttribute("data-key")!,
  );
  await noor.focusCard(key);
  await noor.keys("Space", "ArrowRight", "Space");
  await noor.page.waitForFunction(
    (k: string) =>
      !document
        .querySelector(`[data-key="${k}"]`)
        ?.closest("[role=list]")
        ?.getAttribute("aria-label")
        ?.includes("Nobody yet"),
    {},
    key,
  );
  await noor.press("Undo");
  await noor.waitForPlace(key, "Nobody yet ");
  await noor.drag(key, "Ivo Sandell ");
  await noor.waitForPlace(key, "Ivo Sandell ");
  await noor.open(`/p/TIX/items/${key}`);
  await noor.press("Both");
  await noor.reads(/set the assignee to Ivo Sandell/);
});

test("a free board is made, an item is put on it and stays, and its state does not change", async () => {
  await design("boards");
  await ines.press("New board");
  await ines.fill("Name", "To talk about");
  await ines.choose("Its columns are", "lists of our own");
  const rows = () =>
    ines.page.$$eval("[data-column-row]", (all) =>
      all.map((row) => row.getAttribute("data-column-row")),
    );
  // The new list's name is ready to be written over; two of one name are refused in words.
  await ines.press("Add a list");
  await ines.page.keyboard.type("Later");
  await ines.reads("Two lists are called “Later”.");
  await ines.page.keyboard.type(" still");
  await ines.page.waitForFunction(() => !document.body.innerText.includes("Two lists are called"));
  // By keys on its handle, and dragged.
  await ines.page.focus('button[aria-label^="Later still: drag it"]');
  await ines.keys("ArrowUp", "ArrowUp");
  expect(await rows()).toEqual(["Later still", "To look at", "Later"]);
  const middle = async (name: string) => {
    const handle = await ines.page.$(`button[aria-label^="${name}: drag it"]`);
    const box = (await handle!.boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [from, to] = [await middle("Later still"), await middle("Later")];
  await ines.page.mouse.move(from.x, from.y);
  await ines.page.mouse.down();
  await ines.page.mouse.move(from.x, from.y + 12, { steps: 3 });
  await ines.page.mouse.move(to.x, to.y, { steps: 8 });
  await ines.page.mouse.up();
  await ines.page.waitForFunction(
    () =>
      document.querySelectorAll("[data-column-row]")[2]?.getAttribute("data-column-row") ===
      "Later still",
  );
  await ines.press("Make the board");
  await ines.click('::-p-xpath(//a[.="To talk about"])');
  await ines.reads("Not placed yet", "aside");
  const key = await ines.page.$eval("aside [data-key]", (e) => e.getAttribute("data-key")!);
  await ines.drag(key, "To look at ");
  await ines.waitForPlace(key, "To look at ");
  await ines.page.reload();
  await ines.waitForPlace(key, "To look at ");
  await ines.open(`/p/TIX/items/${key}`);
  expect(await ines.text("main")).not.toMatch(/moved it from .* just now/);
});

test("a column that covers several states offers the moves in place", async () => {
  await design("boards");
  await ines.click('::-p-xpath(//li[@data-board="Everything"]//button[.="Change"])');
  await ines.click('button[aria-label="Take out Review waiting"]');
  await ines.reads("Without a column, so that items in it");
  await ines.choose("and…", "Waiting for review", '[data-column-row="Ready"]');
  await ines.press("Store the board");
  // The form closes once it is stored.
  await ines.page.waitForFunction(() => !document.querySelector("[data-column-row]"));
  await noor.open("/p/TIX/flow");
  const key = await noor.page.$eval(
    'section:last-of-type [role=list][aria-label$="Build building"] [data-key]',
    (e) => e.getAttribute("data-key")!,
  );
  await noor.drag(key, "Ready to pull");
  await noor.reads("Into Ready, to pull: which?");
  await noor.click('::-p-xpath(//button[contains(., "Put down")])');
  await noor.reads(`${key} is in Ready.`);
});

test("a column is dragged by its head to another place, for everybody at once", async () => {
  await ines.open("/p/TIX/flow");
  const order = (person: Person) =>
    person.page.$$eval('[data-part="head"] h2', (heads) =>
      heads.map((h) => (h as HTMLElement).innerText.split(" ")[0].trim()),
    );
  const before = await order(ines);
  const at = async (word: string) => {
    const box = await ines.page.$$eval(
      '[data-part="head"] h2',
      (heads, w) => {
        const r = heads
          .find((h) => (h as HTMLElement).innerText.startsWith(w))!
          .getBoundingClientRect();
        return { x: r.x + 20, y: r.y + 8 };
      },
      word,
    );
    return box;
  };
  const [from, to] = [await at("Deploy"), await at("Build")];
  await ines.page.mouse.move(from.x, from.y);
  await ines.page.mouse.down();
  await ines.page.mouse.move(from.x - 20, from.y, { steps: 3 });
  await ines.page.mouse.move(to.x, to.y, { steps: 12 });
  await ines.page.evaluate(
    () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
  );
  await ines.page.mouse.up();
  await ines.page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLElement>('[data-part="head"] h2')][1]?.innerText.startsWith(
      "Deploy",
    ),
  );
  await noor.page.waitForFunction(() =>
    [...document.querySelectorAll<HTMLElement>('[data-part="head"] h2')][1]?.innerText.startsWith(
      "Deploy",
    ),
  );
  expect((await order(ines)).toSorted()).toEqual(before.toSorted());
});

test("a card is put into another lane, by the pointer and by keys; a lane that takes none says why", async () => {
  await ines.open("/p/TIX/flow?lanes=priority");
  const lane = (name: string) => `section[aria-label="Lane ${name}"]`;
  const stands = (key: string, name: string) =>
    ines.page.waitForSelector(`${lane(name)} [data-key="${key}"]`);
  const key = await ines.page.$eval(
    `${lane("Normal")} .card:not([data-blocked=true])[data-compact=false]`,
    (e) => e.getAttribute("data-key")!,
  );
  await ines.carry(key, `${lane("Low")} .board-cell:nth-child(2)`);
  await stands(key, "Low");
  // Once it is stored nothing draws the card anew under the keys.
  await ines.reads(`${key}: Low.`);
  await ines.focusCard(key);
  await ines.keys(" ", "ArrowDown", " ");
  await stands(key, "Normal");
  // The way back of the step before is still on the screen until that of this one stands over it.
  await ines.reads(`${key}: Normal.`);
  await ines.press("Undo");
  await stands(key, "Low");

  const of = [
    { name: "Blocked", condition: { kind: "compare", fact: "blocked", op: "is", value: true } },
  ];
  const lanes = JSON.stringify({ by: { kind: "conditions", of } });
  await ines.open(`/p/TIX/flow?lanes=${encodeURIComponent(lanes)}`);
  await ines.page.waitForSelector(`${lane("Blocked")} .card`);
  await ines.carry(key, `${lane("Blocked")} .board-cell:nth-child(2)`, async () => {
    await ines.reads("no single change brings a card here", lane("Blocked"));
  });
  await ines.reads("It stays where it was.");
  await ines.keys("Escape");
  await stands(key, "Everything else");
});

test("columns and lanes are folded and hidden for oneself, and are so again on another day", async () => {
  await noor.open("/p/TIX/flow?lanes=assigneeId");
  const more = async (column: string, what: string) => {
    await noor.click(`[aria-label="More for ${column}"]`);
    await noor.click(`::-p-xpath(//*[@role="menuitem"][starts-with(., "${what}")])`);
  };
  await more("Test, waiting", "Fold to a strip");
  await noor.page.waitForSelector('.column-strip[aria-label^="Test, waiting, "]');
  await more("Live, 14 days", "Hide here");
  await noor.reads("1 column hidden, show");
  // It is stored once it was answered: what is opened before that is as it was.
  const stored = noor.page.waitForResponse(
    (answer) =>
      answer.request().method() === "POST" &&
      answer.request().postData()?.includes('"lanes":["') === true,
  );
  await noor.press("fold all but mine");
  await stored;
  const open = () =>
    noor.page.$$eval('[aria-expanded="true"][aria-label$=", fold"]', (all) => all.length);
  expect(await open()).toBe(1);
  await noor.open("/p/TIX/flow?lanes=assigneeId");
  expect(await open()).toBe(1);
  await noor.page.waitForSelector(".column-strip");
  await ines.open("/p/TIX/flow?lanes=assigneeId");
  expect(await ines.page.$(".column-strip")).toBeNull();
  await noor.press("open all");
  await noor.press("1 column hidden, show");
  await noor.click(".column-strip");
  await noor.page.waitForSelector('[aria-label="More for Live, 14 days"]');
  await noor.page.waitForFunction(() => !document.querySelector(".column-strip"));
});

test("what cards say is chosen; a mark follows what happens to its item; large or small is each machine's own", async () => {
  await noor.open("/p/TIX/flow");
  const first = ".card[data-compact=false]:not([data-expedite=true])";
  const cards = async () => noor.click('button[aria-label^="On cards"]');
  await cards();
  await noor.press("Say something else");
  await noor.click('::-p-xpath(//*[@role="menuitem"][.="priority"])');
  await noor.reads(/priority (low|normal|high|urgent)/, first);
  await noor.press("Add a mark");
  await noor.click('::-p-xpath(//*[@role="menuitem"][.="waits for us"])');
  await noor.page.waitForSelector('[data-mark="waits for us"]');
  await noor.choose("On this machine, for me", "small");
  await noor.page.waitForFunction(() => !document.querySelector(".card[data-compact=false]"));
  await noor.choose("On this machine, for me", "as the view says");
  await noor.page.waitForSelector(first);
  await noor.keys("Escape");
  await noor.page.reload();
  await noor.page.waitForSelector("html[data-ready]");
  await noor.reads(/priority (low|normal|high|urgent)/, first);
  await noor.page.waitForSelector('[data-mark="waits for us"]');
  await cards();
  await noor.press("the usual cards again");
  await noor.page.waitForFunction(() => !document.querySelector("[data-mark]"));
});

test("a board stands alone, grows, and comes back", async () => {
  await ines.open("/p/TIX/flow");
  const width = () =>
    ines.page.$eval(".card[data-compact=false]", (e) => e.getBoundingClientRect().width);
  await ines.keys("v");
  await ines.page.waitForFunction(
    () => !document.querySelector<HTMLElement>("header")?.offsetParent,
  );
  await ines.keys("+", "+");
  await ines.reads("150 %");
  expect(await width()).toBeGreaterThan(200);
  await ines.keys("v");
  await ines.page.waitForFunction(() => document.querySelector("header")?.offsetHeight === 48);
});

test("a workflow goes out as a file and comes in again; a bad file is told and changes nothing", async () => {
  const folder = mkdtempSync(path.join(os.tmpdir(), "zigzag-files-"));
  await ines.open("/p/TIX/design");
  const text = await ines.page.evaluate(() =>
    fetch("/api/projects/TIX/workflow/export?workflow=tix-main&format=scxml").then((r) => r.text()),
  );
  const [good, bad] = [path.join(folder, "process.scxml"), path.join(folder, "bad.scxml")];
  writeFileSync(good, text);
  writeFileSync(bad, "<!DOCTYPE x><scxml/>");
  expect(readFileSync(good, "utf8")).toContain("Waiting for review");
  await ines.press("New workflow");
  const input = async () =>
    (await ines.page.waitForSelector('input[type="file"]')) as unknown as {
      uploadFile: (file: string) => Promise<void>;
    };
  await (await input()).uploadFile(bad);
  await ines.reads("document type declaration");
  await (await input()).uploadFile(good);
  await ines.reads("All 10 states and", '[aria-label="New workflow"]');
  await ines.press("Look at it");
  await ines.page.waitForSelector(".react-flow__node");
});

test("a move that happens by itself is chosen on the map, and a source of events shows its secret once", async () => {
  await ines.open("/p/TIX/design");
  await ines.click('.react-flow__node [data-state="Building"]');
  await ines.page.waitForSelector('[data-inspects="Building"]');
  await ines.click('::-p-xpath(//section//li//button[starts-with(., "Hand to review →")])');
  await ines.choose("As soon as…", "it is deployed");
  await ines.fill("Environment", "staging");
  await ines.keys("Enter");
  await ines.reads("it is deployed to staging", '[aria-label="It happens by itself when"]');
  await ines.reads("draft stored");
  await ines.press("Throw the draft away");
  await design("events");
  await ines.fill("Another source", "Pipeline");
  await ines.press("Add it");
  await ines.reads(/whsec_[A-Za-z0-9+/=]{40,}/);
  await ines.press("I have noted it");
  await ines.reads("not heard yet", '[data-source="Pipeline"]');
  expect(await ines.text("main")).not.toContain("whsec_");
});

describe("what has finished", () => {
  /** Everything finished of the board that is open, as the application tells it. */
  const finished = () =>
    noor.page.evaluate(async () => {
      const ask = async (path: string) => (await fetch(`/api/projects/TIX/board${path}`)).json();
      const { board } = await ask("");
      const { cards } = await ask(`/finished?board=${board.id}`);
      return (cards as { typeId: string; key: string }[]).map(({ typeId, key }) => ({
        typeId,
        key,
      }));
    });
  /** How many the column shows, and how many more it says there are. */
  const inColumn = () =>
    noor.page.$$eval('[data-part="finished"]', (cells) => {
      const cell = (cells as HTMLElement[]).findLast((c) => c.querySelector("[data-key]"))!;
      const more = /and (\d+) more/.exec(cell.innerText)?.[1] ?? "0";
      return cell.querySelectorAll("[data-key]").length + Number(more);
    });

  test("is a number and the latest cards; behind the number are all of them", async () => {
    await noor.open("/p/TIX/flow");
    const all = await finished();
    const drawn = await noor.page.evaluate(async () => {
      const { cards } = await (await fetch("/api/projects/TIX/board")).json();
      return (cards as { stateKind: string }[]).filter((c) => c.stateKind === "finished").length;
    });
    expect(drawn).toBeLessThan(all.length);
    expect(await inColumn()).toBe(all.length);
    await noor.press(`${all.length} finished`);
    await noor.reads(`${all.length} items`, 'aside[aria-label="Finished in the last 14 days"]');
  });

  test("a filter looks at all of it", async () => {
    await noor.open("/p/TIX/flow");
    await noor.narrow("type bug");
    const bugs = (await finished()).filter((c) => c.typeId === "bug").length;
    await noor.page.waitForFunction(
      (wanted: number) => {
        const cells = [...document.querySelectorAll<HTMLElement>('[data-part="finished"]')];
        const cell = cells.findLast((c) => c.querySelector("[data-key]"));
        const more = /and (\d+) more/.exec(cell?.innerText ?? "")?.[1] ?? "0";
        return cell && cell.querySelectorAll("[data-key]").length + Number(more) === wanted;
      },
      {},
      bugs,
    );
    expect(bugs).toBeGreaterThan(3);
  });
});
