import { eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { closeDatabase, database } from "@/db/connection";
import { board as boards, item } from "@/db/schema";
import { editBoards } from "@/server/board/boards";
import { commandItem } from "@/server/item/command";
import { stateId } from "../server/setup/board";
import { INES } from "../server/setup/people";
import { givenApplication } from "./setup/application";
import { holdAnswers } from "./setup/held-requests";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let noor: Person;
beforeAll(async () => {
  process.env.DATABASE_URL = app.databaseUrl();
  noor = await browser.person(app.address(), "Noor Bakri");
});
afterAll(() => closeDatabase());

const LINE = ".add-line input, .add-line textarea";
const waitsFor = (words: string, column: string) =>
  noor.page.waitForFunction(
    (wanted: string, where: string) =>
      [...document.querySelectorAll<HTMLElement>("[data-column]:not([data-head])")].some(
        (cell) =>
          cell.querySelector("[role=list]")?.getAttribute("aria-label")?.includes(where) &&
          [...cell.querySelectorAll<HTMLElement>("[data-key]")].some((card) =>
            card.innerText.includes(wanted),
          ),
      ),
    {},
    words,
    column,
  );
const paste = (text: string) =>
  noor.page.$eval(
    LINE,
    (field, pasted) => {
      const clipboardData = new DataTransfer();
      clipboardData.setData("text/plain", pasted);
      field.dispatchEvent(
        new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true }),
      );
    },
    text,
  );

test("items are added by keys where a card stands: a title, Enter, the next", async () => {
  await noor.open("/p/TIX/flow");
  const [card] = await noor.page.$$("[data-part=waiting] [data-key]");
  await card.focus();
  await noor.keys("a");
  await noor.page.waitForSelector(LINE);
  await noor.reads("as", ".add-line");
  await noor.page.keyboard.type("Polish the gangway bell");
  await noor.keys("Enter");
  await waitsFor("Polish the gangway bell", "Ready");
  await noor.reads("is added", ".add-line");
  await noor.page.keyboard.type("Oil the quay winch");
  await noor.keys("Enter");
  await waitsFor("Oil the quay winch", "Ready");
  await noor.keys("Escape");
  await noor.page.waitForFunction((line: string) => !document.querySelector(line), {}, LINE);
});

test("what a filter asks for is filled in, and where that cannot be, it is said before Enter", async () => {
  await noor.open("/p/TIX/flow");
  await noor.narrow("ruth");
  await noor.click('[aria-label="Add at the head of Ready, to pull"]');
  await noor.page.waitForSelector(LINE);
  await noor.page.type(LINE, "Charge the scanner at Gannet quay");
  await noor.keys("Enter");
  await waitsFor("Charge the scanner at Gannet quay", "Ready");
  const [made] = await database()
    .select()
    .from(item)
    .where(eq(item.title, "Charge the scanner at Gannet quay"));
  expect(made.assigneeId).toBe("ruth");
  // Nothing new is old already.
  await noor.open("/p/TIX/flow");
  await noor.click('[aria-label="Add at the head of Build, building"]');
  await noor.reads("no move leads from Backlog", ".add-line");
  await noor.keys("Escape");
});

test("lines that are pasted become an item each; too many are refused and stay", async () => {
  await noor.open("/p/TIX/flow");
  await noor.click('[aria-label="Add at the head of Ready, to pull"]');
  await noor.page.waitForSelector(LINE);
  await noor.reads("as", ".add-line");
  await paste("- Lash the life rafts\n- Sweep the car deck");
  await noor.press("Add 2 items");
  await waitsFor("Lash the life rafts", "Ready");
  await waitsFor("Sweep the car deck", "Ready");
  await noor.reads("2 items are added", ".add-line");
  await paste("a line\n".repeat(5_000));
  await noor.reads("5,000 lines", ".add-line");
  await noor.press("Add 5,000 items");
  await noor.reads("5,000 lines", ".add-line [role=alert]");
  expect(await noor.page.$eval(LINE, (field) => (field as HTMLTextAreaElement).value.length)).toBe(
    "a line\n".repeat(5_000).trim().length,
  );
});

test("a group of a table takes items by what its items share", async () => {
  await noor.open("/p/TIX/flow?as=table&groups=priority");
  await noor.page.waitForSelector("[data-group=low]");
  await noor.click('[aria-label="Add at the head of low"]');
  await noor.page.waitForSelector(LINE);
  await noor.reads("as", ".add-line");
  await noor.page.type(LINE, "Salt the icy slipway");
  await noor.keys("Enter");
  await noor.reads("is added", ".add-line");
  const [made] = await database().select().from(item).where(eq(item.title, "Salt the icy slipway"));
  expect(made.priority).toBe("low");
});

test("an item that is there joins a free board by words of its title", async () => {
  const board = newId();
  const column = { stage: "Soon", name: "", part: "waiting" as const, stateIds: [] };
  await editBoards(INES, "TIX", {
    kind: "save",
    seenVersion: 0,
    board: {
      id: board,
      name: "Talks",
      columnsBy: "free",
      scope: null,
      columns: [{ id: newId(), ...column }],
    },
  });
  await noor.open(`/p/TIX/flow?board=${board}`);
  await noor.click('[aria-label="Add at the head of Soon"]');
  const join = 'input[aria-label="An item that is there already"]';
  await noor.page.waitForSelector(join);
  await noor.page.type(join, "icy slipway");
  await noor.page.waitForSelector(".add-line li button");
  await noor.keys("Enter");
  await waitsFor("Salt the icy slipway", "Soon");
});

test("a column with many cards draws those in sight, and the others as they come into it", async () => {
  const board = newId();
  await editBoards(INES, "TIX", {
    kind: "save",
    seenVersion: 0,
    board: { id: board, name: "Priorities", columnsBy: "priority", scope: null, columns: [] },
  });
  await noor.open(`/p/TIX/flow?board=${board}`);
  const open = await noor.page.evaluate(async (id: string) => {
    const { cards } = await (await fetch(`/api/projects/TIX/board?board=${id}`)).json();
    return (cards as { id: string; priority: string; classOfService: string }[])
      .filter((card) => card.priority === "normal" && card.classOfService !== "expedite")
      .map((card) => card.id);
  }, board);
  const drawn = () =>
    noor.page.$$eval("[data-board-area] [data-card]", (all) =>
      all.map((card) => card.getAttribute("data-card")!),
    );
  expect(open.length).toBeGreaterThan(40);
  const last = open.at(-1)!;
  const first = await drawn();
  expect(first).toContain(open[0]);
  expect(first).not.toContain(last);
  await noor.page.$eval("[data-board-area]", (area) => area.scrollTo(0, area.scrollHeight));
  await noor.page.waitForSelector(`[data-board-area] [data-card="${last}"]`);
  expect(await drawn()).not.toContain(open[0]);
});

describe("a board of some items alone", () => {
  const board = newId();
  const columnId = newId();
  let bellId: string;
  const save = async (name: string, seenVersion: number) =>
    editBoards(INES, "TIX", {
      kind: "save",
      seenVersion,
      board: {
        id: board,
        name,
        columnsBy: "state",
        scope: { kind: "compare", fact: "priority", op: "is", value: "urgent" },
        columns: [
          {
            id: columnId,
            stage: "Ready",
            name: "",
            part: "waiting",
            stateIds: [await stateId("Ready")],
          },
        ],
      },
    });
  const prioritise = async (priority: "urgent" | "low") => {
    const [{ version }] = await database().select().from(item).where(eq(item.id, bellId));
    await commandItem(INES, {
      commandId: newId(),
      itemId: bellId,
      command: { kind: "edit", seenVersion: version, changes: { priority } },
    });
  };
  const comes = () => noor.page.waitForSelector(`[data-card="${bellId}"]`);
  const goes = () => noor.page.waitForSelector(`[data-card="${bellId}"]`, { hidden: true });
  beforeAll(async () => {
    await save("Urgent", 0);
    const [bell] = await database()
      .select()
      .from(item)
      .where(eq(item.title, "Polish the gangway bell"));
    bellId = bell.id;
  });

  test("what others change on it comes and goes without reading the board again", async () => {
    await noor.open(`/p/TIX/flow?board=${board}`);
    const asked: string[] = [];
    noor.page.on("request", (request) => asked.push(`${request.method()} ${request.url()}`));
    const comesAndGoes = async () => {
      await prioritise("urgent");
      await comes();
      await prioritise("low");
      await goes();
    };
    const reads = () => asked.filter((one) => /GET .*\/board\?/.test(one));
    // That the board was made is heard once more by a page that is new, and read for that.
    await comesAndGoes();
    await comesAndGoes();
    asked.length = 0;
    await comesAndGoes();
    expect(reads()).toEqual([]);
    expect(asked.some((one) => one.includes("/board/changes"))).toBe(true);
  });

  test("what left it while the board was read anew does not come back by the late answer", async () => {
    await prioritise("urgent");
    await comes();
    const answers = await holdAnswers(noor, "/board?");
    const [{ version }] = await database().select().from(boards).where(eq(boards.id, board));
    await save("Urgent things", version);
    await answers.first();
    await prioritise("low");
    await goes();
    await answers.letGo();
    // What is called so now is the board of that answer.
    await noor.reads("Urgent things");
    await goes();
    await answers.stop();
  });
});
