import puppeteer, { type Page } from "puppeteer-core";
import { DEMO_PASSWORD } from "@demo/people";

/*
 * Takes the pictures of docs/screenshots from a running demo: `npx tsx bin/pictures.ts http://localhost:4310 [name...]`.
 */

const [base = "http://localhost:4310", ...wanted] = process.argv.slice(2);
const FOLDER = process.env.PICTURES ?? "docs/screenshots";

interface Picture {
  path: string;
  as?: string;
  dark?: boolean;
  width?: number;
  before?: (page: Page) => Promise<unknown>;
}

const click = (selector: string) => async (page: Page) => {
  await page.waitForSelector(selector);
  await page.click(selector);
};

const PICTURES: Record<string, Picture> = {
  board: { path: "/p/TIX/flow" },
  "board-dark": { path: "/p/TIX/flow", dark: true },
  item: { path: "/p/TIX/flow", before: async (page) => {
    await page.waitForSelector('.card[data-compact="false"]');
    await page.evaluate(() => document.querySelectorAll<HTMLElement>('.card[data-compact="false"]')[2].click());
    await page.waitForSelector('aside[aria-label^="Item"] figure');
  } },
  "triage-desk": { path: "/p/TIX/intake", as: "tomas", before: click("button[aria-pressed]") },
  "public-report-page": { path: "/report/TIX" },
  plan: { path: "/p/TIX/plan" },
  learn: { path: "/p/TIX/learn", before: (page) => page.waitForSelector(".recharts-surface") },
  design: { path: "/p/TIX/design" },
  "sign-in": { path: "/sign-in", as: "" },
};

async function main(): Promise<void> {
  const browser = await puppeteer.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
  });
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
        (email, password) => fetch("/api/auth/sign-in/email", { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify({ email, password }) }).then((r) => r.text()),
        picture.as === "tomas" ? "tomas.kerr@saltmarsh.example" : "ines.dahl@saltmarsh.example",
        DEMO_PASSWORD,
      );
    await page.goto(base + picture.path);
    await page.waitForSelector("html[data-ready]");
    await picture.before?.(page);
    await page.evaluate(() => document.fonts.ready);
    await new Promise((resolve) => setTimeout(resolve, 400));
    await page.screenshot({ path: `${FOLDER}/${name}.png` as `${string}.png` });
    console.log(name);
    await context.close();
  }
  await browser.close();
}

void main();
