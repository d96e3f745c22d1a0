import { launchBrowser } from "../browser";
import type { Application } from "./application";
import type { Row } from "./row";

/** A timeline of as many rows as one shows at most: only those in sight are elements. */
export async function timelineInBrowser(app: Application): Promise<Row> {
  const { base, cookie } = app.session;
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    await page.setExtraHTTPHeaders({ Cookie: cookie });
    await page.goto(`${base}/p/BIG1/flow?as=timeline`, { waitUntil: "domcontentloaded" });
    await page.waitForSelector(".tl-bar", { timeout: 60_000 });
    const elements = await page.evaluate(() => document.querySelectorAll("*").length);
    return {
      what: "a timeline of 2,000 rows: its elements in the page",
      measured: elements,
      yardstick: 6_000,
      against: "6,000",
      reach: 1,
      unit: "",
    };
  } finally {
    await browser.close();
  }
}
