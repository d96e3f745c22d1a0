import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
const keys = () =>
  ines.page.$$eval("ol[aria-label='Backlog in order'] [data-key]", (rows) =>
    rows.map((row) => row.getAttribute("data-key")!),
  );
const openIn = (sprint: string) =>
  ines.page.$eval(`[data-sprint="${sprint}"]`, (card) =>
    Number(/(\d+) open items?/.exec(card.textContent)![1]),
  );
const lines = () =>
  ines.page.$$eval(".reach", (all) =>
    all.map((line) => ({
      after: Number(line.getAttribute("data-after")),
      how: line.getAttribute("data-how"),
      // How many rows stand above it where it is drawn.
      above: [...document.querySelectorAll("ol[aria-label='Backlog in order'] > *")]
        .slice(0, [...line.parentElement!.children].indexOf(line))
        .filter((row) => row.hasAttribute("data-key")).length,
    })),
  );

/**
 * Carries something by a part of it onto a place that is in sight. What is read anew just then is drawn
 * once more and slips out of the hand: it is taken up again.
 */
async function carry(part: string, place: string): Promise<void> {
  const middle = async (selector: string, scrolls: boolean) => {
    const element = (await ines.page.waitForSelector(selector))!;
    if (scrolls)
      await element.evaluate((e) => e.scrollIntoView({ block: "center", inline: "center" }));
    const { x, y, width, height } = (await element.boundingBox())!;
    return { x: x + width / 2, y: y + Math.min(height / 2, 14) };
  };
  for (let tries = 0; tries < 4; tries++) {
    const from = await middle(part, true);
    const to = await middle(place, false);
    await ines.page.mouse.move(from.x, from.y);
    await ines.page.mouse.down();
    await ines.page.mouse.move(from.x + 20, from.y + 12, { steps: 4 });
    await ines.page.mouse.move(to.x, to.y, { steps: 8 });
    const over = await ines.page
      .waitForSelector(`${place}[data-over]`, { timeout: 3_000 })
      .catch(() => null);
    await ines.page.mouse.up();
    if (over) return;
  }
  throw new Error(`${part} could not be carried onto ${place}`);
}
const dropOnto = (key: string, place: string) => carry(`[data-key="${key}"] .cursor-grab`, place);

beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/plan");
  await ines.page.waitForSelector(".reach");
});

test("lines say how far the backlog reaches, and are drawn where they say", async () => {
  const drawn = await lines();
  expect(drawn.length).toBeGreaterThan(0);
  for (const { after, above } of drawn) expect(above).toBe(after);
  await ines.reads(/85 % sure by (the end of Sprint \d+|Crossing \d+), \d+ \w{3}/, ".reach");
  await ines.choose("From how many weeks the reach is drawn", "26 weeks");
  await ines.page.waitForFunction(
    (before: string) =>
      [...document.querySelectorAll(".reach")].map((l) => l.getAttribute("data-after")).join() !==
      before,
    {},
    drawn.map(({ after }) => after).join(),
  );
  await ines.choose("From how many weeks the reach is drawn", "12 weeks");
});

test("a row is dropped onto a sprint, and taken out and put elsewhere by its menu; each is undone", async () => {
  const [first] = await keys();
  const held = await openIn("Sprint 22");
  await dropOnto(first, '[data-sprint="Sprint 22"]');
  await ines.reads(`${first} is in Sprint 22.`);
  await ines.reads(`${held + 1} open items`, '[data-sprint="Sprint 22"]');
  expect((await keys())[0]).toBe(first);
  await ines.choose(`More for ${first}`, "Into no sprint");
  await ines.reads(`${first} is in no sprint now.`);
  await ines.reads(`${held} open items`, '[data-sprint="Sprint 22"]');
  await ines.choose(`More for ${first}`, "To the end");
  await ines.reads(`${first} has its new place.`);
  await ines.page.waitForFunction(
    (key: string) => document.querySelector("[data-key]")?.getAttribute("data-key") !== key,
    {},
    first,
  );
  await ines.press("Undo");
  await ines.page.waitForFunction(
    (key: string) => document.querySelector("[data-key]")?.getAttribute("data-key") === key,
    {},
    first,
  );
});

test("size and priority are changed where they stand, by keys, and undone", async () => {
  const [first] = await keys();
  const size = `[data-key="${first}"] button[aria-label^="Size of"]`;
  const before = await ines.page.$eval(size, (e) => e.textContent);
  // From the row to its cells by arrows: past priority and assignee.
  await ines.page.focus(`[data-key="${first}"]`);
  await ines.keys("ArrowRight", "ArrowRight", "ArrowRight", "Enter");
  await ines.page.waitForSelector(`[data-key="${first}"] input[aria-label="New value"]`);
  await ines.page.keyboard.type("13");
  await ines.keys("Enter");
  await ines.reads(`${first}: Size is stored.`);
  await ines.reads("13", `[data-key="${first}"]`);
  await ines.press("Undo");
  await ines.page.waitForFunction(
    (selector: string, was: string) => document.querySelector(selector)?.textContent === was,
    {},
    size,
    before!,
  );
  // What is read anew after the undoing draws the row once more.
  await ines.opens(
    `[data-key="${first}"] button[aria-label^="Priority of"]`,
    'input[aria-label="Type to choose"]',
  );
  await ines.page.keyboard.type("urgent");
  await ines.keys("Enter");
  await ines.reads(`${first}: Priority is stored.`);
});

describe("its parts, columns and counted values", () => {
  const inSection = (name: string) =>
    ines.page.$$eval(`[data-section="${name}"] [data-key]`, (rows) =>
      rows.map((row) => row.getAttribute("data-key")!),
    );
  const sectionOf = (key: string, name: string) =>
    ines.page.waitForSelector(`[data-section="${name}"] [data-key="${key}"]`);
  const stands = async (how: string, name: string) => {
    await ines.choose("In which parts it stands", how);
    await ines.page.waitForSelector(`[data-section="${name}"] [data-key]`);
  };

  afterAll(async () => {
    await stands("one list", "Backlog");
    await ines.page.waitForFunction(() => !document.querySelector('[data-section="Ready"]'));
  });

  test("a row is lifted over the line by keys: that is a move, and is undone", async () => {
    await stands("by state", "Ready");
    const [first] = await inSection("Backlog");
    const chosen = (await inSection("Ready")).length;
    await ines.reads(/chosen next · \d+ of \d+/, '[data-section="Ready"] h2');
    await ines.page.focus(`[data-section="Backlog"] [data-key="${first}"]`);
    await ines.chord("Alt", "ArrowUp");
    await sectionOf(first, "Ready");
    await ines.reads(`${first} is in Ready.`);
    await ines.reads(new RegExp(`Ready\\s*${chosen + 1}`), '[data-section="Ready"] h2 button');
    await ines.press("Undo");
    await sectionOf(first, "Backlog");
    await ines.reads(new RegExp(`Ready\\s*${chosen}`), '[data-section="Ready"] h2 button');
  });

  test("by sprint the running one stands first, with the states of its items", async () => {
    await stands("by sprint", "Sprint 21");
    const names = await ines.page.$$eval("[data-section]", (all) =>
      all.map((section) => section.getAttribute("data-section")),
    );
    expect(names.slice(0, 2)).toEqual(["Sprint 21", "Sprint 22"]);
    expect(names.at(-1)).toBe("In none of these");
    const states = await ines.page.$$eval('[data-section="Sprint 21"] .state-level', (all) =>
      all.map((level) => level.parentElement!.textContent),
    );
    expect(new Set(states).size).toBeGreaterThan(1);
    expect(states).toContain("Building");
    // Whatever its state is, an item goes past its neighbour, and to the top of the part.
    const inSprint = await inSection("Sprint 21");
    const moved = inSprint.at(-1)!;
    const stand = (order: string[]) =>
      ines.page.waitForFunction(
        (wanted: string) =>
          [...document.querySelectorAll('[data-section="Sprint 21"] [data-key]')]
            .map((row) => row.getAttribute("data-key"))
            .join() === wanted,
        {},
        order.join(),
      );
    await ines.page.focus(`[data-section="Sprint 21"] [data-key="${moved}"]`);
    await ines.chord("Alt", "ArrowUp");
    await stand([...inSprint.slice(0, -2), moved, inSprint.at(-2)!]);
    await ines.page.focus(`[data-section="Sprint 21"] [data-key="${moved}"]`);
    await ines.chord("Alt", "Home");
    await stand([moved, ...inSprint.slice(0, -1)]);
    const [first] = await inSection("In none of these");
    await ines.page.focus(`[data-section="In none of these"] [data-key="${first}"]`);
    await ines.chord("Alt", "ArrowUp");
    const last = names.at(-2)!;
    await sectionOf(first, last);
    await ines.reads(`${first} is in ${last}.`);
    await ines.press("Undo");
    await sectionOf(first, "In none of these");
    await stands("one list", "Backlog");
  });

  test("a value that is pointed at narrows it to as many rows as stand beside it", async () => {
    await ines.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await ines.keys("f");
    const high = 'aside[aria-label="Values with counts"] [data-value="high"]';
    await ines.page.waitForSelector(high);
    const count = await ines.page.$eval(high, (value) => Number(value.getAttribute("data-count")));
    await ines.click(high);
    await ines.reads(`${count} of `, "h1 + p");
    expect(await keys()).toHaveLength(count);
    await ines.press("Show all");
    await ines.page.waitForFunction(
      (few: number) => document.querySelectorAll("[data-backlog] [data-key]").length > few,
      {},
      count,
    );
    await ines.page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await ines.keys("f");
    await ines.page.waitForFunction(
      () => !document.querySelector('aside[aria-label="Values with counts"]'),
    );
  });

  test("columns are chosen, stay, and are changed where they stand; people are given rows", async () => {
    await ines.press("3 columns");
    await ines.page.type('input[aria-label="Find a field"]', "due");
    await ines.click("::-p-xpath(//label[normalize-space(.)='due date'])");
    await ines.press("4 columns");
    await ines.reads("Due date", ".backlog-heads");
    await ines.page.reload();
    await ines.reads("Due date", ".backlog-heads");
    const [first] = await keys();
    await ines.opens(
      `[data-key="${first}"] [data-column=dueOn]`,
      `[data-key="${first}"] input[aria-label="New value"]`,
    );
    await ines.page.keyboard.type("no day");
    await ines.keys("Enter");
    await ines.reads("Write a day like", `[data-key="${first}"] [role=alert]`);
    await ines.keys("Escape");
    await ines.press("show their room");
    await ines.page.waitForSelector('[data-person="Noor Bakri"]');
    await ines.page.$eval('[data-person="Noor Bakri"]', (e) => e.scrollIntoView());
    await dropOnto(first, '[data-person="Noor Bakri"]');
    await ines.reads(`Noor Bakri has ${first}.`);
    await ines.press("Undo");
    await ines.page.waitForSelector(`[aria-label="Assignee of ${first}: nobody"]`);
    await ines.press("4 columns");
    await ines.click('[aria-label="Take out due date"]');
  });
});

test("an item opens beside the rows, and the next and the previous one by keys", async () => {
  const [first, second] = await keys();
  await ines.page.focus(`[data-key="${first}"]`);
  await ines.keys("Enter");
  await ines.page.waitForFunction((key: string) => location.search.includes(key), {}, first);
  // What the item says has come: until then the page is still on its way to the panel.
  await ines.page.waitForSelector(`aside[data-item="${first}"]`);
  await ines.page.focus(`[data-key="${first}"]`);
  await ines.keys("ArrowDown");
  await ines.page.waitForFunction((key: string) => location.search.includes(key), {}, second);
  await ines.keys("ArrowUp");
  await ines.page.waitForFunction((key: string) => location.search.includes(key), {}, first);
  expect(await keys()).toEqual(expect.arrayContaining([first, second]));
});

test("a due date says whether it is kept where the item stands", async () => {
  const [first] = await keys();
  await ines.open(`/p/TIX/plan?item=${first}`);
  const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
  const dated = await ines.page.evaluate(
    async (key: string, day: string) => {
      const item = (await (await fetch(`/api/items/${key}`)).json()) as {
        item: { id: string; version: number };
      };
      const sent = await fetch("/api/items/commands", {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({
          commandId: crypto.randomUUID(),
          itemId: item.item.id,
          command: { kind: "edit", seenVersion: item.item.version, changes: { dueOn: day } },
        }),
      });
      return sent.status;
    },
    first,
    tomorrow,
  );
  expect(dated).toBe(200);
  await ines.reads("too late here", `[data-key="${first}"]`);
});

describe("planning sprints", () => {
  const loadOf = (name: string) =>
    ines.page.$eval(`section[aria-label="${name}"] [data-load]`, (e) =>
      Number(e.getAttribute("data-load")),
    );
  const column = (name: string) => `section[aria-label="${name}"]`;

  test("rows are dragged into a sprint, several at once, and its load is what they are together", async () => {
    await ines.open("/p/TIX/plan/planning");
    await ines.page.waitForSelector(`${column("Backlog")} .plan-row`);
    const sized = await ines.page.$$eval(`${column("Backlog")} .plan-row`, (rows) =>
      rows.flatMap((row) => {
        const points = Number(row.querySelector("b")?.textContent);
        return points > 0 ? [{ key: row.getAttribute("data-key")!, points }] : [];
      }),
    );
    const [one, two] = sized;
    const before = await loadOf("Sprint 22");
    for (const { key } of [one, two]) await ines.choose(`More for ${key}`, "Choose it");
    await ines.reads("2 items chosen");
    const from = (await (await ines.page.$(`[data-key="${one.key}"]`))!.boundingBox())!;
    const to = (await (await ines.page.$(column("Sprint 22")))!.boundingBox())!;
    await ines.page.mouse.move(from.x + 12, from.y + 12);
    await ines.page.mouse.down();
    await ines.page.mouse.move(from.x + 60, from.y + 30, { steps: 4 });
    await ines.page.mouse.move(to.x + to.width / 2, to.y + 120, { steps: 8 });
    await ines.page.waitForSelector(`${column("Sprint 22")}[data-over]`);
    await ines.page.mouse.up();
    await ines.reads("2 items in Sprint 22.");
    await ines.page.waitForSelector(`${column("Sprint 22")} [data-key="${two.key}"]`);
    expect(await loadOf("Sprint 22")).toBe(before + one.points + two.points);
    await ines.press("Undo");
    await ines.page.waitForSelector(`${column("Backlog")} [data-key="${two.key}"]`);
    expect(await loadOf("Sprint 22")).toBe(before);
  });

  test("a dependency that does not hold is said, and mended in one step", async () => {
    const keys = await ines.page.$$eval(`${column("Backlog")} .plan-row`, (rows) =>
      rows.slice(0, 2).map((row) => row.getAttribute("data-key")!),
    );
    await ines.open(`/p/TIX/items/${keys[0]}`);
    await ines.link("waits for", keys[1]);
    await ines.reads(keys[1], 'section[aria-label="Links"]');
    await ines.open("/p/TIX/plan/planning");
    await ines.choose(`More for ${keys[0]}`, "Into Sprint 22");
    await ines.reads(
      `${keys[0]} waits for ${keys[1]}, which is in no sprint.`,
      column("Sprint 22"),
    );
    await ines.press(`Plan ${keys[1]} into Sprint 22 too`);
    await ines.page.waitForSelector(`${column("Sprint 22")} [data-key="${keys[1]}"]`);
    await ines.page.waitForFunction(
      (key: string) =>
        ![...document.querySelectorAll("ul[aria-label='Dependencies that do not hold']")].some(
          (list) => list.textContent.includes(key),
        ),
      {},
      keys[0],
    );
    await ines.choose(`More for ${keys[1]}`, "Into Sprint 23");
    await ines.reads(`${keys[0]} stands before ${keys[1]}, which it waits for.`);
    await ines.press(`Move ${keys[0]} to Sprint 23`);
    await ines.page.waitForSelector(`${column("Sprint 23")} [data-key="${keys[0]}"]`);
  });

  test("a sprint ends with what becomes of what is open; it is brought back, and ends again", async () => {
    await ines.open("/p/TIX/plan/sprints");
    await ines.reads("runs", "h1 + p");
    await ines.press("End Sprint");
    await ines.choose("Was the goal reached", "It was reached", "form");
    await ines.fill("In a few words", "The queues are shorter.");
    await ines.choose("What is open", "into Sprint 22", "form");
    await ines.press("End Sprint", "//form");
    await ines.reads("The goal was reached. The queues are shorter. Ines Dahl");
    await ines.reads(/Carried over \d+/, "section[aria-label='What it comes to']");
    await ines.press("Bring it back");
    await ines.page.waitForSelector("::-p-xpath(//button[starts-with(., 'End Sprint')])");
    await ines.open("/p/TIX/plan/sprints?sprint=tix-sprint-22");
    await ines.press("Start Sprint 22");
    await ines.reads("Sprint 21 has not ended.");
  });
});

describe("releases", () => {
  const [list, shown] = ["nav[aria-label='Releases']", "section[aria-label='Crossing 20']"];

  test("a day moves with a reason, which stays with how far it moved in all", async () => {
    await ines.open("/p/TIX/plan/releases");
    await ines.reads("moved once, by 7 days", shown);
    await ines.press("Change", `//section[@aria-label="Crossing 20"]`);
    await ines.fill("By", "2027-01-15");
    await ines.fill("Why its day moves", "The quay is mended first.");
    await ines.press("Store it", "//form");
    await ines.reads(/moved twice, by \d+ days/, shown);
    await ines.reads("The quay is mended first.", "ul[aria-label='How its day moved']");
    await ines.reads(/moved twice, by \d+ days/, list);
  });

  test("an item is taken out, put back by undoing, and the finished ones in none are put into one", async () => {
    const key = await ines.page.$eval(`${shown} .release-items li`, (row) =>
      row.getAttribute("data-key")!,
    );
    await ines.click(`[aria-label="Take out ${key}"]`);
    await ines.reads(`${key} is in no release now.`);
    await ines.page.waitForFunction(
      (selector: string) => !document.querySelector(selector),
      {},
      `${shown} [data-key="${key}"]`,
    );
    await ines.press("Undo");
    await ines.page.waitForSelector(`${shown} [data-key="${key}"]`);
    const loose = "section[aria-label='Finished, in no release']";
    const first = await ines.page.$eval(`${loose} .release-items li`, (row) =>
      row.getAttribute("data-key")!,
    );
    await ines.click(`[aria-label="Put ${first} into Crossing 20"]`);
    await ines.page.waitForSelector(`${shown} [data-key="${first}"]`);
  });
});

test("cards of the board are dropped onto the sprints beside it, and out of them", async () => {
  await ines.open("/p/TIX/flow");
  await ines.press("Sprints");
  const next = '[data-sprint-place="Sprint 22"]';
  await ines.reads(/\d+ of \d+ points/, next);
  const key = await ines.page.$eval(".card[data-key]", (card) => card.getAttribute("data-key")!);
  const drop = (place: string) => carry(`.card[data-key="${key}"]`, place);
  await drop(next);
  await ines.reads(`${key} is in Sprint 22.`);
  await drop('[data-sprint-place="In no sprint"]');
  await ines.reads(`${key} is in no sprint now.`);
  await ines.press("Sprints");
  await ines.page.waitForFunction(() => !document.querySelector("[data-sprint-place]"));
});

test("an item is dragged from one release to another, which begins on a day of its own", async () => {
  await ines.open("/p/TIX/plan/releases");
  await ines.press("New release");
  await ines.fill("Name", "Winter crossing");
  await ines.press("Add", "//form[@aria-label='Release']");
  const own = '[data-release="Winter crossing"]';
  await ines.page.waitForSelector(`${own}[aria-current="true"]`);
  await ines.reads("Nothing is in it yet", 'section[aria-label="Winter crossing"]');
  const loose = 'section[aria-label="Finished, in no release"] li';
  const key = await ines.page.$eval(loose, (row) => row.getAttribute("data-key")!);
  await carry(`${loose}[data-key="${key}"] .cursor-grab`, own);
  await ines.reads(`${key} is in Winter crossing.`);
  await ines.reads("1 of 1 item done", own);
});
