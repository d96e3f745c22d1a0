import { givenApplication } from "./setup/application";
import { seriousFindings } from "./setup/axe";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

const SCREENS: [name: string, path: string, ready: string][] = [
  ["today", "/p/TIX/today", ".day-row"],
  ["how one hears", "/account/alerts", "[data-rule]"],
  ["labels and parts", "/p/TIX/design?place=terms", "[data-term=storm]"],
  ["project settings", "/p/TIX/design?place=project", 'form[aria-label="The project"]'],
  ["design history", "/p/TIX/design?place=history", "ol li"],
  ["releases", "/p/TIX/plan/releases", ".release-items li"],
  ["sizing", "/p/TIX/plan/sizing", ".sizing-aside"],
  ["calendar", "/p/TIX/plan/calendar", ".cal-week"],
  ["large pieces", "/p/TIX/plan/pieces", ".piece"],
  ["what waits for what", "/p/TIX/plan/waiting", ".wait-item"],
  ["people's room", "/p/TIX/plan/room", ".room-week"],
  ["items in and out", "/p/TIX/plan/import", ".file-pick"],
  ["time", "/p/TIX/plan/time", ".week-table"],
  ["timeline", "/p/TIX/flow?as=timeline", ".tl-bar"],
  ["planning", "/p/TIX/plan/planning", ".plan-row"],
  ["sprint", "/p/TIX/plan/sprints", "section[aria-label='Day by day']"],
  ["parts", "/p/TIX/plan/parts", "section[aria-label=Open]"],
  ["changes", "/p/TIX/ship", ".work-row"],
  ["reviews", "/p/TIX/ship/reviews", ".review-row"],
  ["tests", "/p/TIX/ship/tests", ".run-step"],
  ["test cases", "/p/TIX/ship/tests/cases?case=1", ".case-steps"],
  ["environments", "/p/TIX/ship/environments", ".where-row"],
  ["acceptance", "/p/TIX/ship/acceptance", ".acceptance-row"],
  ["releases going out", "/p/TIX/ship/releases", ".against-rows li"],
  ["withdrawn", "/p/TIX/plan/withdrawn", "[aria-label^='Bring back']"],
  ["board", "/p/TIX/flow", ".card"],
  ["table in groups", "/p/TIX/flow?as=table&groups=priority", "[data-row]"],
  ["values with counts", "/p/TIX/flow?counts=assigneeId~labels~age", ".counted-value"],
  ["views", "/p/TIX/flow/views", "[data-view]"],
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
  ["above the projects", "/across/team-ticketing?board=levels", ".card"],
  ["before a walk", "/p/TIX/flow/walk", "[data-walk]"],
  ["design", "/p/TIX/design", ".react-flow__node"],
  ["types and fields", "/p/TIX/design?place=fields", "[data-field]"],
  ["boards", "/p/TIX/design?place=boards", "[data-board]"],
  ["events", "/p/TIX/design?place=events", "form"],
];

describe("on light paper and on dark", () => {
  let ines: Person;
  beforeAll(async () => {
    ines = await browser.person(app.address(), "Ines Dahl");
  });

  test("the paper that somebody chose is there at once", async () => {
    await ines.page.setCookie({ name: "theme", value: "dark", url: app.address() });
    await ines.open("/p/TIX/today");
    expect(await ines.page.$eval("html", (e) => e.dataset.theme)).toBe("dark");
  });

  test("what can be read on one paper alone is found", async () => {
    await ines.open("/p/TIX/today");
    await ines.page.$eval("h1, h2", (heading) => {
      heading.innerHTML = '<b style="color: #000; background: var(--paper)">Low water</b>';
    });
    const found = await seriousFindings(ines);
    expect(found.filter((one) => one.includes("Low water"))).toEqual([
      expect.stringMatching(/^on dark paper, color-contrast: /),
    ]);
  });

  test.each(SCREENS)("%s has no serious finding", async (_name, path, ready) => {
    await ines.open(path);
    await ines.page.waitForSelector(ready);
    expect(await seriousFindings(ines)).toEqual([]);
  });

  test("the box has no serious finding, with what can be done and with what was found", async () => {
    await ines.open("/p/TIX/flow");
    await ines.page.waitForSelector(".card");
    await ines.page.focus(".card");
    await ines.chord("Control", "k");
    await ines.reads("With TIX-", ".find-panel");
    expect(await seriousFindings(ines)).toEqual([]);
    await ines.page.type(".find-panel input", "refund");
    await ines.reads("Items", ".find-panel");
    expect(await seriousFindings(ines)).toEqual([]);
  });

  test("alerts, and talk with a name begun, have no serious finding", async () => {
    await ines.open("/p/TIX/today");
    await ines.click("button[aria-label^=Alerts]");
    await ines.page.waitForSelector("[data-alert]");
    expect(await seriousFindings(ines)).toEqual([]);
    await ines.keys("Escape");
    await ines.click(".day-row-title");
    await ines.page.waitForSelector(".comment");
    await ines.page.type("textarea[role=combobox]", "@i");
    await ines.page.waitForSelector(".name-choices li");
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
    await stranger.open(path);
    await stranger.page.waitForSelector(ready);
    expect(await seriousFindings(stranger)).toEqual([]);
  });
});

describe("a laptop's window at twice its size", () => {
  let person: Person;
  let stranger: Person;
  beforeAll(async () => {
    person = await browser.person(app.address(), "Tomas Kerr");
    stranger = await browser.person(app.address());
    for (const { page } of [person, stranger]) await page.setViewport({ width: 640, height: 400 });
  });

  /** A private page of its own. */
  async function sent(): Promise<string> {
    const form = new FormData();
    for (const [name, value] of Object.entries({
      title: "The gate hums",
      happened: "All night.",
      travelled: "yes",
      mail: "anna@post.saltmarsh.example",
    }))
      form.set(name, value);
    const answer = await fetch(`${app.address()}/api/public/reports/TIX/report`, {
      method: "POST",
      body: form,
    });
    return `/r/${((await answer.json()) as { token: string }).token}`;
  }

  test.each<[name: string, path: () => Promise<string> | string, ready: string, who: string]>([
    ["designer", () => "/p/TIX/design", ".react-flow__node", "tomas"],
    ["triage desk", () => "/p/TIX/intake", "article h2", "tomas"],
    ["public form", () => "/report/TIX/report", "form", "stranger"],
    ["private page", sent, "[role=status]", "stranger"],
  ])("%s loses nothing and has no serious finding", async (_name, path, ready, who) => {
    const visitor = who === "stranger" ? stranger : person;
    await visitor.open(await path());
    await visitor.page.waitForSelector(ready);
    const lost = await visitor.page.evaluate(() => {
      const doc = document.documentElement;
      const buttons = [...document.querySelectorAll<HTMLElement>("header button, form button")];
      return {
        beside: doc.scrollWidth - doc.clientWidth,
        outside: buttons.filter((b) => {
          const { left, right, width } = b.getBoundingClientRect();
          return width > 0 && (left < 0 || right > doc.clientWidth + 1);
        }).length,
      };
    });
    expect(lost).toEqual({ beside: 0, outside: 0 });
    expect(await seriousFindings(visitor)).toEqual([]);
  });
});
