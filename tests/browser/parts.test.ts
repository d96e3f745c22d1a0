import { givenApplication } from "./setup/application";
import { seriousFindings } from "./setup/axe";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

const LIGHT = '[data-paper="light"]';
let greta: Person;

beforeAll(async () => {
  greta = await browser.person(app.address(), "Greta Falk");
  await greta.open("/parts");
});

/** What a labelled control on light paper says now. */
const says = (label: string) =>
  greta.page.$eval(
    `::-p-xpath(//section[@data-paper="light"]//label[starts-with(., "${label}")]//*[self::button or self::input])`,
    (e) => (e as HTMLInputElement).value || (e as HTMLElement).innerText,
  );

const focus = async (label: string) => {
  const control = await greta.page.$(
    `::-p-xpath(//section[@data-paper="light"]//label[starts-with(., "${label}")]//*[self::button or self::input])`,
  );
  await control!.evaluate((e) => e.scrollIntoView({ block: "center" }));
  await control!.focus();
};

test("only administrators see the parts", async () => {
  const noor = await browser.person(app.address(), "Noor Bakri");
  await noor.open("/parts");
  expect(await noor.page.$(LIGHT)).toBeNull();
  await noor.reads("not");
});

test("no part has a serious finding, on either paper", async () => {
  expect(await seriousFindings(greta)).toEqual([]);
});

test("light and dark paper differ in what is written on them and what they are", async () => {
  const colours = await greta.page.$$eval("[data-paper]", (papers) =>
    papers.map((p) => [getComputedStyle(p).backgroundColor, getComputedStyle(p).color]),
  );
  const [light, dark] = colours;
  expect(dark[0]).not.toBe(light[0]);
  expect(dark[1]).not.toBe(light[1]);
});

test("a list of options by the keyboard: arrows, first letters, Esc leaves it", async () => {
  await focus("State");
  const open = async () => {
    await greta.keys("Enter");
    await greta.page.waitForSelector("[role=option][data-highlighted]");
  };
  /** The list moves its mark a moment after the key: Enter counts for what is marked then. */
  const marked = (label: string) =>
    greta.page.waitForFunction(
      (wanted) =>
        document.querySelector<HTMLElement>("[role=option][data-highlighted]")?.innerText ===
        wanted,
      {},
      label,
    );
  const closed = () =>
    greta.page.waitForFunction(() => !document.querySelector("[role=listbox]:not([hidden])"));
  await open();
  await greta.keys("ArrowDown");
  await marked("Ready for test");
  await greta.keys("Enter");
  await closed();
  expect(await says("State")).toBe("Ready for test");
  await open();
  await greta.page.keyboard.type("li");
  await marked("Live");
  await greta.keys("Enter");
  await closed();
  expect(await says("State")).toBe("Live");
  await open();
  await greta.keys("ArrowUp", "Escape");
  await closed();
  expect(await says("State")).toBe("Live");
});

test("a day is typed in words, or walked to in its month", async () => {
  await greta.fill("Release on", "3 jan 2027");
  await greta.keys("Tab");
  expect(await says("Release on")).toBe("2027-01-03");
  await greta.keys("Enter", "ArrowUp", "ArrowLeft", "PageDown", "End", "Enter");
  // The 26th, a month on, and the Sunday of that week.
  await greta.page.waitForFunction(() => !document.querySelector("[role=grid]"));
  expect(await says("Release on")).toBe("2027-01-31");
});

test("what is no day is marked, stays readable, and the value stays", async () => {
  await greta.fill("Release on", "31 feb");
  await greta.keys("Tab");
  expect(await says("Release on")).toBe("31 feb");
  expect(
    await greta.page.$eval(`${LIGHT} [aria-invalid=true][placeholder=day]`, (e) => [
      (e as HTMLInputElement).title,
      (e as HTMLInputElement).validity.valid,
    ]),
  ).toEqual(["Write a day like 2026-11-28 or 28 Nov", false]);
});

test("a time is read as people write it", async () => {
  await greta.fill("Opens at", "1715");
  await greta.keys("Tab");
  expect(
    await greta.page.$eval(
      `${LIGHT} [aria-label="Opens at"]`,
      (e) => (e as HTMLInputElement).value,
    ),
  ).toBe("17:15");
});

test("one of many is found by typing", async () => {
  await greta.click(`${LIGHT} button[aria-label^="Item: "]`);
  await greta.page.keyboard.type("seat");
  await greta.page.waitForFunction(() => document.querySelectorAll("[cmdk-item]").length === 1);
  await greta.keys("Enter");
  await greta.page.waitForSelector(
    `${LIGHT} button[aria-label="Item: TIX-118 Seat map on small screens"]`,
  );
});

test("several are ticked in a list, and named on its button in their order", async () => {
  await greta.click(`${LIGHT} button[aria-label^="States: "]`);
  await greta.click("::-p-xpath(//*[@role='dialog']//label[contains(., 'Building')])");
  await greta.keys("Escape");
  await greta.page.waitForSelector(`${LIGHT} button[aria-label="States: Ready, Building, Live"]`);
});

test("of what nobody has answered no mark looks chosen", async () => {
  const colours = await greta.page.$$eval(`${LIGHT} input[name="unsaid on light"]`, (marks) =>
    marks.map((mark) => getComputedStyle(mark).backgroundColor),
  );
  const empty = await greta.page.$eval(
    `${LIGHT} input[type=checkbox]:not(:checked)`,
    (mark) => getComputedStyle(mark).backgroundColor,
  );
  expect(colours).toEqual([empty, empty]);
});

test("a list is put in order and made shorter, row by row", async () => {
  const rows = () =>
    greta.page.$$eval(`${LIGHT} [aria-label="Berths"] li`, (all) => all.map((li) => li.innerText));
  await greta.click(`${LIGHT} [aria-label="dry dock goes up"]`);
  await greta.click(`${LIGHT} [aria-label="Take out north quay"]`);
  expect(await rows()).toEqual(["dry dock", "south quay"]);
});

test("sheets of tabs change by the arrow keys", async () => {
  await greta.click(`${LIGHT} [role=tab]`);
  await greta.keys("ArrowRight");
  await greta.reads("What belongs to table.", `${LIGHT} [role=tabpanel]`);
});
