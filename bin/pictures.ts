import type { Page } from "puppeteer-core";
import { launchBrowser } from "./browser";
import { DEMO_PASSWORD } from "@demo/people";

/*
 * Takes the pictures of docs/screenshots from a running demo: `npx tsx bin/pictures.ts
 * http://localhost:4310 [name...]`.
 */

const [base = "http://localhost:4310", ...wanted] = process.argv.slice(2);
const FOLDER = process.env.PICTURES ?? "docs/screenshots";

interface Picture {
  path: string;
  as?: string;
  dark?: boolean;
  width?: number;
  before?: (page: Page) => Promise<unknown>;
  /** Puts back what `before` changed. */
  after?: (page: Page) => Promise<unknown>;
}

const click = (selector: string) => async (page: Page) => {
  await page.waitForSelector(selector);
  await page.click(selector);
};

const state = (name: string) => async (page: Page) => {
  await page.waitForSelector(".react-flow__node");
  await page.waitForNetworkIdle();
  await page.click(`[data-state="${name}"]`);
  await page.waitForSelector("[data-inspects]");
};

const PICTURES: Record<string, Picture> = {
  board: { path: "/p/TIX/flow" },
  "board-lanes": {
    path: "/p/TIX/flow",
    before: async (page) => {
      await click("h1 button")(page);
      await click("::-p-xpath(//a[contains(., 'What presses')])")(page);
      await page.waitForSelector("[data-mark]");
      await page.keyboard.press("f");
      await page.waitForSelector(".counted-value");
    },
  },
  across: { path: "/across/team-ticketing?board=levels" },
  walk: {
    path: "/p/TIX/flow/walk",
    before: async (page) => {
      await click('::-p-xpath(//button[starts-with(normalize-space(.), "Begin with")])')(page);
      await page.waitForSelector('[aria-label="The walk"]');
      for (let steps = 0; steps < 8; steps++) {
        await page.keyboard.press("ArrowRight");
        await page.waitForNetworkIdle({ idleTime: 300 });
      }
      await page.waitForSelector("[data-walk-item] figure");
    },
    after: click('::-p-xpath(//button[normalize-space(.) = "End it"])'),
  },
  item: { path: "/p/TIX/items/TIX-640" },
  today: { path: "/p/TIX/today", as: "ivo.sandell" },
  "triage-desk": {
    path: "/p/TIX/intake",
    as: "tomas.kerr",
    before: async (page) => {
      await page.waitForSelector("article h2");
      await page.keyboard.press("ArrowDown");
      await page.waitForFunction(() =>
        document.querySelector("article")?.textContent?.includes("It can be made to happen"),
      );
    },
  },
  changes: { path: "/p/TIX/ship" },
  environments: { path: "/p/TIX/ship/environments" },
  release: { path: "/p/TIX/ship/releases" },
  "test-run": {
    path: "/p/TIX/ship/tests",
    as: "lukas.pell",
    before: async (page) => {
      await page.waitForSelector(".run-step[data-active]");
      await page.waitForNetworkIdle({ idleTime: 300 });
    },
  },
  acceptance: {
    path: "/p/TIX/ship/acceptance",
    before: async (page) => {
      await page.waitForSelector(".shown-to");
      // The page of the first who has one, as they see it.
      const address = await page.evaluate(async () => {
        const answer = await fetch("/api/projects/TIX/ship/acceptance");
        const { showings } = (await answer.json()) as { showings: { page: string | null }[] };
        return showings.find((one) => one.page !== null)!.page!;
      });
      await page.goto(address);
      await page.waitForSelector(".shown-picture");
    },
  },
  plan: { path: "/p/TIX/plan" },
  planning: { path: "/p/TIX/plan/planning" },
  waiting: { path: "/p/TIX/plan/waiting" },
  timeline: {
    path: "/p/TIX/flow",
    before: async (page) => {
      await click("h1 button")(page);
      await click("::-p-xpath(//a[contains(., 'What comes when')])")(page);
      await page.waitForSelector(".tl-fade");
      await click(".tl-fold[aria-expanded='false']")(page);
      await page.waitForNetworkIdle({ idleTime: 300 });
    },
  },
  sprint: {
    path: "/p/TIX/plan/sprints?sprint=tix-sprint-20",
    before: (page) => page.waitForSelector(".recharts-surface"),
  },
  learn: { path: "/p/TIX/learn", before: (page) => page.waitForSelector(".recharts-surface") },
  design: { path: "/p/TIX/design", before: state("In review") },
};

async function main(): Promise<void> {
  const browser = await launchBrowser();
  for (const [name, picture] of Object.entries(PICTURES)) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    const context = await browser.createBrowserContext();
    const page = await context.newPage();
    page.on("console", (m) => m.type() === "error" && console.log(`${name}: ${m.text()}`));
    page.on("pageerror", (e) => console.log(`${name}: ${(e as Error).message}`));
    await page.setViewport({ width: picture.width ?? 1280, height: 800 });
    await page.goto(`${base}/sign-in`);
    if (picture.dark) await page.setCookie({ name: "theme", value: "dark", url: base });
    if (picture.as !== "")
      await page.evaluate(
        (email, password) =>
          fetch("/api/auth/sign-in/email", {
            method: "POST",
            headers: { "Content-Type": "application/json" },
            body: JSON.stringify({ email, password }),
          }).then((r) => r.text()),
        `${picture.as ?? "ines.dahl"}@saltmarsh.example`,
        DEMO_PASSWORD,
      );
    await page.goto(base + picture.path);
    await page.waitForSelector("html[data-ready]");
    await picture.before?.(page);
    await page.evaluate(() => document.fonts.ready);
    await new Promise((resolve) => setTimeout(resolve, 400));
    await page.screenshot({ path: `${FOLDER}/${name}.png` as `${string}.png` });
    await picture.after?.(page);
    console.log(name);
    await context.close();
  }
  await browser.close();
}

void main();
