import { randomUUID } from "node:crypto";
import { and, asc, eq, isNotNull, sql } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { database } from "@/db/connection";
import { WAITS } from "@/core/item/blocker";
import { changeTransition } from "@/core/workflow/edit";
import { alert, alertPart, item, itemLink } from "@/db/schema";
import { readBoard } from "@/server/board/read";
import { commandItem } from "@/server/item/command";
import { readMatching } from "@/server/item/list/matching";
import type { Viewer } from "@/server/people/viewer";
import { checkItems } from "@/server/item/check";
import { readItem } from "@/server/item/read";
import { ANSWERS, itemIn, move, refusalOf, send, stateId, TO_LIVE } from "./setup/board";
import { INES, NOOR, TOMAS } from "./setup/people";
import { publishChange, runningWorkflow } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
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

describe("a blocker that comes from what an item waits for", () => {
  const block = (id: string, dependencyId: string, cause = WAITS) =>
    send(NOOR, id, { kind: "block", cause, waitingFor: null, dependencyId });
  const started = async (...titles: string[]) => {
    const ids = await items(...titles);
    for (const id of ids) for (const to of ["Ready", "Building"]) await move(NOOR, id, to, ANSWERS);
    return ids;
  };
  const end = async (id: string) => {
    for (const to of TO_LIVE.slice(2, -1)) await move(NOOR, id, to, ANSWERS);
    const commandId = randomUUID();
    const from = (await itemOf(id)).stateId;
    const answers = { ...ANSWERS, outcome: "delivered" } as const;
    await send(NOOR, id, { kind: "move", from, to: await stateId("Live"), answers }, commandId);
    return commandId;
  };
  const itemOf = async (id: string) =>
    (await database().select().from(item).where(eq(item.id, id)))[0];
  const findings = async (...ids: string[]) =>
    (await checkItems()).findings.filter((found) => ids.some((id) => found.includes(id)));
  const told = async (personId: string, id: string) =>
    (
      await database()
        .select()
        .from(alertPart)
        .innerJoin(alert, eq(alert.id, alertPart.alertId))
        .where(and(eq(alert.personId, personId), eq(alert.itemId, id), isNotNull(alertPart.said)))
        .orderBy(asc(alertPart.at), asc(alertPart.id))
    ).map(({ alert_part: n }) => ({ text: n.said, others: n.otherIds }));

  test("is lifted by the delivery, raised again by its undo, and history and figures agree", async () => {
    const [sail, mast] = await started("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await block(sail, mast);
    await send(NOOR, sail, { kind: "block", cause: "storm", waitingFor: null });
    const delivery = await end(mast);
    expect((await itemOf(sail)).openBlockers).toMatchObject([{ cause: "storm" }]);
    await send(NOOR, mast, { kind: "undo", commandId: delivery });
    expect((await itemOf(sail)).openBlockers).toMatchObject([
      { cause: WAITS, dependencyId: mast },
      { cause: "storm" },
    ]);
    expect(await findings(sail, mast)).toEqual([]);
  });

  test("is raised anew where the item went on meanwhile, with what was said", async () => {
    const [sail, mast] = await started("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await block(sail, mast, "No mast to hoist it on");
    const delivery = await end(mast);
    await send(NOOR, sail, { kind: "comment", body: "Hoisted." });
    await send(NOOR, mast, { kind: "undo", commandId: delivery });
    expect((await itemOf(sail)).openBlockers).toMatchObject([
      { cause: "No mast to hoist it on", dependencyId: mast },
    ]);
    expect(await findings(sail, mast)).toEqual([]);
  });

  test("needs the dependency, once, on what is started; taking the dependency away lifts it", async () => {
    const [sail, mast, rope] = await started("Sail", "Mast", "Rope");
    await waitFor(NOOR, sail, mast);
    expect(await refusalOf(block(sail, rope))).toBe("invalid");
    expect(await refusalOf(block(mast, sail))).toBe("invalid");
    await block(sail, mast);
    expect(await refusalOf(block(sail, mast))).toBe("invalid");
    const [loose] = await items("Loose");
    await waitFor(NOOR, loose, mast);
    expect(await refusalOf(block(loose, mast))).toBe("invalid");
    const [{ id: linkId }] = await database()
      .select()
      .from(itemLink)
      .where(and(eq(itemLink.fromItemId, sail), eq(itemLink.toItemId, mast)));
    await send(NOOR, mast, { kind: "unlink", linkId });
    expect((await itemOf(sail)).openBlockers).toEqual([]);
  });

  test("stays where the other ends otherwise: its owner is asked, and told when it begins again", async () => {
    const [sail, mast] = await started("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await block(sail, mast);
    await database().update(item).set({ assigneeId: "ines" }).where(eq(item.id, sail));
    await move(NOOR, mast, "Closed", { ...ANSWERS, outcome: "declined" });
    expect((await itemOf(sail)).openBlockers).toHaveLength(1);
    expect(await told("ines", sail)).toEqual([
      {
        text: "What this waits for ended without being delivered: declined. Does it still wait for it?",
        others: [mast],
      },
    ]);
    expect(await told("noor", sail)).toEqual([]);
    await move(NOOR, mast, "Backlog", { reason: "asked for again" });
    expect((await told("ines", sail)).at(-1)!.text).toBe("What this waits for was begun again.");
    expect((await itemOf(sail)).openBlockers).toHaveLength(1);
  });

  test("reopening what was delivered tells, and raises nothing", async () => {
    const [sail, mast] = await started("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await block(sail, mast);
    await database().update(item).set({ assigneeId: "ines" }).where(eq(item.id, sail));
    await end(mast);
    await move(NOOR, mast, "Backlog", { reason: "it broke" });
    expect(await told("ines", sail)).toEqual([
      { text: "What this waited for was delivered, and is worked on again.", others: [mast] },
    ]);
    expect((await itemOf(sail)).openBlockers).toEqual([]);
  });

  test("does not name to somebody what they may not see", async () => {
    const [sail, mast] = await started("Sail", "Mast");
    await waitFor(NOOR, sail, mast);
    await block(sail, mast);
    await database()
      .update(item)
      .set({ restricted: true, createdBy: "ines", assigneeId: null, reviewerId: null })
      .where(eq(item.id, mast));
    const key = await keyOf(mast);
    for (const [who, dependencyId] of [
      [INES, mast],
      [TOMAS, null],
    ] as const) {
      const { cards } = await readBoard(who, "TIX", null, { finished: "all" });
      const [blocker] = cards.find(({ id }) => id === sail)!.openBlockers;
      expect(blocker).toMatchObject({ cause: WAITS, dependencyId });
    }
    const read = await readItem(TOMAS, await keyOf(sail));
    expect(JSON.stringify(read)).not.toContain(key);
    expect(JSON.stringify(read)).not.toContain(mast);
  });

  test("is made by a process that says so, for each thing that an item waits for", async () => {
    const [sail] = await items("Sail");
    const [mast, rope] = await started("Mast", "Rope");
    await waitFor(NOOR, sail, mast);
    await waitFor(NOOR, sail, rope);
    const starts = (await runningWorkflow()).transitions.find((t) => t.verb === "Start building")!;
    await publishChange((w) =>
      changeTransition(w, starts.id, {
        followUps: [...starts.followUps, { kind: "block by dependencies" }],
      }),
    );
    await move(NOOR, sail, "Ready");
    expect((await itemOf(sail)).openBlockers).toEqual([]);
    await move(NOOR, sail, "Building", ANSWERS);
    expect((await itemOf(sail)).openBlockers).toMatchObject([
      { cause: WAITS, dependencyId: mast },
      { cause: WAITS, dependencyId: rope },
    ]);
    await end(mast);
    await end(rope);
    expect((await itemOf(sail)).openBlockers).toEqual([]);
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
