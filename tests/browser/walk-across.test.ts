import { closeDatabase } from "@/db/connection";
import { readItem } from "@/server/item/read";
import { itemIn } from "../server/setup/board";
import { INES, NOOR } from "../server/setup/people";
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

const titleSeenBy = (person: Person) =>
  person.page.$eval("[data-walk-item] article", (article) => article.getAttribute("aria-label")!);

describe("a board is walked together", () => {
  test("by keys from the end backwards; who follows sees the same item", async () => {
    await ines.open("/p/TIX/flow");
    await ines.keys("w");
    await ines.press("Begin with");
    await ines.reads("Ines Dahl leads");
    await noor.open("/p/TIX/flow/walk");
    await noor.reads("Everybody who opens this page comes along.");
    await ines.keys("ArrowRight");
    await ines.page.waitForSelector("[data-walk-item] article");
    const first = await titleSeenBy(ines);
    await noor.page.waitForSelector(`[data-walk-item] article[aria-label="${first}"]`);
    await ines.keys("ArrowRight");
    await noor.page.waitForFunction(
      (before: string) =>
        document.querySelector("[data-walk-item] article")?.getAttribute("aria-label") !== before,
      {},
      first,
    );
    expect(await titleSeenBy(noor)).toBe(await titleSeenBy(ines));
  });

  test("what is agreed on stands among the comments; what is left opens the next walk", async () => {
    const key = (await titleSeenBy(ines)).split(" ")[0];
    await ines.keys("n");
    await ines.fill("What is agreed on", "Noor rings the quay office");
    await ines.choose("Who does it", "Noor Bakri");
    await ines.press("Agreed");
    await noor.reads("Noor rings the quay office", '[aria-label="Agreed so far"]');
    await ines.keys("l");
    await ines.fill("What is to be talked about", "Who pays for visitors?");
    await ines.press("Leave it for later");
    await ines.reads("Who pays for visitors?", '[aria-label="To talk about later"]');
    const { comments } = (await readItem(INES, key)).talk;
    expect(comments.at(-1)).toMatchObject({
      body: "Noor rings the quay office",
      agreed: { owner: "Noor Bakri", dueOn: null },
    });
    // Noor takes the lead by going on.
    await noor.keys("j");
    await ines.reads("Noor Bakri leads");
    await ines.press("End it");
    await ines.reads("Who pays for visitors?", '[aria-label="Left for this time"]');
    await noor.reads("Walks before");
    await ines.open(`/p/TIX/items/${key}`);
    await ines.page.waitForSelector("[data-agreed]");
  });
});

describe("above the projects", () => {
  test("a team's items of all projects stand together, and a drop moves one in its own workflow", async () => {
    const id = await itemIn(NOOR, "Moved from above", "Ready");
    await ines.open("/p/TIX/flow");
    await ines.press("Ticket app");
    await ines.click('::-p-xpath(//*[@role="menuitem"][contains(., "Across the projects")])');
    await ines.page.waitForFunction(() => location.pathname === "/across/mine");
    await ines.reads("Nothing is yours just now.");
    await ines.click(
      'nav[aria-label="Places above the projects"] a[href="/across/team-ticketing"]',
    );
    await ines.page.waitForFunction(() => location.pathname === "/across/team-ticketing");
    await ines.reads(/TIX-\d+/);
    const { key, item } = await readItem(INES, await keyOf(id));
    const command = {
      kind: "edit",
      seenVersion: item.version,
      changes: { teamId: "ticketing", assigneeId: "noor" },
    };
    await ines.page.evaluate(
      (itemId: string, asked: object) =>
        fetch("/api/items/commands", {
          method: "POST",
          headers: { "Content-Type": "application/json" },
          body: JSON.stringify({ commandId: crypto.randomUUID(), itemId, command: asked }),
        }),
      id,
      command,
    );
    const card = `[data-key="${key}"]`;
    await ines.page.waitForSelector(card);
    await ines.page.focus(card);
    await ines.keys("]");
    await ines.page.waitForFunction(
      (at: string) => document.querySelector(at)?.closest('[data-part="working"]') !== null,
      {},
      card,
    );
    await ines.reads(`${key} is in Building.`);
  });

  test("nothing is dropped where that would mean nothing, and what is below a large piece is listed", async () => {
    await ines.open("/across/team-ticketing?board=levels");
    const [card] = await ines.page.$$('[data-key^="TIX-"]');
    await card.focus();
    await ines.keys("]");
    await ines.reads("An item keeps its level");
    await ines.keys("Escape");
    await ines.click('[data-part="children"]');
    await ines.reads(/Below TIX-\d+/);
    await ines.page.waitForSelector('aside[aria-label^="Below TIX-"] .key');
  });

  test("a group of projects is made, looked at as a table, and put away", async () => {
    await ines.open("/across/mine");
    await ines.press("Groups…");
    await ines.fill("New group", "All boats");
    await ines.click(
      '::-p-xpath(//form[.//button[contains(., "Make the group")]]//button[starts-with(@aria-label, "Projects")])',
    );
    await ines.click('::-p-xpath(//*[@role="group"]//label[contains(., "Timetables")]/input)');
    await ines.keys("Escape");
    await ines.press("Make the group");
    await ines.reads("All boats is a place of its own now.");
    await ines.keys("Escape");
    await ines.click(
      '::-p-xpath(//nav[@aria-label="Places above the projects"]//a[contains(., "All boats")])',
    );
    await ines.page.waitForFunction(() => location.pathname.startsWith("/across/group-"));
    await ines.reads(/TIDE-\d+/);
    await ines.press("Groups…");
    await ines.click(
      '::-p-xpath(//form[.//input[@value="All boats"]]//button[contains(., "Put away")])',
    );
    await ines.reads("All boats is put away.");
    await ines.reads("bring back");
  });
});

async function keyOf(id: string): Promise<string> {
  const found = await ines.page.evaluate(async (itemId: string) => {
    const answer = await fetch("/api/projects/TIX/board");
    const { cards } = (await answer.json()) as { cards: { id: string; key: string }[] };
    return cards.find((card) => card.id === itemId)!.key;
  }, id);
  return found;
}
