import { eq, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import { item, itemLink } from "@/db/schema";
import { readBoard } from "@/server/board/read";
import { commandItem } from "@/server/item/command";
import { readMatching } from "@/server/item/list/matching";
import type { Viewer } from "@/server/people/viewer";
import { ANSWERS, itemIn, move, refusalOf, TO_LIVE } from "./setup/board";
import { INES, NOOR, TOMAS } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
jest.setTimeout(60_000);

const keyOf = async (id: string) => {
  const [{ number }] = await database().select().from(item).where(eq(item.id, id));
  return `TIX-${number}`;
};
const waitFor = async (by: Viewer, id: string, other: string) => {
  const otherKey = await keyOf(other);
  return commandItem(by, {
    commandId: newId(),
    itemId: id,
    command: { kind: "link", linkKind: "waits for", otherKey },
  });
};
const around = async (by: Viewer, id: string) =>
  (await readBoard(by, "TIX", null, { finished: "all" })).around[id];
const matching = async (by: Viewer, fact: "waitsFor" | "waitedFor", value: number) =>
  (
    await readMatching(by, "TIX", {
      board: null,
      condition: { kind: "compare", fact, op: "is", value },
    })
  ).ids;
async function items(...titles: string[]): Promise<string[]> {
  const ids: string[] = [];
  for (const title of titles) ids.push(await itemIn(NOOR, title));
  return ids;
}

describe("an item that waits for another", () => {
  test("says so, the other says it is waited for, and a condition asks for both", async () => {
    const [sail, mast, rope] = await items("Sail", "Mast", "Rope");
    await waitFor(NOOR, sail, mast);
    await waitFor(NOOR, rope, mast);
    expect((await around(NOOR, sail)).waitsFor).toMatchObject([{ key: await keyOf(mast) }]);
    expect((await around(NOOR, mast)).waitedFor.map(({ id }) => id)).toEqual([sail, rope]);
    expect(await matching(NOOR, "waitsFor", 1)).toEqual(expect.arrayContaining([sail, rope]));
    expect(await matching(NOOR, "waitedFor", 2)).toContain(mast);
  });

  test("waits no more once the other was delivered, and again where that is taken back", async () => {
    const [sail, mast] = await items("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    for (const to of TO_LIVE)
      await move(NOOR, mast, to, { ...ANSWERS, outcome: to === "Live" ? "delivered" : undefined });
    expect(await around(NOOR, sail)).toBeUndefined();
    expect(await matching(NOOR, "waitsFor", 0)).toContain(sail);
    await database().update(item).set({ deliveredAt: null }).where(eq(item.id, mast));
    expect((await around(NOOR, sail)).waitsFor).toHaveLength(1);
  });

  test("tells who may not see the other that it waits, and nothing of what", async () => {
    const [sail, mast] = await items("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await database()
      .update(item)
      .set({ restricted: true, createdBy: "ines", assigneeId: null, reviewerId: null })
      .where(eq(item.id, mast));
    expect(await around(TOMAS, sail)).toMatchObject({ waitsFor: [], waitsForUnseen: 1 });
    expect(await matching(TOMAS, "waitsFor", 0)).toContain(sail);
    expect(await matching(INES, "waitsFor", 1)).toContain(sail);
  });
});

describe("a circle", () => {
  test("is refused, however long it is, and through what stands under an item", async () => {
    const [sail, mast, rope] = await items("Sail", "Mast", "Rope");
    await waitFor(NOOR, sail, mast);
    await waitFor(NOOR, mast, rope);
    expect(await refusalOf(waitFor(NOOR, rope, sail))).toBe("invalid");
    await database().update(item).set({ parentId: rope }).where(eq(item.id, sail));
    expect(await refusalOf(waitFor(NOOR, sail, rope))).toBe("invalid");
    const [loose, above] = await items("Loose", "Above");
    await waitFor(NOOR, loose, above);
    await database().update(item).set({ typeId: "task" }).where(eq(item.id, loose));
    const under = { kind: "put under", parentKey: await keyOf(above) } as const;
    const put = commandItem(NOOR, { commandId: newId(), itemId: loose, command: under });
    expect(await refusalOf(put)).toBe("invalid");
  });

  test("does not come of many who say it at once", async () => {
    const ring = await items("A", "B", "C", "D", "E", "F");
    const said = ring.map((id, i) => waitFor(NOOR, id, ring[(i + 1) % ring.length]));
    const ended = await Promise.allSettled(said);
    expect(ended.filter(({ status }) => status === "rejected").length).toBeGreaterThan(0);
    const [{ n }] = await database()
      .select({ n: sql<number>`count(*)::int` })
      .from(itemLink)
      .where(
        sql`${itemLink.kind} = 'waits for' and ${itemLink.fromItemId} = any(${sql.param(ring)}::uuid[])`,
      );
    expect(n).toBe(ring.length - 1);
  });
});
