import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

let ines: Person;
const row = (key: string) => `.tl-row[data-item="${key}"]`;
/** What a bar says of its days. */
const said = (key: string) =>
  ines.page.$eval(`${row(key)} .tl-bar`, (bar) => bar.getAttribute("aria-label")!);
const boxOf = async (selector: string) =>
  (await (await ines.page.waitForSelector(selector))!.boundingBox())!;

beforeAll(async () => {
  ines = await browser.person(app.address(), "Ines Dahl");
  await ines.open("/p/TIX/flow?as=timeline&zoom=month");
  await ines.page.waitForSelector(".tl-row");
});

test("large pieces stand with how far they are, are unfolded, and fade until they are 85 % sure", async () => {
  await ines.page.waitForSelector(".tl-fade");
  const [head] = await ines.page.$$eval(".tl-row[data-kind='item'] .tl-more", (all) =>
    all.map((one) => one.textContent),
  );
  expect(head).toMatch(/^\d+ of \d+$/);
  const second = () =>
    ines.page.$$eval(".tl-row[data-kind='item']", (all) => all[2].getAttribute("data-item")!);
  const before = await second();
  const fold = await ines.page.$eval(".tl-fold[aria-expanded='false']", (e) =>
    e.getAttribute("aria-label")!,
  );
  await ines.click(`.tl-fold[aria-label="${fold}"]`);
  await ines.page.waitForSelector(`.tl-fold[aria-label="${fold}"][aria-expanded="true"]`);
  // What stood behind it makes room for what is under it.
  await ines.page.waitForFunction(
    (was: string) =>
      document.querySelectorAll(".tl-row[data-kind='item']")[2].getAttribute("data-item") !== was,
    {},
    before,
  );
});

test("what has no days is dropped onto a day, moved by keys and by its end, and each is undone", async () => {
  const chip = await ines.page.waitForSelector(".tl-chip");
  const key = await chip!.evaluate((e) => e.getAttribute("data-key")!);
  const from = await boxOf(`.tl-chip[data-key="${key}"] .tl-grip`);
  const grid = await boxOf(".tl-grid");
  await ines.page.mouse.move(from.x + 8, from.y + 8);
  await ines.page.mouse.down();
  await ines.page.mouse.move(from.x + 40, from.y - 40, { steps: 4 });
  await ines.page.mouse.move(grid.x + 900, grid.y + 120, { steps: 8 });
  await ines.page.mouse.up();
  await ines.reads(`${key} planned anew.`);
  await ines.open(`/p/TIX/flow?as=timeline&zoom=month&only=${PLANNED}`);
  await ines.page.waitForSelector(`${row(key)} .tl-bar`);
  const placed = await said(key);
  expect(placed).toMatch(/: \d+ \w{3} to \d+ \w{3}/);
  // What is foretold may be said behind its days a little later.
  const days = /: \d+ \w{3} to \d+ \w{3}/.exec(placed)![0];
  await ines.page.focus(`${row(key)} .tl-bar`);
  await ines.page.keyboard.press("ArrowRight");
  await ines.page.keyboard.press("ArrowRight");
  await ines.page.waitForSelector(".tl-ghost");
  await ines.page.keyboard.press("Enter");
  await ines.page.waitForFunction(
    (selector: string, was: string) =>
      document.querySelector(selector)?.getAttribute("aria-label")?.includes(was) === false,
    {},
    `${row(key)} .tl-bar`,
    days,
  );
  const moved = await said(key);
  expect(daysOf(moved)).toEqual(daysOf(placed).map((day) => day + 2));
  await ines.press("Undo");
  await ines.page.waitForFunction(
    (selector: string, was: string) =>
      document.querySelector(selector)?.getAttribute("aria-label")?.includes(was) === true,
    {},
    `${row(key)} .tl-bar`,
    days,
  );
  const ends = await ines.page.$$(`${row(key)} .tl-end`);
  const end = (await ends[1].boundingBox())!;
  await ines.page.mouse.move(end.x + 4, end.y + 10);
  await ines.page.mouse.down();
  // Three days of 26 pixels.
  await ines.page.mouse.move(end.x + 4 + 78, end.y + 10, { steps: 6 });
  await ines.page.mouse.up();
  await ines.page.waitForFunction(
    (selector: string, was: string) =>
      document.querySelector(selector)?.getAttribute("aria-label")?.includes(was) === false,
    {},
    `${row(key)} .tl-bar`,
    days,
  );
  const [first, last] = daysOf(placed);
  expect(daysOf(await said(key))).toEqual([first, last + 3]);
});

test("what stands before what it waits for is said, and put behind it with all that follows", async () => {
  await ines.open("/p/TIX/flow?as=timeline");
  const [told] = await ines.page.$$eval(".tl-conflicts b", (all) =>
    all.map((one) => one.textContent),
  );
  expect(told).toMatch(/^TIX-\d+ stands before TIX-\d+, which it waits for\.$/);
  await ines.press("Put it after");
  await ines.reads("planned anew.");
  await ines.page.waitForFunction(
    (words: string) =>
      ![...document.querySelectorAll(".tl-conflicts b")].some((one) => one.textContent === words),
    {},
    told,
  );
  await ines.press("Undo");
  await ines.page.waitForFunction(
    (words: string) =>
      [...document.querySelectorAll(".tl-conflicts b")].some((one) => one.textContent === words),
    {},
    told,
  );
});

test("time is recorded on an item as it is written, and in one's week; both are undone", async () => {
  await ines.open("/p/TIX/plan/time");
  await ines.find("Record on another item", "Season ticket");
  const cell = ".week-table tbody tr:last-child td:nth-of-type(1) .week-cell";
  await ines.click(cell);
  await ines.fill("How long", "1,5 h");
  await ines.press("Record it");
  await ines.reads("1 h 30 min recorded on TIX-");
  await ines.page.waitForFunction(() =>
    [...document.querySelectorAll(".week-cell")].some((one) => one.textContent === "1 h 30 min"),
  );
  await ines.press("Undo");
  await ines.page.waitForFunction(
    () =>
      ![...document.querySelectorAll(".week-cell")].some((one) => one.textContent === "1 h 30 min"),
  );
});

/** Only what somebody planned. */
const PLANNED = encodeURIComponent(
  JSON.stringify({ kind: "compare", fact: "plannedFrom", op: "is set", value: null }),
);

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
/** The two days of a bar, as days since some day. */
const daysOf = (words: string): number[] => {
  const [, d1, m1, d2, m2] = /: (\d+) (\w{3}) to (\d+) (\w{3})/.exec(words)!;
  const dayOf = (day: string, month: string) => {
    const at = MONTHS.indexOf(month);
    // What is in the first months is of the next year.
    return Date.UTC(at < 6 ? 2027 : 2026, at, Number(day)) / 86_400_000;
  };
  return [dayOf(d1, m1), dayOf(d2, m2)];
};
