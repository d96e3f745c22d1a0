import { eq } from "drizzle-orm";
import { compareRanks } from "@/core/item/rank";
import { database } from "@/db/connection";
import { item, itemKey, project } from "@/db/schema";
import { createItem } from "@/server/item/create";
import { findItems } from "@/server/find/items";
import { readItem } from "@/server/item/read";
import { checkItems } from "@/server/item/check";
import { itemIn, refusalOf, send } from "./setup/board";
import { delivery, post } from "./setup/events";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const row = async (id: string) => (await database().select().from(item).where(eq(item.id, id)))[0];
const inProject = async (projectKey: string, title: string) =>
  (
    await createItem(INES, {
      commandId: crypto.randomUUID(),
      projectKey,
      parentId: null,
      fields: { title, typeId: "story" },
    })
  ).card;

describe("one order of all items", () => {
  test("what is dropped stands directly after its neighbour, before whatever else comes next", async () => {
    const first = await itemIn(NOOR, "First");
    const elsewhere = (await inProject("GATE", "Between them")).id;
    const last = await itemIn(NOOR, "Last");
    const order = async () => {
      const rows = await Promise.all([first, elsewhere, last].map(row));
      return rows.sort((a, b) => compareRanks(a.rank, b.rank)).map((r) => r.id);
    };
    expect(await order()).toEqual([first, elsewhere, last]);
    await send(NOOR, last, { kind: "place", below: first });
    expect(await order()).toEqual([first, last, elsewhere]);
    // On top of its list is before the list's first, after whatever stood before that.
    await send(NOOR, last, { kind: "place", below: null });
    const ranks = await database().select({ rank: item.rank }).from(item);
    expect(new Set(ranks.map((r) => r.rank)).size).toBe(ranks.length);
    expect((await checkItems()).findings).toEqual([]);
  });

  test("many that are placed at once in different projects get places of their own", async () => {
    const made = await Promise.all(
      ["TIX", "GATE", "TIX", "GATE", "TIX", "GATE"].map((key, i) => inProject(key, `Crowd ${i}`)),
    );
    const ranks = await Promise.all(made.map(async ({ id }) => (await row(id)).rank));
    expect(new Set(ranks).size).toBe(6);
  });
});

describe("every key that an item ever had leads to it", () => {
  let id = "";
  let key = "";
  beforeAll(async () => {
    const card = await inProject("TIX", "Known by two names");
    [id, key] = [card.id, card.key];
    await database().insert(itemKey).values({ prefix: "OLDTIX", number: 7, itemId: id, since: 1 });
  });

  test("on its page, in the search, in a link, in what another program says", async () => {
    expect((await readItem(NOOR, "oldtix-7")).item.id).toBe(id);
    expect((await readItem(NOOR, key)).item.id).toBe(id);
    expect((await findItems(NOOR, { q: "OLDTIX-7" })).rows.map((r) => r.key)).toEqual([key]);
    const other = await itemIn(NOOR, "Beside it");
    await send(NOOR, other, { kind: "link", linkKind: "relates to", otherKey: "OLDTIX-7" });
    const taken = await post(delivery("change.created", { id: "c1" }, { items: ["OLDTIX-7"] }));
    expect(taken.items).toEqual([key]);
  });

  test("none is given twice, and what is no key is said to be none", async () => {
    await expect(
      database().insert(itemKey).values({ prefix: "OLDTIX", number: 7, itemId: id, since: 2 }),
    ).rejects.toThrow();
    const other = await itemIn(NOOR, "Alone");
    const linking = (otherKey: string) =>
      refusalOf(send(NOOR, other, { kind: "link", linkKind: "relates to", otherKey }));
    expect(await linking("no key")).toBe("invalid");
    expect(await linking("TIDE-1")).toBe("not found");
    expect(await linking("TIX-999999")).toBe("not found");
    expect(await refusalOf(readItem(NOOR, "OLDTIX-8"))).toBe("not found");
  });

  test("each item of the demo has the key that it is shown by", async () => {
    const shown = await database()
      .select({ id: item.id, number: item.number, prefix: project.key })
      .from(item)
      .innerJoin(project, eq(project.id, item.projectId));
    const keys = await database().select().from(itemKey);
    const known = new Map(keys.map((k) => [`${k.prefix}-${k.number}`, k.itemId]));
    expect(shown.length).toBeGreaterThan(900);
    for (const { id: itemId, number, prefix } of shown)
      expect(known.get(`${prefix}-${number}`)).toBe(itemId);
  });
});
