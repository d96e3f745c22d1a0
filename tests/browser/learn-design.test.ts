import { givenApplication } from "./setup/application";
import { givenBrowser, type Person } from "./setup/person";

const browser = givenBrowser();
const app = givenApplication();

describe("the lead opens Learn", () => {
  let ines: Person;
  const list = "main + aside";

  beforeAll(async () => {
    ines = await browser.person(app.address(), "Ines Dahl");
    await ines.open("/p/TIX/learn");
  });

  test("all five pictures are there, by period, type and class of service", async () => {
    for (const title of [
      "Cumulative flow",
      "Cycle time",
      "Throughput",
      "Age of what is in progress",
    ])
      await ines.page.waitForSelector(`section[aria-label="${title}"] svg`);
    for (const state of ["Ready", "Building", "Waiting for review", "In test", "Ready to deploy"])
      await ines.page.waitForSelector(
        `section[aria-label="Where the time went"] div[title^="${state}: "]`,
      );
    await ines.reads(/50 % \d+ d/);
    await ines.reads(/85 % \d+ d/);
    await ines.reads(/95 % \d+ d/);
    await ines.reads(/expected 11 d/);
    const finished = async () => Number(await ines.text("dl > div:nth-child(2) dd button"));
    const all = await finished();
    await ines.choose("Item type", "Bug");
    await ines.page.waitForFunction(
      (n: number) =>
        Number(document.querySelector<HTMLElement>("dl > div:nth-child(2) dd button")!.innerText) <
        n,
      {},
      all,
    );
    const bugs = await finished();
    await ines.choose("Class of service", "expedite");
    await ines.page.waitForFunction(
      (n: number) =>
        Number(document.querySelector<HTMLElement>("dl > div:nth-child(2) dd button")!.innerText) <
        n,
      {},
      bugs,
    );
    await ines.press("clear");
    await ines.page.waitForFunction(
      (n: number) =>
        Number(
          document.querySelector<HTMLElement>("dl > div:nth-child(2) dd button")!.innerText,
        ) === n,
      {},
      all,
    );
    await ines.choose("Period", "39 weeks");
    await ines.page.waitForFunction(
      (n: number) =>
        Number(document.querySelector<HTMLElement>("dl > div:nth-child(2) dd button")!.innerText) >
        n,
      {},
      all,
    );
    expect(ines.page.url()).toContain("period=39+weeks");
  });

  test("every figure opens the items behind it, and they are as many as it says", async () => {
    for (const nth of [2, 4]) {
      const button = `dl > div:nth-child(${nth}) dd button`;
      const says = await ines.text(button);
      await ines.click(button);
      await ines.reads(`${says} items`, list);
      await ines.page.waitForSelector(`${list} li button`);
      await ines.page.waitForFunction(
        (where: string, wanted: number) => {
          const rows = document.querySelectorAll(`${where} li`);
          // Of many the next come as one scrolls to the end.
          rows[rows.length - 1].scrollIntoView();
          return rows.length === wanted;
        },
        {},
        list,
        Number(says),
      );
      await ines.keys("Escape");
    }
    await ines.click('section[aria-label="Throughput"] .recharts-bar-rectangle:nth-child(3) path');
    await ines.reads("Finished in the week of", list);
    await ines.click(`${list} li button`);
    await ines.page.waitForSelector('aside[aria-label^="Item"] figure');
    await ines.keys("Escape");
    await ines.reads("Finished in the week of", list);
    await ines.keys("Escape");
    // Again, as a person would, when the chart was just being drawn anew under the pointer.
    for (let tries = 1; ; tries++) {
      await ines.click('section[aria-label="Cycle time"] .recharts-scatter-symbol circle');
      if (
        await ines.page
          .waitForSelector('aside[aria-label^="Item"] figure', { timeout: 4_000 })
          .catch(() => null)
      )
        break;
      if (tries === 3) throw new Error("clicking a point does not open its item");
    }
    await ines.keys("Escape");
    const area = (await ines.page.$(
      'section[aria-label="Cumulative flow"] .recharts-cartesian-grid',
    ))!;
    // As above: the dot under the pointer may be drawn anew as it is pressed.
    for (let tries = 1; ; tries++) {
      const box = (await area.boundingBox())!;
      await ines.page.mouse.move(box.x + box.width * 0.6 + tries, box.y + box.height * 0.6);
      await ines.click('section[aria-label="Cumulative flow"] .recharts-active-dot circle');
      const read = ines.reads(/at the end of \d+ \w+/, list);
      if (tries === 3 || (await read.then(() => true).catch(() => false))) break;
    }
    await ines.reads(/at the end of \d+ \w+/, list);
    await ines.keys("Escape");
    await ines.page.$eval('section[aria-label="Age of what is in progress"] a[role=button]', (a) =>
      (a as unknown as HTMLElement).focus(),
    );
    await ines.keys("Enter");
    await ines.page.waitForSelector('aside[aria-label^="Item"] figure');
    await ines.keys("Escape");
  });

  test("the pulse strip tells the same truth, and opens it", async () => {
    const wip = await ines.text("footer button");
    await ines.reads(wip, "dl > div:nth-child(4)");
    await ines.click("footer button");
    await ines.reads(`${wip} items`, list);
    await ines.keys("Escape");
  });

  test("the items behind a figure stand in groups and in an order as somebody wants them, also the next time", async () => {
    const wip = Number(await ines.text("footer button"));
    await ines.click("footer button");
    await ines.choose("In groups by", "state");
    const groups = async () =>
      ines.page.$$eval(`${list} section`, (all) =>
        all.map((section) => ({
          name: section.getAttribute("aria-label"),
          told: Number(section.querySelector("h3 span + span")!.textContent),
          rows: section.querySelectorAll("li").length,
        })),
      );
    await ines.page.waitForSelector(`${list} section[aria-label="Building"]`);
    const shown = await groups();
    expect(shown.map((g) => g.told)).toEqual(shown.map((g) => g.rows));
    expect(shown.reduce((sum, g) => sum + g.rows, 0)).toBe(wip);
    expect(shown[0].name).toBe("Ready");
    await ines.choose("Sorted by", "days in state");
    await ines.click('button[aria-label="Turn the order round"]');
    const longest = await ines.page.waitForFunction(
      (where: string) => {
        const rows = [
          ...document.querySelectorAll(`${where} section[aria-label="Waiting for review"] li`),
        ];
        const days = rows.map((row) =>
          parseFloat(row.lastElementChild!.lastElementChild!.textContent!),
        );
        return days.every((n, i) => i === 0 || n <= days[i - 1]) && days[0] > days[days.length - 1]
          ? days.length
          : 0;
      },
      {},
      list,
    );
    expect(await longest.jsonValue()).toBeGreaterThan(2);
    await ines.page.reload();
    await ines.page.waitForSelector("html[data-ready]");
    await ines.click("footer button");
    await ines.page.waitForSelector(`${list} section[aria-label="Building"]`);
    await ines.choose("In groups by", "nothing");
    await ines.choose("Sorted by", "nothing");
    await ines.keys("Escape");
  });
});
