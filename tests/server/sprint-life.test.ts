import { randomUUID } from "node:crypto";
import { and, eq, isNull, ne, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { database } from "@/db/connection";
import { item, itemLink, sprint } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { actOnSprint } from "@/server/plan/sprint-life";
import { readSprint, sprintToShow } from "@/server/plan/sprint-view";
import type { SprintAct } from "@/core/plan/request";
import type { Viewer } from "@/server/people/viewer";
import { commandItem } from "@/server/item/command";
import { createItem } from "@/server/item/create";
import { sayWhyScope } from "@/server/plan/scope-reasons";
import type { ScopeQuestion } from "@/core/plan/scope-reason";
import { readBacklog } from "@/server/plan/backlog";
import { editPlanSettings } from "@/server/plan/settings";
import { editTimebox } from "@/server/plan/timeboxes";
import { transitionsFrom } from "@/core/workflow/workflow";
import { runningWorkflow } from "./setup/process";
import { ANSWERS, itemIn, move, refusalOf, send, TO_LIVE } from "./setup/board";

import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const act = (by: Viewer, sprintId: string, body: SprintAct, now?: number) =>
  actOnSprint(by, { projectKey: "TIX", sprintId }, body, now);
const read = (id: string, viewer: Viewer = INES, now?: number) =>
  readSprint(viewer, "TIX", id, now);
const ending = (to: string | null, more: object = {}): SprintAct => ({
  kind: "end",
  reached: true,
  words: "Quiet weeks.",
  to,
  exceptions: [],
  ...more,
});
const put = async (id: string, changes: object) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes });
};
const openIn = (id: string) =>
  database()
    .select({ id: item.id })
    .from(item)
    .where(and(eq(item.sprintId, id), isNull(item.withdrawnAt), ne(item.stateKind, "finished")));

let running: string;
let next: string;
beforeAll(async () => {
  running = (await sprintToShow(INES, "TIX"))!;
  next = (await read(running)).next[0].id;
});

test("in hours: what is worked, what is said to be left, and tasks below what is in it", async () => {
  const day = async () => (await read(running)).days.findLast(({ left }) => left !== null)!;
  const id = await itemIn(NOOR, "A winch that squeaks");
  const before = await day();
  await put(id, { sprintId: running, remainingHours: 10 });
  const { card: task } = await createItem(INES, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: id,
    fields: { title: "Grease it", typeId: "task", remainingHours: 4 },
  });
  expect((await day()).left!.hours).toBe(before.left!.hours + 14);
  await send(NOOR, task.id, {
    kind: "record time",
    entryId: randomUUID(),
    minutes: 90,
    on: (await day()).day,
    note: "",
    left: 2,
  });
  const after = await day();
  expect(after.left).toEqual({
    ...before.left,
    items: before.left!.items + 1,
    hours: before.left!.hours + 12,
  });
  // What is worked is in the scope: ten and two are left, one and a half were worked.
  expect(after.scope!.hours).toBe(before.scope!.hours + 13.5);
  expect(after.hourTerms.added!.ids).toEqual(expect.arrayContaining([id, task.id]));
  expect(after.hourTerms["re-estimated"]!.change.hours).toBe(
    (before.hourTerms["re-estimated"]?.change.hours ?? 0) - 2,
  );
});

describe("why what a running sprint holds was changed", () => {
  const plannedInto = async (id: string, sprintId: string | null, by = INES) => {
    const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
    const command = { kind: "edit", seenVersion, changes: { sprintId } } as const;
    const request = { commandId: randomUUID(), itemId: id, command: { ...command, own: {} } };
    return (await commandItem(by, request)).asksWhy;
  };
  const changeOf = async (id: string, viewer = INES) =>
    (await read(running, viewer)).scopeChanges.filter((change) => change.item?.id === id);
  const say = (question: ScopeQuestion, words: string, by = INES) =>
    sayWhyScope(by, { projectKey: "TIX", sprintId: question.sprintId }, { ...question, words });

  test("is asked of whoever does it, and kept with the sprint until it is taken back", async () => {
    const id = await itemIn(NOOR, "A gangway that sticks");
    const question = (await plannedInto(id, running))!;
    expect(question).toMatchObject({ itemId: id, sprintId: running, kind: "added" });
    expect(await changeOf(id)).toMatchObject([{ kind: "added", asked: true, why: null }]);
    await say(question, "The ferry cannot land without it.");
    await say(question, "The ferry cannot land.");
    expect(await changeOf(id)).toMatchObject([{ why: "The ferry cannot land." }]);
    const out = (await plannedInto(id, next))!;
    expect(out.kind).toBe("taken out");
    await say(out, "Next time.");
    expect((await changeOf(id)).map(({ kind, why }) => [kind, why])).toEqual([
      ["taken out", "Next time."],
      ["added", "The ferry cannot land."],
    ]);
    await say(out, "");
    expect((await changeOf(id))[0].why).toBeNull();
  });

  test("is not asked where no sprint runs, where it is made in it, and where nothing is changed", async () => {
    const id = await itemIn(NOOR, "A rail to paint");
    expect(await plannedInto(id, next)).toBeNull();
    expect(await plannedInto(id, null)).toBeNull();
    expect(await plannedInto(id, null)).toBeNull();
    const { card } = await createItem(INES, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: null,
      fields: { title: "Straight into it", typeId: "story", sprintId: running },
    });
    expect(await changeOf(card.id)).toMatchObject([{ how: "new", asked: false }]);
  });

  test("is said only by who may change the item, of what was a change of that sprint", async () => {
    const id = await itemIn(NOOR, "A bell too quiet");
    const question = (await plannedInto(id, running))!;
    expect(await refusalOf(say(question, "Because.", ARTHUR))).toBe("not allowed");
    expect(await refusalOf(say(question, "Because.", OSKAR))).not.toBe("none");
    expect(await refusalOf(say({ ...question, sprintId: next }, "Because."))).toBe("not found");
    expect(await refusalOf(say({ ...question, seq: 1 }, "Because."))).toBe("not found");
    const seenBy = (restricted: boolean, createdBy: string) =>
      database().update(item).set({ restricted, createdBy }).where(eq(item.id, id));
    await seenBy(true, "ivo");
    expect(await refusalOf(say(question, "Because.", NOOR))).toBe("not found");
    await say(question, "A secret.", IVO);
    expect(JSON.stringify(await read(running, NOOR))).not.toContain("A secret.");
    await seenBy(false, "noor");
  });
});

test("a running sprint counts from its first day: what came and went since, each with its items", async () => {
  const before = await read(running);
  expect(before.sprint.standing).toBe("running");
  expect(before.past.length).toBeGreaterThan(3);
  expect(before.past.every(({ velocity }) => velocity >= 0)).toBe(true);
  expect(before.past.some(({ velocity }) => velocity > 0)).toBe(true);
  const id = await itemIn(NOOR, "A rope too short");
  await put(id, { estimate: 5, sprintId: running });
  await put(id, { estimate: 8 });
  const day = (await read(running)).days.findLast(({ left }) => left !== null)!;
  expect(day.terms.added?.ids).toContain(id);
  const now = await read(running);
  const left = (of: typeof now) => of.days.findLast((one) => one.left !== null)!.left!;
  expect(left(now)).toEqual({
    points: left(before).points + 8,
    items: left(before).items + 1,
    hours: left(before).hours,
  });
  expect(now.begins).toEqual(before.begins);
  await put(id, { sprintId: null });
  const after = await read(running);
  expect(left(after)).toEqual(left(before));
  expect(after.outcome!.takenOut.ids).toContain(id);
  const [out, into] = after.scopeChanges.filter((change) => change.item?.id === id);
  expect(out).toMatchObject({ kind: "taken out", who: "Ines Dahl", how: null });
  expect(into).toMatchObject({ kind: "added", who: "Ines Dahl", how: null });
  expect(out.at).toBeGreaterThanOrEqual(into.at);
});

test("what somebody does not see counts for them, and stands nowhere", async () => {
  const id = await itemIn(INES, "A hidden leak");
  await put(id, { estimate: 3, sprintId: running, restricted: true });
  const [lead, member] = [await read(running), await read(running, NOOR)];
  expect(member.days.map(({ left }) => left)).toEqual(lead.days.map(({ left }) => left));
  expect(member.outcome!.added.unseen).toBe(lead.outcome!.added.unseen + 1);
  expect(JSON.stringify(member)).not.toContain(id);
  expect(member.openUnseen).toBe(1);
  expect(member.scopeChanges).toHaveLength(lead.scopeChanges.length);
  expect(member.scopeChanges.filter((change) => change.item === null)).not.toEqual([]);
  await put(id, { sprintId: null });
});

test("the next one is not started while one runs; it ends by saying where everything open goes", async () => {
  expect(await refusalOf(act(INES, next, { kind: "start" }))).toBe("invalid");
  expect(await refusalOf(act(INES, running, { kind: "start" }))).toBe("invalid");
  const [one, two] = [await itemIn(NOOR, "Goes on"), await itemIn(NOOR, "Goes back")];
  const hidden = await itemIn(INES, "Goes on unseen");
  for (const id of [one, two, hidden]) await put(id, { sprintId: running });
  await put(hidden, { restricted: true });
  expect(await refusalOf(act(ARTHUR, running, ending(next)))).toBe("not allowed");
  expect(
    await refusalOf(actOnSprint(OSKAR, { projectKey: "GATE", sprintId: running }, ending(null))),
  ).toBe("not found");
  expect(await refusalOf(act(NOOR, running, ending(running)))).toBe("invalid");
  const gone = [{ itemId: randomUUID(), to: null }];
  expect(await refusalOf(act(NOOR, running, ending(next, { exceptions: gone })))).toBe("invalid");
  expect(await openIn(running)).not.toEqual([]);
  const exceptions = [{ itemId: two, to: null }];
  const ended = await act(NOOR, running, ending(next, { exceptions }));
  expect(ended.sprint).toMatchObject({ standing: "ended", reached: true, endedBy: "Noor Bakri" });
  expect(await openIn(running)).toEqual([]);
  expect(ended.outcome!.carriedOver.ids).toEqual(expect.arrayContaining([one, two]));
  const sprintOf = async (id: string) =>
    (await database().select().from(item).where(eq(item.id, id)))[0].sprintId;
  expect(await Promise.all([one, two, hidden].map(sprintOf))).toEqual([next, null, next]);
  expect((await checkItems()).findings).toEqual([]);
});

test("nothing is planned into a sprint that has ended; it can be brought back, and the next one started", async () => {
  const id = await itemIn(NOOR, "Too late for it");
  const refused = await refusalOf(put(id, { sprintId: running }));
  expect(refused).toBe("invalid");
  expect(await refusalOf(act(INES, running, ending(next)))).toBe("invalid");
  expect((await act(INES, running, { kind: "bring back" })).sprint.standing).toBe("running");
  expect(await refusalOf(act(INES, running, { kind: "bring back" }))).toBe("invalid");
  await act(INES, running, ending(null));
  const begun = await act(INES, next, { kind: "start" });
  expect(begun.sprint.standing).toBe("running");
  const inIt = await openIn(next);
  expect(begun.outcome!.committed.ids.toSorted()).toEqual(inIt.map((one) => one.id).toSorted());
});

describe("sprints in a row, switched off and on, with what is new in them", () => {
  const inARow = () =>
    [1, 2].map((n) => ({
      id: `row-${n}`,
      name: `Far ${n}`,
      goal: "",
      startsOn: `2031-0${n}-01`,
      endsOn: `2031-0${n}-14`,
    }));

  test("they are made together, or none of them, and taken out together", async () => {
    const sprints = inARow();
    const clash = [...sprints, { ...sprints[0], id: "row-3", name: "Clash" }];
    expect(await refusalOf(editTimebox(NOOR, "TIX", { kind: "sprints", sprints: clash }))).toBe(
      "invalid",
    );
    expect(await refusalOf(read("row-1"))).toBe("not found");
    await editTimebox(NOOR, "TIX", { kind: "sprints", sprints });
    expect((await read("row-2")).sprint.standing).toBe("coming");
    await editTimebox(NOOR, "TIX", { kind: "remove sprints", ids: ["row-1", "row-2"] });
    expect(await refusalOf(read("row-2"))).toBe("not found");
    expect(await refusalOf(editTimebox(ARTHUR, "TIX", { kind: "sprints", sprints }))).toBe(
      "not allowed",
    );
  });

  test("a project that does without keeps its sprints, and has them again", async () => {
    const running = (await read(next)).sprint.id;
    const before = await openIn(running);
    expect(await refusalOf(editPlanSettings(NOOR, "TIX", { usesSprints: false }))).toBe(
      "not allowed",
    );
    await editPlanSettings(INES, "TIX", { usesSprints: false });
    expect((await readBacklog(INES, "TIX")).sprints).toEqual([]);
    expect((await readBacklog(INES, "TIX")).settings.usesSprints).toBe(false);
    expect(await openIn(running)).toEqual(before);
    await editPlanSettings(INES, "TIX", { usesSprints: true, sprintDays: 10 });
    const { settings, sprints } = await readBacklog(INES, "TIX");
    expect(settings.sprintDays).toBe(10);
    expect(sprints.map(({ id }) => id)).toContain(running);
  });

  test("where the project wants it every new item goes into the one that runs; tasks and larger pieces do not", async () => {
    await editPlanSettings(INES, "TIX", { newIntoSprint: true });
    const sprintOf = async (typeId: string, sprintId?: string) => {
      const { card } = await createItem(NOOR, {
        commandId: randomUUID(),
        projectKey: "TIX",
        parentId: null,
        fields: { title: "New", typeId, ...(sprintId ? { sprintId } : {}) },
      });
      return (await database().select().from(item).where(eq(item.id, card.id)))[0].sprintId;
    };
    expect(await sprintOf("story")).toBe(next);
    expect(await sprintOf("voyage")).toBeNull();
    await editPlanSettings(INES, "TIX", { newIntoSprint: false });
    expect(await sprintOf("story")).toBeNull();
  });
});

test("what is split goes on with what remains; what is cut off is in the backlog, linked to it", async () => {
  const id = await itemIn(NOOR, "Half done");
  const whole = await itemIn(NOOR, "Only smaller");
  const before = (await read(next)).days.findLast((one) => one.left !== null)!.left!;
  for (const one of [id, whole]) await put(one, { estimate: 8, sprintId: next });
  const exceptions = [
    {
      itemId: id,
      to: null,
      split: { remains: 3, cutOff: { title: "The other half", points: 5 } },
    },
    { itemId: whole, to: null, split: { remains: 2, cutOff: null } },
  ];
  const ended = await act(NOOR, next, ending(null, { exceptions }));
  // In what has ended it is carried over, as large as it was.
  expect(ended.outcome!.carriedOver.ids).toEqual(expect.arrayContaining([id, whole]));
  const left = ended.days.findLast((one) => one.left !== null)!.left!;
  expect(left.points - before.points).toBe(16);
  const rows = await database().select().from(item).where(eq(item.title, "The other half"));
  expect(rows).toMatchObject([{ estimate: 5, sprintId: null, stateKind: "unstarted" }]);
  const [goesOn] = await database().select().from(item).where(eq(item.id, id));
  expect(goesOn).toMatchObject({ title: "Half done", estimate: 3, sprintId: null });
  expect((await database().select().from(item).where(eq(item.id, whole)))[0].estimate).toBe(2);
  const links = await database().select().from(itemLink).where(eq(itemLink.fromItemId, rows[0].id));
  expect(links.map(({ kind, toItemId }) => [kind, toItemId])).toEqual([["came from", id]]);
  expect((await checkItems()).findings).toEqual([]);
});

test("what is reopened leaves a sprint that was ended, whose report keeps it", async () => {
  await act(INES, next, { kind: "bring back" });
  const id = await itemIn(NOOR, "Done, and not", ...TO_LIVE.slice(0, 1));
  await put(id, { estimate: 2, sprintId: next });
  for (const state of TO_LIVE.slice(1))
    await move(NOOR, id, state, { ...ANSWERS, outcome: "delivered" });
  const ended = await act(INES, next, ending(null));
  expect(ended.outcome!.delivered.ids).toContain(id);
  const [{ stateId: from }] = await database().select().from(item).where(eq(item.id, id));
  const { to } = transitionsFrom(await runningWorkflow(), from)[0];
  await send(INES, id, { kind: "move", from, to, answers: ANSWERS });
  const [open] = await database().select().from(item).where(eq(item.id, id));
  expect(open.stateKind).not.toBe("finished");
  expect(open.sprintId).toBeNull();
  expect((await read(next)).outcome!.delivered.ids).toContain(id);
  expect((await checkItems()).findings).toEqual([]);
  await act(INES, next, { kind: "bring back" });
});

test("figures freeze at the end of its last day; one that nobody ended is over and shown so", async () => {
  const [row] = await database().select().from(sprint).where(eq(sprint.id, next));
  const after = Date.parse(row.endsOn) + 3 * DAY;
  const first = await read(next, INES, after);
  expect(first.sprint.standing).toBe("over");
  const id = await itemIn(NOOR, "In it", "Ready");
  await put(id, { estimate: 2, sprintId: next });
  const left = (await read(next)).days.findLast((one) => one.left !== null)!.left!;
  const ended = await read(next, INES, after);
  expect(ended.days.at(-1)!.left).toEqual(left);
  // What happens to an item behind its last day is not in its figures.
  await database().execute(
    sql`update stay set entered_at = ${new Date(after).toISOString()}::timestamptz, kind = 'finished'
      where item_id = ${id} and left_at is null`,
  );
  const later = await read(next, INES, after + 30 * DAY);
  expect(later.days).toEqual(ended.days);
  expect(later.outcome).toEqual(ended.outcome);
});
