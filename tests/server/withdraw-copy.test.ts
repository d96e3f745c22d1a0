import { randomUUID } from "node:crypto";
import { and, asc, eq } from "drizzle-orm";
import { COPY_PART_NAMES, type CopyPart } from "@/core/item/copy";
import { database } from "@/db/connection";
import { alert, item, itemLink, itemType, state, stay, timeboxMembership } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { copyItem } from "@/server/item/copy";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { readWithdrawn } from "@/server/item/withdrawn";
import type { Viewer } from "@/server/people/viewer";
import { itemIn, move, refusalOf, send, stateId } from "./setup/board";
import { settle } from "./setup/events";
import { ARTHUR, GRETA, INES, IVO, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const rowOf = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const keyOf = async (id: string) => `TIX-${(await rowOf(id)).number}`;
const edit = async (by: Viewer, id: string, changes: object) =>
  send(by, id, { kind: "edit", seenVersion: (await rowOf(id)).version, changes });
const withdraw = (by: Viewer, id: string, more: object = {}) =>
  send(by, id, { kind: "withdraw", why: "The harbour does not want it.", below: false, ...more });
const under = async (parentId: string, title: string, typeId = "task") =>
  (
    await createItem(NOOR, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId,
      fields: { title, typeId },
    })
  ).card.id;
const shownIn = async (viewer: Viewer) => (await readWithdrawn(viewer, "TIX")).items;
const agrees = async () => expect((await checkItems()).findings).toEqual([]);

describe("withdrawing", () => {
  test("an item goes with its reason, stays as it was, and comes back where it was", async () => {
    const id = await itemIn(NOOR, "A bench on the pier");
    await edit(NOOR, id, { releaseId: (await someRelease()) ?? null, estimate: 3 });
    await withdraw(NOOR, id);
    expect((await rowOf(id)).withdrawnAt).not.toBeNull();
    const view = await readItem(IVO, await keyOf(id));
    expect(view.withdrawn).toMatchObject({
      who: "Noor Bakri",
      why: "The harbour does not want it.",
      mayBringBack: true,
    });
    expect((await shownIn(INES)).find((one) => one.id === id)).toMatchObject({
      who: "Noor Bakri",
      why: "The harbour does not want it.",
      byItself: true,
    });
    expect(await refusalOf(edit(NOOR, id, { estimate: 5 }))).toBe("withdrawn");
    await send(IVO, id, { kind: "bring back" });
    const back = await rowOf(id);
    expect(back).toMatchObject({
      withdrawnAt: null,
      stateId: await stateId("Backlog"),
      estimate: 3,
    });
    const stays = await database()
      .select()
      .from(stay)
      .where(eq(stay.itemId, id))
      .orderBy(asc(stay.enteredSeq));
    expect(stays.map(({ leftAt }) => leftAt === null)).toEqual([false, true]);
    expect(stays[1].enteredAt).toBe(back.enteredStateAt);
    const planned = await database()
      .select()
      .from(timeboxMembership)
      .where(eq(timeboxMembership.itemId, id));
    expect(planned.filter(({ toAt }) => toAt === null)).toHaveLength(1);
    await agrees();
  });

  test("what was begun or has ended is not withdrawn; without a reason nothing is", async () => {
    const begun = await itemIn(NOOR, "A rope", "Ready", "Building");
    expect(await refusalOf(withdraw(NOOR, begun))).toBe("in use");
    const id = await itemIn(NOOR, "A second rope");
    expect(await refusalOf(withdraw(NOOR, id, { why: "  " }))).toBe("invalid");
    expect(await refusalOf(withdraw(ARTHUR, id))).toBe("not allowed");
    await send(NOOR, id, { kind: "bring back" });
    expect((await rowOf(id)).version).toBe(1);
  });

  test("what stands under it goes and comes with it, or is named as the reason why not", async () => {
    const parent = await itemIn(NOOR, "A new pier");
    const [first, second] = [await under(parent, "Piles"), await under(parent, "Planks")];
    expect(await refusalOf(withdraw(NOOR, parent))).toBe("in use");
    // One that was withdrawn by itself before does not come back with the others.
    const alone = await under(parent, "Paint");
    await withdraw(NOOR, alone);
    await withdraw(NOOR, parent, { below: true });
    for (const id of [parent, first, second]) expect((await rowOf(id)).withdrawnAt).not.toBeNull();
    await send(NOOR, parent, { kind: "bring back" });
    for (const id of [parent, first, second]) expect((await rowOf(id)).withdrawnAt).toBeNull();
    expect((await rowOf(alone)).withdrawnAt).not.toBeNull();
    await edit(INES, second, { restricted: true });
    expect(await refusalOf(withdraw(IVO, parent, { below: true }))).toBe("in use");
    await agrees();
  });

  test("the list is for leads, and names nothing that its reader may not see", async () => {
    expect(await refusalOf(readWithdrawn(NOOR, "TIX"))).toBe("not allowed");
    const id = await itemIn(INES, "A 100% secret_bench");
    await withdraw(INES, id);
    const found = async (words: string) =>
      (await readWithdrawn(GRETA, "TIX", words)).items.map((one) => one.id);
    expect(await found("secret_bench")).toEqual([id]);
    expect(await found("100%")).toEqual([id]);
    expect(await found(await keyOf(id))).toContain(id);
    expect(await found("nothing of the kind")).toEqual([]);
  });

  test("whoever has it hears of it, and of its coming back", async () => {
    const id = await itemIn(NOOR, "A lantern");
    await edit(NOOR, id, { assigneeId: "ivo" });
    await settle();
    await database().delete(alert);
    await withdraw(NOOR, id);
    await send(NOOR, id, { kind: "bring back" });
    await settle();
    const told = await database()
      .select()
      .from(alert)
      .where(and(eq(alert.itemId, id), eq(alert.personId, "ivo")));
    expect(told).toHaveLength(1);
  });
});

async function someRelease(): Promise<string | null> {
  const [row] = await database()
    .select({ id: timeboxMembership.boxId })
    .from(timeboxMembership)
    .innerJoin(item, eq(item.id, timeboxMembership.itemId))
    .where(and(eq(timeboxMembership.box, "release"), eq(item.projectId, "tix")))
    .orderBy(asc(timeboxMembership.fromAt))
    .limit(1);
  return row?.id ?? null;
}

describe("copying", () => {
  const copy = (
    viewer: Viewer,
    key: string,
    parts: readonly CopyPart[],
    commandId = randomUUID(),
  ) => copyItem(viewer, key, { commandId, title: "A copy", parts: [...parts] });

  test("takes along what was chosen, and nothing of what happened", async () => {
    const id = await itemIn(NOOR, "A ramp", "Ready", "Building");
    await edit(NOOR, id, {
      description: "For prams.",
      priority: "high",
      estimate: 5,
      labels: ["prams"],
      dueOn: "2031-05-01",
    });
    const key = await keyOf(id);
    const bare = await rowOf((await copy(IVO, key, [])).card.id);
    expect(bare).toMatchObject({
      title: "A copy",
      description: "",
      priority: "normal",
      estimate: null,
      labels: [],
      assigneeId: null,
      stateKind: "unstarted",
      clock: [],
      version: 1,
      createdBy: "ivo",
    });
    const whole = await rowOf((await copy(IVO, key, COPY_PART_NAMES)).card.id);
    expect(whole).toMatchObject({
      description: "For prams.",
      priority: "high",
      estimate: 5,
      labels: ["prams"],
      dueOn: "2031-05-01",
      assigneeId: (await rowOf(id)).assigneeId,
      stateId: await stateId("Backlog"),
    });
    const [link] = await database()
      .select()
      .from(itemLink)
      .where(eq(itemLink.fromItemId, whole.id));
    expect(link).toMatchObject({ kind: "came from", toItemId: id });
    await agrees();
  });

  test("the same request twice is one copy; what stands under it comes as new, seen as far as it may be", async () => {
    const id = await itemIn(NOOR, "A quay wall");
    const seen = await under(id, "Stones");
    await move(NOOR, seen, "To do", {}).catch(() => undefined);
    const hidden = await under(id, "A secret door");
    await edit(INES, hidden, { restricted: true });
    const [key, commandId] = [await keyOf(id), randomUUID()];
    const one = await copy(IVO, key, ["children"], commandId);
    const again = await copy(IVO, key, ["children"], commandId);
    expect([one.fresh, again.fresh, again.card.id]).toEqual([true, false, one.card.id]);
    const below = await database().select().from(item).where(eq(item.parentId, one.card.id));
    expect(below.map(({ title }) => title)).toEqual(["Stones"]);
    expect(await refusalOf(copy(ARTHUR, key, []))).toBe("not allowed");
    expect(await refusalOf(copy(IVO, await keyOf(hidden), []))).toBe("not found");
  });

  test("a fixed date without its day is none", async () => {
    const id = await itemIn(NOOR, "The regatta");
    await edit(NOOR, id, { dueOn: "2031-06-01", classOfService: "fixed date" });
    const key = await keyOf(id);
    const without = await rowOf((await copy(NOOR, key, ["facts"])).card.id);
    expect(without).toMatchObject({ classOfService: "standard", dueOn: null });
    const dated = await rowOf((await copy(NOOR, key, ["facts", "plan"])).card.id);
    expect(dated).toMatchObject({ classOfService: "fixed date", dueOn: "2031-06-01" });
  });
});

describe("another type", () => {
  const change = (by: Viewer, id: string, typeId: string, to: string | null = null) =>
    send(by, id, { kind: "change type", typeId, stateId: to });
  const otherWorkflow = async () => {
    const types = await database().select().from(itemType).where(eq(itemType.projectId, "tix"));
    const other = types.find(
      (t) => t.level === 1 && t.workflowId !== "tix-main" && t.removedAt === null,
    );
    const larger = types.find((t) => t.level === 2 && t.removedAt === null)!;
    return { types, other, larger };
  };

  test("of the same workflow it stays where it is, and is undone", async () => {
    const id = await itemIn(NOOR, "A gull on the antenna", "Ready", "Building");
    const commandId = randomUUID();
    await send(NOOR, id, { kind: "change type", typeId: "bug", stateId: null }, commandId);
    expect(await rowOf(id)).toMatchObject({ typeId: "bug", stateId: await stateId("Building") });
    await send(NOOR, id, { kind: "undo", commandId });
    expect(await rowOf(id)).toMatchObject({ typeId: "story", stateId: await stateId("Building") });
    await agrees();
  });

  test("of another workflow it needs a state there, keeps its clock, and starts or ends nothing", async () => {
    const { larger } = await otherWorkflow();
    const states = await database()
      .select()
      .from(state)
      .where(eq(state.workflowId, larger.workflowId));
    const of = (...kinds: string[]) => states.find(({ kind }) => kinds.includes(kind))!.id;
    const id = await itemIn(NOOR, "A ferry for the whole winter", "Ready", "Building");
    const before = await rowOf(id);
    expect(await refusalOf(change(NOOR, id, larger.id))).toBe("invalid");
    expect(await refusalOf(change(NOOR, id, larger.id, of("finished")))).toBe("invalid");
    expect(await refusalOf(change(NOOR, id, larger.id, before.stateId))).toBe("invalid");
    expect(await refusalOf(change(ARTHUR, id, larger.id, of("working")))).toBe("not allowed");
    await change(NOOR, id, larger.id, of("working", "waiting"));
    const after = await rowOf(id);
    expect(after).toMatchObject({ typeId: larger.id, clock: before.clock, returns: 0 });
    expect(after.stateId).toBe(of("working", "waiting"));
    const { history } = await readItem(NOOR, await keyOf(id));
    expect(history.some(({ note }) => note?.includes(larger.name))).toBe(true);
    const fresh = await itemIn(NOOR, "Not begun");
    expect(await refusalOf(change(NOOR, fresh, larger.id, of("working", "waiting")))).toBe(
      "invalid",
    );
    await agrees();
  });

  test("it stays smaller than what it stands under, and larger than what stands under it", async () => {
    const { larger } = await otherWorkflow();
    const parent = await itemIn(NOOR, "A dock");
    const child = await under(parent, "A bollard");
    expect(await refusalOf(change(NOOR, child, "story", await stateId("Backlog")))).toBe("invalid");
    expect(await refusalOf(change(NOOR, parent, "task"))).toBe("invalid");
    const [first] = await database()
      .select()
      .from(state)
      .where(and(eq(state.workflowId, larger.workflowId), eq(state.kind, "unstarted")));
    await change(NOOR, parent, larger.id, first.id);
    expect((await rowOf(parent)).typeId).toBe(larger.id);
  });
});
