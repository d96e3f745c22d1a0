import { gzipSync } from "node:zlib";
import type { Page } from "puppeteer-core";
import { launchBrowser } from "../browser";
import { boardContract } from "@/core/board/contract";
import type { Application } from "./application";
import { median, type Row } from "./row";

/*
 * A board with very many cards beside one with few, to the hand of who works on it: the same
 * browser, one after the other.
 */

const TIMES = 15;

/** What somebody does on a board, and how long each took in milliseconds. */
type Doing = "pick up" | "key" | "open";

/** Until a first key did something. */
async function opened(page: Page, address: string): Promise<number> {
  const start = performance.now();
  await page.goto(address, { waitUntil: "domcontentloaded" });
  await page.waitForFunction(
    () => {
      const card = document.querySelector<HTMLElement>("[data-card]");
      if (!card) return false;
      if (document.querySelector("[data-chosen=true]")) return true;
      card.focus();
      card.dispatchEvent(new KeyboardEvent("keydown", { key: "x", bubbles: true }));
      return false;
    },
    { polling: 20, timeout: 60_000 },
  );
  return performance.now() - start;
}

/** How long one thing takes until it is drawn. */
const once = (page: Page, doing: Doing) =>
  page.evaluate(async (what) => {
    const drawn = () =>
      new Promise<void>((resolve) =>
        requestAnimationFrame(() => requestAnimationFrame(() => resolve())),
      );
    const until = async (so: () => boolean) => {
      const begun = performance.now();
      while (!so()) {
        if (performance.now() - begun > 20_000) throw new Error(`nothing came of ${what}`);
        await new Promise((resolve) => setTimeout(resolve, 4));
      }
    };
    const cards = [...document.querySelectorAll<HTMLElement>("[data-board-area] [data-card]")];
    const card = cards[Math.floor(Math.random() * Math.min(cards.length, 12))];
    const point = (type: string, x: number) =>
      new PointerEvent(type, {
        bubbles: true,
        isPrimary: true,
        button: 0,
        buttons: 1,
        clientX: x,
        clientY: 300,
      });
    const key = (name: string) =>
      new KeyboardEvent("keydown", { key: name, code: name, bubbles: true });
    card.focus();
    await drawn();
    const start = performance.now();
    if (what === "pick up") {
      card.dispatchEvent(point("pointerdown", 300));
      document.dispatchEvent(point("pointermove", 330));
      await until(() => document.querySelector("[data-lifted=true]") !== null);
    } else if (what === "key") card.dispatchEvent(key("ArrowDown"));
    else {
      card.dispatchEvent(key("Enter"));
      await until(() => document.querySelector("[data-open=true]") !== null);
    }
    await drawn();
    const took = performance.now() - start;
    if (what === "pick up") {
      document.dispatchEvent(key("Escape"));
      await until(() => document.querySelector("[data-lifted=true]") === null);
    } else if (what === "open") {
      window.dispatchEvent(key("Escape"));
      document.dispatchEvent(key("Escape"));
    }
    await drawn();
    return took;
  }, doing);

async function handled(page: Page, address: string) {
  const usable = [];
  for (let i = 0; i < 5; i++) usable.push(await opened(page, address));
  const took = {} as Record<Doing, number>;
  for (const doing of ["pick up", "key", "open"] as const) {
    await once(page, doing);
    const times = [];
    for (let i = 0; i < TIMES; i++) times.push(await once(page, doing));
    took[doing] = median(times);
  }
  const elements = await page.evaluate(() => document.querySelectorAll("*").length);
  return { usable: median(usable), took, elements };
}

/** The board of 2,000 items in progress beside the one of 40. */
export async function boardInBrowser(app: Application): Promise<Row[]> {
  const { base, cookie } = app.session;
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage();
    await page.setViewport({ width: 1280, height: 800 });
    // The compiler names functions with a helper of its own, which the page does not have.
    await page.evaluateOnNewDocument("globalThis.__name = (of) => of");
    await page.setExtraHTTPHeaders({ Cookie: cookie });
    const few = await handled(page, `${base}/p/BIG2/flow`);
    const many = await handled(page, `${base}/p/BIG1/flow`);
    const doings = Object.keys(few.took) as Doing[];
    const ratio = (doing: Doing) => many.took[doing] / few.took[doing];
    const worst = doings.reduce((a, b) => (ratio(b) > ratio(a) ? b : a));
    const against = "the same with 40 in the same browser";
    const html = await (await app.send("/p/BIG1/flow")).text();
    const asked = { params: { key: "BIG1" }, query: {} };
    const data = await (await app.ask(boardContract.read, asked)).text();
    return [
      {
        what: "a board with 2,000 cards in progress, until a key does something",
        measured: many.usable,
        yardstick: few.usable,
        against,
        reach: 1.5,
      },
      {
        what: `on it, the worst of pick up, key and open: ${worst}`,
        measured: many.took[worst],
        yardstick: few.took[worst],
        against,
        reach: 1.5,
      },
      {
        what: "its elements in the page",
        measured: many.elements,
        yardstick: 6_000,
        against: "6,000",
        reach: 1,
        unit: "",
      },
      {
        what: "its page and data, compressed",
        measured: (gzipSync(html).length + gzipSync(data).length) / 1000,
        yardstick: 300,
        against: "300 kB",
        reach: 1,
        unit: "kB",
      },
    ];
  } finally {
    await browser.close();
  }
}
