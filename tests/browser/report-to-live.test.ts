import { rmSync, writeFileSync } from "node:fs";
import os from "node:os";
import path from "node:path";
import type { ElementHandle } from "puppeteer-core";
import { givenApplication } from "./setup/application";
import { holdPosts } from "./setup/held-requests";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

const TITLE = "Gate beeps but does not open at Heron island";
const PICTURE = path.join(os.tmpdir(), "zigzag-test-picture.png");
// The smallest PNG: one pixel.
const PIXEL = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

let requester: Person;
let triager: Person;
let maker: Person;
let itemKey: string;

test("a requester without an account sends a report with a picture and gets a reference and a page", async () => {
  writeFileSync(PICTURE, PIXEL);
  requester = await browser.person(app.address());
  await requester.open("/report/TIX/report");
  await requester.press("Send report");
  await requester.reads("Say in a few words what it is about.");
  await requester.fill("In a few words", TITLE);
  await requester.fill("What happened?", "It beeped twice and stayed shut. <b>Twice</b>!");
  await requester.reads("This is needed.");
  await requester.click(
    '::-p-xpath(//fieldset[contains(., "Could you travel")]//label[contains(., "yes")]/input)',
  );
  await requester.reads("Who helped you on board?");
  await requester.fill("Where was it?", "Heron island");
  await requester.fill("Your mail address", "not an address");
  const file = (await requester.page.$("#files")) as ElementHandle<HTMLInputElement>;
  await file.uploadFile(PICTURE);
  await requester.press("Send report");
  await requester.reads("This is no mail address we could write to.");
  expect(await requester.page.$eval("#title", (e) => (e as HTMLInputElement).value)).toBe(TITLE);
  await requester.fill("Your mail address", "anna@post.saltmarsh.example");
  await requester.press("Send report");
  await requester.reads(/Your reference is R-[A-Z0-9]+/);
  await requester.click("::-p-text(Open my page)");
  await requester.reads("Received");
  await requester.reads(TITLE);
});

test("without JavaScript a mistake stands at its field, and what was typed is still there", async () => {
  const visitor = await browser.person(app.address());
  await visitor.page.setJavaScriptEnabled(false);
  await visitor.page.goto(`${app.address()}/report/TIX/report`);
  await visitor.page.type("#title", "The gate at Heron hums");
  await visitor.page.type("#mail", "not an address");
  const sent = visitor.page.waitForNavigation();
  await visitor.page.$eval("form", (form) => form.setAttribute("novalidate", ""));
  await visitor.page.click('form button[type="submit"]');
  await sent;
  expect(new URL(visitor.page.url()).pathname).toBe("/report/TIX/report");
  const at = (id: string) =>
    visitor.page.$eval(`[data-question="${id}"]`, (e) => (e as HTMLElement).innerText);
  expect(await at("mail")).toContain("This is no mail address we could write to.");
  expect(await at("happened")).toContain("Tell us what happened.");
  expect(await visitor.page.$eval("#title", (e) => (e as HTMLInputElement).value)).toBe(
    "The gate at Heron hums",
  );
  await visitor.page.close();
});

test("the first mistake takes the focus, goes as it is mended, and chosen files can be taken out again", async () => {
  const visitor = await browser.person(app.address());
  await visitor.open("/report/TIX/report");
  await visitor.press("Send report");
  await visitor.reads("Say in a few words what it is about.");
  const focused = () => visitor.page.evaluate(() => document.activeElement?.id);
  expect(await focused()).toBe("title");
  await visitor.page.keyboard.type("The gate hums");
  await visitor.page.waitForFunction(
    () => !document.body.innerText.includes("Say in a few words what it is about."),
  );
  expect(await focused()).toBe("title");
  const file = (await visitor.page.$("#files")) as ElementHandle<HTMLInputElement>;
  const large = path.join(os.tmpdir(), "zigzag-large-picture.png");
  writeFileSync(large, Buffer.concat([PIXEL, Buffer.alloc(6 * 1024 * 1024)]));
  await file.uploadFile(PICTURE, large);
  await visitor.reads("zigzag-large-picture.png has 6.0 MB, and 5 MB are the most.");
  await visitor.click('button[aria-label="Take out zigzag-large-picture.png"]');
  await visitor.reads("1 of at most 5");
  rmSync(large);
  await visitor.page.close();
});

test("an address of no form names those that are open, and one of no report says what to do", async () => {
  const visitor = await browser.person(app.address());
  await visitor.open("/report/TIX/mistyped");
  await visitor.reads("There is no form at this address");
  await visitor.page.waitForSelector('a[href^="/report/TIX/"]');
  await visitor.open("/r/mistyped-token");
  await visitor.reads("copy all of it from the mail that we sent you");
  await visitor.page.close();
});

test("the triager opens the desk, reads the oldest first, asks; the requester answers; the report returns", async () => {
  triager = await browser.person(app.address());
  await triager.open("/sign-in");
  await triager.click('::-p-xpath(//button[contains(., "Tomas Kerr")])');
  await triager.page.waitForFunction(() => location.pathname.startsWith("/p/"));
  await triager.open("/p/TIX/intake");
  const ages = await triager.page.$$eval('nav[aria-label="Queue"] ul:first-of-type li', (rows) =>
    rows.map((r) => (r as HTMLElement).innerText),
  );
  expect(ages[0]).toMatch(/7 days/);
  await triager.click(`::-p-xpath(//nav[@aria-label="Queue"]//button[contains(., "${TITLE}")])`);
  await triager.reads("It beeped twice and stayed shut. <b>Twice</b>!", "article");
  await triager.page.waitForSelector("article img");
  await triager.keys("q");
  await triager.page.waitForSelector("form textarea");
  await triager.page.keyboard.type("Which of the two gates was it?");
  await triager.chord("Control", "Enter");
  await triager.reads(/is asked\./);
  await requester.page.reload();
  await requester.reads("Which of the two gates was it?");
  await requester.fill("Your answer", "The left one.");
  await requester.press("Send answer");
  await requester.reads("Received");
  await triager.reads("an answer came");
});

test("it is accepted into the backlog by keyboard, can be undone, and is accepted again", async () => {
  await triager.click(`::-p-xpath(//nav[@aria-label="Queue"]//button[contains(., "${TITLE}")])`);
  await triager.reads("The left one.", "article");
  const accept = async () => {
    await triager.keys("a");
    await triager.page.waitForSelector('form[aria-label="Accept"]');
    await triager.choose("Severity", "major");
    await triager.choose("It hits", "many people");
    await triager.choose("It is needed", "this week");
    await triager.click(
      '::-p-xpath(//fieldset[contains(., "Owner")]//label[contains(., "Noor Bakri")]/input)',
    );
    await triager.choose("Where to", "top of the backlog");
    await triager.chord("Control", "Enter");
    await triager.page.waitForFunction(
      (t: string) =>
        !document.querySelector<HTMLElement>('nav[aria-label="Queue"]')!.innerText.includes(t),
      {},
      TITLE,
    );
    await triager.page.waitForFunction(() => !document.body.innerText.includes("storing"));
    await triager.reads(/is accepted as TIX-\d+/);
  };
  await accept();
  await triager.page.evaluate(() => (document.activeElement as HTMLElement)?.blur());
  await triager.keys("u");
  await triager.reads(TITLE, 'nav[aria-label="Queue"]');
  await triager.page.waitForFunction(
    (t: string) => document.querySelector("article h2")?.textContent === t,
    {},
    TITLE,
  );
  await accept();
  await triager.open("/p/TIX/plan");
  itemKey = (await triager.page.$eval('ol[aria-label="Backlog in order"] li[data-key]', (li) =>
    li.getAttribute("data-key"),
  ))!;
  await triager.reads(TITLE, `li[data-key="${itemKey}"]`);
});

test("the report behind the item is read where the item is: its words, its letters and its picture", async () => {
  const reports = "section[aria-label=Reports]";
  await triager.open(`/p/TIX/items/${itemKey}`);
  await triager.press("read", '//section[@aria-label="Reports"]');
  // As text, whatever is in it.
  await triager.reads("It beeped twice and stayed shut. <b>Twice</b>!", reports);
  await triager.reads("Which of the two gates was it?", reports);
  await triager.reads("The left one.", reports);
  await triager.page.waitForSelector(`${reports} img`);
  await triager.reads("Tomas Kerr accepted it", reports);
  await triager.press("close", '//section[@aria-label="Reports"]');
  await triager.page.waitForFunction(
    (where: string) => !document.querySelector(where)!.textContent!.includes("The left one."),
    {},
    reports,
  );
});

test("the maker takes it from the ranked backlog and moves it by drag, by keyboard and from the card's actions", async () => {
  maker = await browser.person(app.address(), "Noor Bakri");
  await maker.open("/p/TIX/flow");
  await maker.press("Backlog");
  await maker.drag(itemKey, "Ready to pull");
  await maker.waitForPlace(itemKey, "Ready to pull");
  await maker.press("Backlog");
  await maker.drag(itemKey, "Build building");
  await maker.waitForPlace(itemKey, "Build building");
  // By keyboard: one part on.
  await maker.focusCard(itemKey);
  await maker.keys("]");
  await maker.waitForPlace(itemKey, "Review waiting");
  // Picked up, carried one column, dropped; the rule about the reviewer is asked for in place.
  for (let tries = 1; ; tries++) {
    await maker.focusCard(itemKey);
    await maker.keys("Space");
    await maker.reads(`${itemKey} picked up`, "[role=status]");
    await maker.keys("ArrowRight", "Space");
    // News of the move before may draw the card anew in the midst of this; then once more.
    const asked = await maker
      .reads("Review needs a reviewer.")
      .then(() => true)
      .catch(() => false);
    if (asked) break;
    expect(tries).toBeLessThan(3);
    await maker.keys("Escape");
  }
  await maker.choose("Reviewer", "Ruth Abara");
  await maker.press("Start review", "//form");
  await maker.waitForPlace(itemKey, "Review reviewing");
  // From the card's own actions.
  await maker.focusCard(itemKey);
  await maker.keys(".");
  await maker.press("Pass review");
  await maker.reads("It needs a note on how to test it.");
  await maker.fill(
    "How to test it",
    "Hold a ticket under the left scanner: it opens within a second.",
  );
  await maker.press("Pass review", "//form");
  await maker.waitForPlace(itemKey, "Test waiting");
  // Two keys in one breath, before anything is drawn anew, are two moves; the second is asked when
  // the first is answered.
  const posts = await holdPosts(maker, "/api/items/commands");
  await maker.focusCard(itemKey);
  await maker.page.$eval(`[data-key="${itemKey}"]`, (card) => {
    for (let n = 0; n < 2; n++)
      card.dispatchEvent(new KeyboardEvent("keydown", { key: "]", bubbles: true }));
  });
  await maker.waitForPlace(itemKey, "Deploy waiting");
  await posts.first();
  expect(posts.held).toHaveLength(1);
  await posts.letGo();
  await maker.reads(`${itemKey} is in Ready to deploy.`);
  await posts.stop();
  await maker.waitForPlace(itemKey, "Deploy waiting");
  await maker.drag(itemKey, "Live 14 days");
  await maker.reads("Finishing names an outcome.");
  await maker.press("Deploy", "//form");
  await maker.waitForPlace(itemKey, "Live 14 days");
});

test("the requester hears that it is done, step by step", async () => {
  await requester.page.waitForFunction(() => document.body.innerText.includes("Done"), {
    timeout: 30_000,
    polling: 500,
  });
  await requester.reads("It has reached this step: Review.");
});

test("parked, merged and declined reports leave the queue, each by one key, and come back by undo", async () => {
  await triager.open("/p/TIX/intake");
  const waiting = async () =>
    Number(/(\d+) reports? waits?/.exec(await triager.text("h1 + p"))![1]);
  for (const [key, fill] of [
    ["p", ""],
    ["m", ""],
    ["d", "We cannot change this."],
  ] as const) {
    const before = await waiting();
    await triager.page.evaluate(() => (document.activeElement as HTMLElement)?.blur());
    await triager.keys(key);
    await triager.page.waitForSelector("form[aria-label]");
    if (fill) await triager.page.keyboard.type(fill);
    await triager.chord("Control", "Enter");
    await triager.page.waitForFunction(
      (n: number) => document.querySelector("h1 + p")!.textContent!.startsWith(`${n} `),
      {},
      before - 1,
    );
    await triager.page.evaluate(() => (document.activeElement as HTMLElement)?.blur());
    await triager.keys("u");
    await triager.page.waitForFunction(
      (n: number) => document.querySelector("h1 + p")!.textContent!.startsWith(`${n} `),
      {},
      before,
    );
    await triager.page.waitForSelector("article h2");
  }
});
