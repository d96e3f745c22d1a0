import { givenApplication } from "./setup/application";
import { seriousFindings } from "./setup/axe";
import { givenBrowser, type Person } from "./setup/person";

jest.setTimeout(90_000);
const browser = givenBrowser();
const app = givenApplication();

const SCREENS: [name: string, path: string, ready: string][] = [
  ["board", "/p/TIX/flow", ".card"],
  ["item on the board", "/p/TIX/flow?item=TIX-100", "aside figure"],
  ["item page", "/p/TIX/items/TIX-100", "figure"],
  ["triage desk", "/p/TIX/intake", "article"],
  ["worth", "/p/TIX/intake/worth", "[data-worth]"],
  ["promises", "/p/TIX/intake/promises", "[data-promise]"],
  ["forms", "/p/TIX/intake/forms", "[data-question]"],
  ["mailbox", "/p/TIX/intake/mailbox", "h2"],
  ["triage rules", "/p/TIX/intake/rules", "table [role=combobox]"],
  ["backlog", "/p/TIX/plan", "li[data-key]"],
  ["learn", "/p/TIX/learn", ".recharts-surface"],
  ["board by people", "/p/TIX/flow?board=tix-people", ".card"],
  ["design", "/p/TIX/design", ".react-flow__node"],
  ["types and fields", "/p/TIX/design?place=fields", "[data-field]"],
  ["boards", "/p/TIX/design?place=boards", "[data-board]"],
  ["events", "/p/TIX/design?place=events", "form"],
];

describe.each(["light", "dark"] as const)("%s paper", (theme) => {
  let ines: Person;
  beforeAll(async () => {
    ines = await browser.person(app.address(), "Ines Dahl");
    await ines.page.setCookie({ name: "theme", value: theme, url: app.address() });
  });

  test.each(SCREENS)("%s has no serious finding", async (_name, path, ready) => {
    await ines.open(path);
    await ines.page.waitForSelector(ready);
    expect(await ines.page.$eval("html", (e) => e.dataset.theme)).toBe(theme);
    expect(await seriousFindings(ines)).toEqual([]);
  });

  test("accepting a report has no serious finding", async () => {
    await ines.open("/p/TIX/intake");
    await ines.page.waitForSelector("article h2");
    await ines.keys("a");
    await ines.page.waitForSelector('form[aria-label="Accept"] [role=combobox]');
    await ines.click('form[aria-label="Accept"] summary');
    expect(await seriousFindings(ines)).toEqual([]);
  });

  test.each([
    ["public form", "/report/TIX/report", "form"],
    ["list of forms", "/report/TIX", "main"],
    ["embedded form", "/embed/TIX/report", "form"],
    ["sign-in", "/sign-in", "form"],
  ])("%s has no serious finding", async (_name, path, ready) => {
    const stranger = await browser.person(app.address());
    await stranger.page.setCookie({ name: "theme", value: theme, url: app.address() });
    await stranger.open(path);
    await stranger.page.waitForSelector(ready);
    expect(await seriousFindings(stranger)).toEqual([]);
  });
});
