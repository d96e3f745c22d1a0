import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { PLAIN_LOOK } from "@/core/view/look";
import { database } from "@/db/connection";
import { report } from "@/db/schema";
import { findAll } from "@/server/find/find";
import { findItems } from "@/server/find/items";
import { submitForm } from "@/server/intake/forms";
import { editViews } from "@/server/view/edit";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { itemIn, refusalOf, send } from "./setup/board";
import { ARTHUR, GRETA, INES, NOOR, OSKAR } from "./setup/people";
import { FORM } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const keysOf = async (q: string, more: object = {}, viewer = NOOR) =>
  (await findItems(viewer, { q, ...more })).rows.map(({ key }) => key);

async function itemWith(title: string, description = "", projectKey = "TIX") {
  const { card } = await createItem(INES, {
    commandId: randomUUID(),
    projectKey,
    parentId: null,
    fields: { title, description, typeId: "story" },
  });
  return card;
}

describe("items", () => {
  test("what is called so stands before what tells of it; what is open before what is over", async () => {
    const told = await itemWith(
      "A plain story",
      "The turnstile squeaks when the zephyrlatch is wet.",
    );
    const within = await itemWith("Wet zephyrlatches squeak");
    const begins = await itemWith("Zephyrlatch is greased");
    const { rows: found } = await findItems(NOOR, { q: "zephyrlatch" });
    expect(found.map(({ key, by, fit }) => [key, by, fit])).toEqual([
      [begins.key, "title", 1],
      [within.key, "title", 2],
      [told.key, "text", 4],
    ]);
    expect(found[2].excerpt.filter(({ hit }) => hit).map(({ text }) => text)).toEqual([
      "zephyrlatch",
    ]);
    expect(found[0].excerpt).toEqual([]);
    const { rows } = await findItems(NOOR, { q: "ticket" }, 500);
    const order = rows.map(({ fit, finished }) => fit * 2 + Number(finished));
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(new Set(order).size).toBeGreaterThan(2);
  });
  test("words in any form, parts of words, every script; all of them have to stand there", async () => {
    const { key } = await itemWith("Greasing the winchdrums of 船 Ærø");
    for (const q of ["greased winchdrum", "winchdr", "nchdru", "船", "ærø winchdrums"])
      expect([q, await keysOf(q)]).toEqual([q, [key]]);
    expect(await keysOf("winchdrums turbine")).toEqual([]);
  });
  test("keys, the beginning of a key, a number of any project, a key of before", async () => {
    const { key } = await itemWith("Whatever it is called");
    const number = key.slice("TIX-".length);
    expect((await keysOf(key.toLowerCase()))[0]).toBe(key);
    expect(await keysOf(number)).toContain(key);
    const begun = (await findItems(NOOR, { q: "tix 10" }, 50)).rows.map((row) => row.key);
    expect(begun).toEqual(expect.arrayContaining(["TIX-10", "TIX-100", "TIX-109"]));
    expect(begun.filter((one) => !/^TIX-10\d*$/.test(one))).toEqual([]);
  });
  test("page by page each once, in one order", async () => {
    for (let i = 0; i < 15; i++) await itemWith(`Fathomline ${i}`);
    const seen: string[] = [];
    let after: string | undefined;
    do {
      const page = await findItems(NOOR, { q: "fathomline", after }, 4);
      expect(page.rows.length).toBeLessThanOrEqual(4);
      seen.push(...page.rows.map(({ key }) => key));
      after = page.next ?? undefined;
    } while (after !== undefined);
    expect(seen).toHaveLength(15);
    expect(new Set(seen).size).toBe(15);
    expect(await keysOf("fathomline")).toEqual(seen.slice(0, 12));
    expect(await refusalOf(findItems(NOOR, { q: "fathomline", after: "no place" }))).toBe(
      "invalid",
    );
  });
  test("of two that fit as well the one of the project in which one is stands first", async () => {
    const here = await itemWith("Semaphoreflag is torn");
    const there = await itemWith("Semaphoreflag is lost", "", "GATE");
    expect(await keysOf("semaphoreflag", { at: "TIX" })).toEqual([here.key, there.key]);
    expect(await keysOf("semaphoreflag", { at: "GATE" })).toEqual([there.key, here.key]);
    expect(await keysOf("semaphoreflag", { project: "GATE" })).toEqual([there.key]);
  });
});

describe("everything", () => {
  const all = (q: string, viewer = NOOR, at = "TIX") => findAll(viewer, { q, at });
  test("comments, with whose they are and the words in them", async () => {
    const id = await itemIn(NOOR, "Something to talk about");
    await send(INES, id, { kind: "comment", body: "I heard it from the bosunwhistle yesterday." });
    const { comments, items } = await all("bosunwhistles");
    expect(items.rows).toEqual([]);
    expect(comments).toHaveLength(1);
    expect(comments[0]).toMatchObject({ author: "Ines Dahl", title: "Something to talk about" });
    expect(comments[0].excerpt.find(({ hit }) => hit)?.text).toBe("bosunwhistle");
    const changes = { restricted: true };
    const { version } = (await readItem(INES, comments[0].itemKey)).item;
    await send(INES, id, { kind: "edit", seenVersion: version, changes });
    expect((await all("bosunwhistles", ARTHUR)).comments).toEqual([]);
    expect((await all("bosunwhistles", INES)).comments).toHaveLength(1);
  });
  test("reports by reference and words, for those who may read what came in", async () => {
    const { token } = await submitForm({
      projectKey: "TIX",
      name: "report",
      raw: { ...FORM, title: ["Brasslantern is dark"], happened: ["No light since noon."] },
      sent: [],
    });
    const [{ reference }] = await database().select().from(report).where(eq(report.token, token));
    for (const q of ["brasslantern", "sslanter", reference.toLowerCase(), reference.slice(0, 5)])
      expect([q, (await all(q)).reports.map((one) => one.reference)]).toEqual([
        q,
        expect.arrayContaining([reference]),
      ]);
    expect((await all("light since noon")).reports[0]).toMatchObject({ reference, fit: 4 });
    expect((await all("brasslantern", ARTHUR)).reports).toEqual([]);
  });
  test("people of the projects that one sees, and nobody who has left", async () => {
    expect((await all("noor")).people.map(({ name }) => name)).toEqual(["Noor Bakri"]);
    expect((await all("bak noo")).people.map(({ name }) => name)).toEqual(["Noor Bakri"]);
    expect((await all("nobodyatall")).people).toEqual([]);
  });
  test("views that one may see, boards, and where they are", async () => {
    const id = randomUUID();
    await editViews(INES, "TIX", {
      kind: "make",
      id,
      name: "Nightwatchlist",
      sharing: "mine",
      look: PLAIN_LOOK,
    });
    expect((await all("nightwatch", INES)).looks).toEqual([
      expect.objectContaining({ id, kind: "view", path: `/p/TIX/flow?view=${id}` }),
    ]);
    expect((await all("nightwatch")).looks).toEqual([]);
    // Of two that are called the same the one of the place in which one is stands first.
    for (const key of ["TIX", "GATE"])
      expect((await all("voyages", NOOR, key)).looks[0]).toMatchObject({
        kind: "board",
        fit: 0,
        path: `/p/${key}/flow?board=${key.toLowerCase()}-voyages`,
      });
  });
  test("places, as far as one may go there", async () => {
    const paths = async (q: string, viewer = NOOR) =>
      (await all(q, viewer)).places.map(({ path }) => path);
    expect(await paths("mailbox")).toContain("/p/TIX/intake/mailbox");
    expect(await paths("mailbox", ARTHUR)).toEqual([]);
    expect(await paths("people and accounts", GRETA)).toContain("/people");
    expect(await paths("people and accounts")).not.toContain("/people");
  });
  test("nothing is looked for without words, and nothing of a project that one may not see", async () => {
    expect(await all("  &|! ")).toMatchObject({ items: { rows: [], next: null }, places: [] });
    const { key } = await itemWith("Onlytides", "", "TIDE");
    expect([await keysOf("onlytides", {}, GRETA), await keysOf("onlytides", {}, OSKAR)]).toEqual([
      [key],
      [],
    ]);
  });
});
