import type { BoundingBox, Browser, ElementHandle, Page } from "puppeteer-core";
import { launchBrowser } from "../../../bin/browser";
import { cookiesOf } from "./session";

/**
 * What the browser itself tells of pages that are not there, and of a server that is away or asks to
 * wait. A refusal is no error.
 */
const EXPECTED = /Failed to load resource: the server responded with a status of (404|429|503)/;

/** Gives a test file a browser; at its end no page may have had an error in its console. */
export function givenBrowser(): { person: (address: string, name?: string) => Promise<Person> } {
  let browser: Browser;
  const errors: string[] = [];
  beforeAll(async () => {
    browser = await launchBrowser();
  });
  // Before the application stops: an open page would complain that it is gone.
  afterAll(async () => {
    await browser.close();
    expect(errors).toEqual([]);
  });
  return {
    person: async (address, name) => {
      const context = await browser.createBrowserContext();
      const page = await context.newPage();
      await page.setViewport({ width: 1280, height: 800 });
      // A machine that does other things as well is no fault of the page.
      page.setDefaultTimeout(60_000);
      page.setDefaultNavigationTimeout(90_000);
      page.on(
        "console",
        (m) => m.type() === "error" && !EXPECTED.test(m.text()) && errors.push(m.text()),
      );
      page.on("pageerror", (e) => errors.push((e as Error).message));
      // Left open, it would keep every later step of this person from happening.
      page.on("dialog", (dialog) => {
        errors.push(`the browser asked before a page was left: ${dialog.type()} ${page.url()}`);
        void dialog.accept();
      });
      const person = new Person(page, address);
      if (name) await person.isSignedIn(name);
      return person;
    },
  };
}

/** How often something that is drawn anew is clicked. */
const CLICKS = 12;
const BETWEEN_CLICKS = 250;
const BETWEEN_LOOKS = 60;

/** Somebody at a browser: sees, clicks, types, drags. */
/** A point of something, near its head. */
const within = ({ x, y, width, height }: BoundingBox) => ({
  x: x + width / 2,
  y: y + Math.min(height / 2, 40),
});

const holds = ({ x, y, width, height }: BoundingBox, at: { x: number; y: number }): boolean =>
  at.x >= x && at.x <= x + width && at.y >= y && at.y <= y + height;

/** Where something stands once it moves no more: what comes into sight may push it aside. */
async function standingStill(element: ElementHandle<Element>): Promise<BoundingBox> {
  let before = (await element.boundingBox())!;
  for (;;) {
    await new Promise((passed) => setTimeout(passed, BETWEEN_LOOKS));
    const now = (await element.boundingBox())!;
    if (now.x === before.x && now.y === before.y) return now;
    before = now;
  }
}

export class Person {
  constructor(
    readonly page: Page,
    readonly address: string,
  ) {}

  /** By one click on the demo's sign-in page. */
  /** Has a session; no page is open yet. */
  async isSignedIn(name: string): Promise<void> {
    for (const cookie of await cookiesOf(this.address, name)) {
      const at = cookie.indexOf("=");
      const [own, value] = [cookie.slice(0, at), cookie.slice(at + 1)];
      await this.page.setCookie({ name: own, value, url: this.address });
    }
  }

  /** May copy to the clipboard, and read what stands there. */
  async mayUseClipboard(): Promise<void> {
    await this.page
      .browserContext()
      .overridePermissions(this.address, [
        "clipboard-read",
        "clipboard-write",
        "clipboard-sanitized-write",
      ]);
  }

  async open(path: string): Promise<void> {
    await this.page.goto(this.address + path);
    await this.page.waitForSelector("html[data-ready]");
  }

  /** Clicks what it finds; again where that is drawn anew just then, or still comes into sight. */
  async click(selector: string): Promise<void> {
    for (let tries = 1; ; tries++) {
      const element = (await this.page.waitForSelector(selector, {
        visible: true,
      })) as ElementHandle<Element>;
      try {
        // A notice slides in: a click would meet the place where it has been.
        await standingStill(element);
        return await element.click();
      } catch (error) {
        if (tries === CLICKS) throw error;
        await new Promise((tried) => setTimeout(tried, BETWEEN_CLICKS));
      }
    }
  }

  /** Clicks what opens something; once more where the page had not listened yet, or drew it anew. */
  async opens(button: string, opened: string): Promise<void> {
    await this.click(button);
    await this.page.waitForSelector(opened, { timeout: 5_000 }).catch(async () => {
      await this.click(button);
      await this.page.waitForSelector(opened);
    });
  }

  async openMenu(button: string): Promise<void> {
    await this.opens(button, "[role=menu]");
  }

  /** The button whose words begin so. */
  async press(words: string, within = ""): Promise<void> {
    await this.click(
      `::-p-xpath(${within}//button[starts-with(normalize-space(.), "${words}") and not(@disabled)])`,
    );
  }

  /** The field that a person finds by this label. */
  private async field<T extends HTMLElement>(
    label: string,
    within = "body",
  ): Promise<ElementHandle<T>> {
    try {
      const found = await this.page.waitForFunction(
        (words: string, inside: string) =>
          [...document.querySelectorAll<HTMLElement>(inside)]
            .flatMap((e) => [...e.querySelectorAll<HTMLElement>("input,textarea,select,button")])
            .find(
              (e) =>
                e.getAttribute("aria-label") === words ||
                e.getAttribute("aria-label")?.startsWith(`${words}: `) ||
                e.title === words ||
                [...((e as HTMLInputElement).labels ?? [])].some((l) =>
                  l.textContent!.trim().startsWith(words),
                ),
            ) ?? null,
        {},
        label,
        within,
      );
      return found.asElement() as ElementHandle<T>;
    } catch {
      throw new Error(`no field is labelled ${label}`);
    }
  }

  /** Types into the field with this label, in place of what is there. */
  async fill(label: string, text: string): Promise<void> {
    const field = await this.field<HTMLInputElement>(label);
    // Away from the edges, where a notice may lie over it for a moment.
    await field.evaluate((e) => e.scrollIntoView({ block: "center" }));
    await field.click();
    await field.evaluate((e) => e.select());
    await this.page.keyboard.press("Backspace");
    await field.type(text);
  }

  /** Finds something by words in a field that searches, and takes the first that fits. */
  async find(label: string, words: string): Promise<void> {
    const field = await this.field<HTMLElement>(label);
    await field.press("Enter");
    await this.page.waitForFunction(
      () => document.activeElement?.classList.contains("combobox-text"),
      { polling: 50 },
    );
    await this.page.keyboard.type(words);
    await this.page.waitForFunction(
      (wanted: string) =>
        document
          .querySelector<HTMLElement>('[cmdk-item][aria-selected="true"]')
          ?.innerText.includes(wanted),
      {},
      words,
    );
    await this.page.keyboard.press("Enter");
    await this.page.waitForFunction(() => !document.querySelector(".combobox-text"));
  }

  /** Links the item that is open to another one, by its key. */
  async link(how: string, key: string): Promise<void> {
    await this.press("Link another item");
    await this.choose("How it is linked", how, 'form[aria-label="Link another item"]');
    await this.find("The other item", key);
    await this.press("Link them");
  }

  /** Adds words to a field of labels or parts by typing them, and leaves it. */
  async addTerms(label: string, ...names: string[]): Promise<void> {
    const group = `[role=group][aria-label="${label}"]`;
    const chips = () => this.page.$$eval(`${group} .term-chip`, (all) => all.length);
    await this.click(`${group} .term-add`);
    for (const name of names) {
      const before = await chips();
      await this.page.waitForFunction(
        () => document.activeElement?.classList.contains("combobox-text"),
        { polling: 50 },
      );
      await this.page.keyboard.type(name);
      await this.page.keyboard.press("Enter");
      await this.page.waitForFunction(
        (chip: string, more: number) => document.querySelectorAll(chip).length > more,
        {},
        `${group} .term-chip`,
        before,
      );
    }
    await this.page.keyboard.press("Escape");
    await this.page.waitForFunction(() => !document.querySelector(".combobox-text"));
  }

  async choose(label: string, option: string, within = "body"): Promise<void> {
    const field = await this.field<HTMLElement>(label, within);
    await field.evaluate((e) => e.scrollIntoView({ block: "center" }));
    if (await field.evaluate((e) => e.tagName === "SELECT"))
      return this.chooseNative(field, option);
    // By the keyboard: what was chosen before may still move the field under the pointer.
    await field.press("Enter");
    const offered = (timeout: number) =>
      this.page.waitForFunction(
        (wanted: string) =>
          [...document.querySelectorAll<HTMLElement>("[role=option],[role^=menuitem]")].find((o) =>
            o.innerText.trim().startsWith(wanted),
          ) ?? null,
        { timeout },
        option,
      );
    // What is drawn anew just then closes its list: it is opened once more.
    const found = await offered(5_000)
      .catch(async () => {
        await (await this.field<HTMLElement>(label, within)).press("Enter");
        return offered(30_000);
      })
      .catch(() => {
        throw new Error(`${label} offers no ${option}`);
      });
    const taken = found.asElement() as ElementHandle<HTMLElement>;
    await taken.focus();
    await taken.press("Enter");
    await this.page.waitForFunction(
      () => !document.querySelector("[role=listbox]:not([hidden]),[role=menu]"),
    );
  }

  /** The options that a list offers, without taking one. */
  async offers(label: string, within = "body"): Promise<string[]> {
    const field = await this.field<HTMLElement>(label, within);
    await field.press("Enter");
    await this.page.waitForSelector("[role=option]");
    const options = await this.page.$$eval("[role=option]", (all) =>
      // What is said beside a label is no part of it.
      all.map((o) => (o as HTMLElement).innerText.trim().split("\n")[0]),
    );
    await this.keys("Escape");
    await this.page.waitForFunction(() => !document.querySelector("[role=listbox]:not([hidden])"));
    return options;
  }

  /** In forms that are sent without JavaScript too. */
  private async chooseNative(field: ElementHandle<HTMLElement>, option: string): Promise<void> {
    const value = await field.evaluate(
      (select, wanted) =>
        [...(select as HTMLSelectElement).options].find((o) => o.text.startsWith(wanted))?.value,
      option,
    );
    if (value === undefined) throw new Error(`no ${option} is offered`);
    await field.select(value);
  }

  /** Writes into the line that narrows what is shown, and takes what it offers first. */
  async narrow(words: string): Promise<void> {
    const field = 'input[aria-label="Narrow what is shown"]';
    await this.click(field);
    await this.page.type(field, words);
    await this.page.waitForSelector("[cmdk-item][aria-selected=true]");
    await this.page.keyboard.press("Enter");
    await this.page.waitForFunction(
      (f: string) => document.querySelector<HTMLInputElement>(f)?.value === "",
      {},
      field,
    );
  }

  /** Waits until some words can be read on the page. */
  async reads(words: string | RegExp, within = "body"): Promise<void> {
    const [source, flags] =
      typeof words === "string"
        ? [words.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"), ""]
        : [words.source, words.flags];
    try {
      await this.page.waitForFunction(
        (s: string, f: string, w: string) =>
          [...document.querySelectorAll<HTMLElement>(w)].some((e) =>
            new RegExp(s, f).test(e.innerText ?? e.textContent),
          ),
        {},
        source,
        flags,
        within,
      );
    } catch {
      const text = await this.page.evaluate(
        (w: string) => document.querySelector<HTMLElement>(w)?.innerText ?? "(nothing)",
        within,
      );
      throw new Error(
        `“${source}” cannot be read in ${within}, which says: ${text.slice(0, 1_500)} … ${text.slice(1_500).slice(-500)}`,
      );
    }
  }

  async text(selector: string): Promise<string> {
    const element = await this.page.waitForSelector(selector);
    return element!.evaluate((e) => (e as HTMLElement).innerText);
  }

  /** The column that a card stands in: the label of its list. */
  async placeOf(key: string): Promise<string> {
    await this.page.waitForSelector(`[data-key="${key}"]`);
    return this.page.$eval(`[data-key="${key}"]`, (e) =>
      e.closest("[role=list]")!.getAttribute("aria-label")!,
    );
  }

  async waitForPlace(key: string, place: string): Promise<void> {
    try {
      await this.page.waitForFunction(
        (k: string, p: string) =>
          document
            .querySelector(`[data-key="${k}"]`)
            ?.closest("[role=list]")
            ?.getAttribute("aria-label")
            ?.endsWith(p),
        {},
        key,
        place,
      );
    } catch {
      throw new Error(
        `${key} is not in ${place} but in ${await this.placeOf(key).catch(() => "no column")}`,
      );
    }
  }

  /** Drags a card into a column with the mouse. */
  async drag(key: string, column: string): Promise<void> {
    const middle = (selector: string) =>
      this.page.$eval(selector, (e) => {
        e.scrollIntoView({ block: "center" });
        const r = e.getBoundingClientRect();
        return {
          x: r.left + r.width / 2,
          y: Math.max(Math.min(r.top + 30, innerHeight - 60), r.top + 8),
        };
      });
    await this.page.waitForSelector(`[data-key="${key}"]`);
    const from = await middle(`[data-key="${key}"]`);
    await this.page.mouse.move(from.x, from.y);
    await this.page.mouse.down();
    await this.page.mouse.move(from.x + 12, from.y + 4, { steps: 3 });
    const selector = `section:last-of-type [role=list][aria-label$="${column}"]`;
    const to = await this.page.$eval(selector, (e) => {
      const r = e.getBoundingClientRect();
      return { x: r.left + r.width / 2, y: Math.min(Math.max(r.top + 20, 220), innerHeight - 60) };
    });
    await this.page.mouse.move(to.x, to.y, { steps: 12 });
    // As a hand would, let go only once the page has drawn where the card is.
    await this.page.evaluate(
      () => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))),
    );
    await this.page.mouse.up();
  }

  /**
   * Takes a card by the pointer over another place, and lets go of it there.
   * @param meanwhile before it is let go
   */
  async carry(key: string, onto: string, meanwhile?: () => Promise<void>): Promise<void> {
    const into = async (selector: string) => {
      const found = (await this.page.waitForSelector(selector))!;
      await found.scrollIntoView();
      return found;
    };
    const from = within(await standingStill(await into(`[data-key="${key}"]`)));
    await this.page.mouse.move(from.x, from.y);
    await this.page.mouse.down();
    await this.page.mouse.move(from.x + 12, from.y + 12, { steps: 4 });
    const target = await into(onto);
    // What is carried near an edge scrolls the board: the pointer follows where the place went.
    for (let tries = 0; tries < CLICKS; tries++) {
      const to = within((await target.boundingBox())!);
      await this.page.mouse.move(to.x, to.y, { steps: 12 });
      if (holds((await target.boundingBox())!, to)) break;
    }
    await meanwhile?.();
    await this.page.mouse.up();
  }

  async focusCard(key: string): Promise<void> {
    await this.page.waitForSelector(`[data-key="${key}"]`);
    await this.page.$eval(`[data-key="${key}"]`, (e) => (e as HTMLElement).focus());
  }

  /** One key while another is held. */
  async chord(held: string, key: string): Promise<void> {
    await this.page.keyboard.down(held as "Enter");
    await this.keys(key);
    await this.page.keyboard.up(held as "Enter");
  }

  async keys(...keys: string[]): Promise<void> {
    for (const key of keys) await this.page.keyboard.press(key as "Enter");
  }
}
