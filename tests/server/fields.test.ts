import { readEvents } from "@/server/item/history";
import { noteOf } from "@/core/item/words";
import { randomUUID } from "node:crypto";
import { and, eq, isNull } from "drizzle-orm";
import type { ItemType } from "@/core/item/item-type";
import { PLAIN_FIELD, type OwnField } from "@/core/item/own-field";
import { changeTransition } from "@/core/workflow/edit";
import { database } from "@/db/connection";
import { item, itemEvent, itemType, membership, sprint, state } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { editOwnField, loadOwnFields } from "@/server/item/own-fields";
import { readItem } from "@/server/item/read";
import { editTimebox } from "@/server/plan/timeboxes";
import { exportWorkflow } from "@/server/workflow/export";
import { addWorkflow } from "@/server/workflow/new-workflow";
import { readDesign } from "@/server/workflow/read";
import { editType } from "@/server/workflow/types";
import { itemIn, move, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { publishChange } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
type Saved = Omit<OwnField, "position" | "removedAt">;
const save = (field: Partial<Saved> & Pick<Saved, "id" | "name" | "kind">) =>
  editOwnField(INES, "TIX", { kind: "save", field: { ...PLAIN_FIELD, ...field } });
const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const set = async (
  id: string,
  own: Record<string, string | number | boolean | string[] | null>,
  seen?: number,
) =>
  send(NOOR, id, {
    kind: "edit",
    seenVersion: seen ?? (await snapshot(id)).version,
    changes: {},
    own,
  });
const viewOf = async (id: string) => readItem(NOOR, `TIX-${(await snapshot(id)).number}`);
const make = (fields: { own?: Record<string, string | number>; typeId?: string }) =>
  createItem(NOOR, {
    commandId: randomUUID(),
    projectKey: "TIX",
    parentId: null,
    fields: { title: "With fields", typeId: "story", ...fields },
  });

test("a field of one's own: filled in, cleared, in the history, in conflict, undone", async () => {
  await save({ id: "depth", name: "Depth at low tide", kind: "number", unit: "metres" });
  const id = await itemIn(NOOR, "Sound the channel");
  const before = (await snapshot(id)).version;
  await set(id, { depth: 2.5 });
  await set(id, { depth: 3 });
  expect((await snapshot(id)).own).toEqual({ depth: 3 });
  expect((await viewOf(id)).history.slice(0, 2).map((h) => h.words)).toEqual([
    "changed Depth at low tide from 2.5 metres to 3 metres",
    "set Depth at low tide to 2.5 metres",
  ]);
  expect(await refusalOf(set(id, { depth: 9 }, before))).toBe("conflict");
  expect(await refusalOf(set(id, { depth: "deep" }))).toBe("invalid");
  expect(await refusalOf(set(id, { nowhere: 1 }))).toBe("invalid");
  const commandId = randomUUID();
  await send(
    NOOR,
    id,
    { kind: "edit", seenVersion: (await snapshot(id)).version, changes: {}, own: { depth: null } },
    commandId,
  );
  expect((await snapshot(id)).own).toEqual({});
  await send(NOOR, id, { kind: "undo", commandId });
  expect((await snapshot(id)).own).toEqual({ depth: 3 });
});

test("a person in a field of one's own belongs to the project; who was named before and left stays named, and is nobody's default", async () => {
  await save({ id: "waterman", name: "Waterman", kind: "person", initial: "mei" });
  const id = await itemIn(NOOR, "Needs a waterman");
  expect((await snapshot(id)).own.waterman).toBe("mei");
  expect(await refusalOf(set(id, { waterman: "oskar" }))).toBe("invalid");
  expect(await refusalOf(set(id, { waterman: "nobody at all" }))).toBe("invalid");
  expect(await refusalOf(make({ own: { waterman: "oskar" } }))).toBe("invalid");
  await database()
    .delete(membership)
    .where(and(eq(membership.projectId, "tix"), eq(membership.personId, "mei")));
  await set(id, { waterman: "mei" });
  expect((await snapshot(id)).own.waterman).toBe("mei");
  expect((await snapshot(await itemIn(NOOR, "Needs one too"))).own).not.toHaveProperty("waterman");
  await editOwnField(INES, "TIX", { kind: "remove", id: "waterman" });
  await database().insert(membership).values({ projectId: "tix", personId: "mei", role: "member" });
});

test("a field that is taken out keeps what items say in it, and its history, and comes back with it", async () => {
  await save({ id: "berth", name: "Berth", kind: "text" });
  const id = await itemIn(NOOR, "Move the berth");
  await set(id, { berth: "North 2" });
  await editOwnField(INES, "TIX", { kind: "remove", id: "berth" });
  expect(await refusalOf(set(id, { berth: "South" }))).toBe("invalid");
  const gone = await viewOf(id);
  expect([gone.item.own.berth, gone.history[0].words]).toEqual(["North 2", "set Berth to North 2"]);
  await editOwnField(INES, "TIX", { kind: "bring back", id: "berth" });
  await set(id, { berth: "South" });
  expect((await viewOf(id)).history[0].words).toBe("changed Berth from North 2 to South");
});

test("a new item begins with the initial values, and says what it must", async () => {
  await save({
    id: "tide",
    name: "Tide",
    kind: "one of",
    options: [
      { id: "ebb", name: "Ebb", offered: true },
      { id: "flood", name: "Flood", offered: true },
    ],
    initial: "ebb",
    typeIds: ["story"],
  });
  await save({
    id: "crew",
    name: "Crew needed",
    kind: "number",
    requiredAtStart: true,
    typeIds: ["request"],
  });
  expect((await snapshot((await make({})).card.id)).own).toEqual({ tide: "ebb" });
  expect((await snapshot((await make({ own: { tide: "flood" } })).card.id)).own).toEqual({
    tide: "flood",
  });
  expect((await snapshot((await make({ typeId: "bug" })).card.id)).own).toEqual({});
  expect(await refusalOf(make({ typeId: "request" }))).toBe("invalid");
  expect(
    (await snapshot((await make({ typeId: "request", own: { crew: 3 } })).card.id)).own,
  ).toEqual({ crew: 3 });
  expect(await refusalOf(make({ own: { tide: "moon" } }))).toBe("invalid");
  // A choice that is not offered any more is no initial value, and what says it already keeps it.
  const ebb = (await make({})).card.id;
  await save({
    id: "tide",
    name: "Tide",
    kind: "one of",
    options: [
      { id: "ebb", name: "Ebb", offered: false },
      { id: "flood", name: "Flood", offered: true },
    ],
    initial: null,
    typeIds: ["story"],
  });
  expect((await snapshot((await make({})).card.id)).own).toEqual({});
  expect((await snapshot(ebb)).own).toEqual({ tide: "ebb" });
});

test("a move that demands an own field asks for it in place, and only of types that have it", async () => {
  await save({ id: "pilot", name: "Pilot booked", kind: "yes or no", typeIds: ["story"] });
  await publishChange((w) =>
    changeTransition(w, w.transitions.find((t) => t.verb === "Hand to review")!.id, {
      requirements: [{ kind: "filled", field: "own.pilot" }],
    }),
  );
  const id = await itemIn(NOOR, "Bring her in", "Ready", "Building");
  const refusal = await move(NOOR, id, "Waiting for review", {}).then(
    () => null,
    (error) => error.refusal,
  );
  expect(refusal).toMatchObject({
    code: "field missing",
    sentence: "It needs “Pilot booked”.",
    asks: [{ field: "own.pilot", label: "Pilot booked", own: { kind: "yes or no" } }],
  });
  expect(await refusalOf(move(NOOR, id, "Waiting for review", { own: { pilot: "maybe" } }))).toBe(
    "invalid",
  );
  await move(NOOR, id, "Waiting for review", { own: { pilot: false } });
  expect((await snapshot(id)).own).toEqual({ pilot: false });
  const bug = (await make({ typeId: "bug" })).card.id;
  for (const to of ["Ready", "Building", "Waiting for review"]) await move(NOOR, bug, to);
  expect((await snapshot(bug)).stateId).toBe(await stateId("Waiting for review"));
});

test("a follow-up sets an own field, and undoing the move takes it back", async () => {
  await save({ id: "checked", name: "Checked by the crew", kind: "yes or no" });
  await publishChange((w) =>
    changeTransition(w, w.transitions.find((t) => t.verb === "Hand to review")!.id, {
      requirements: [],
      followUps: [{ kind: "set field", change: { field: "own", fieldId: "checked", value: true } }],
    }),
  );
  const id = await itemIn(NOOR, "Look at the hull", "Ready", "Building");
  const commandId = randomUUID();
  await send(
    NOOR,
    id,
    {
      kind: "move",
      from: await stateId("Building"),
      to: await stateId("Waiting for review"),
      answers: {},
    },
    commandId,
  );
  expect((await snapshot(id)).own.checked).toBe(true);
  await send(NOOR, id, { kind: "undo", commandId });
  expect((await snapshot(id)).own.checked).toBeUndefined();
});

test("what makes no sense as a field is refused: another kind, a name that is taken, a circle, a part that is used", async () => {
  await save({ id: "fare", name: "Fare", kind: "number" });
  await save({
    id: "double",
    name: "Double fare",
    kind: "computed",
    formula: {
      kind: "*",
      left: { kind: "field", field: "own.fare" },
      right: { kind: "number", value: 2 },
    },
  });
  const refused = [
    save({ id: "fare", name: "Fare", kind: "text" }),
    save({ id: "fare2", name: "fare", kind: "number" }),
    save({
      id: "double",
      name: "Double fare",
      kind: "computed",
      formula: { kind: "field", field: "own.double" },
    }),
    save({
      id: "other",
      name: "Other",
      kind: "computed",
      formula: { kind: "field", field: "own.berth" },
    }),
    editOwnField(INES, "TIX", { kind: "remove", id: "fare" }),
    editOwnField(INES, "GATE", {
      kind: "save",
      field: { ...PLAIN_FIELD, id: "fare", name: "Stolen", kind: "number" },
    }),
  ];
  for (const attempt of refused)
    expect(["invalid", "not found"]).toContain(await refusalOf(attempt));
  for (const viewer of [NOOR, ARTHUR])
    expect(await refusalOf(editOwnField(viewer, "TIX", { kind: "remove", id: "fare" }))).toBe(
      "not allowed",
    );
  const fields = await loadOwnFields(database(), "tix");
  await editOwnField(INES, "TIX", { kind: "order", ids: [...fields].reverse().map((f) => f.id) });
  expect((await loadOwnFields(database(), "tix")).map((f) => f.id)).toEqual(
    [...fields].reverse().map((f) => f.id),
  );
});

describe("item types", () => {
  const request = async (): Promise<ItemType> =>
    (await readDesign(INES, "TIX")).types.find((t) => t.id === "request")!;
  const saveType = (
    type: Partial<ItemType> & { id: string },
    newStates: Record<string, string> = {},
    viewer = INES,
  ) => {
    const {
      id,
      name = "Hull survey",
      level = 1,
      workflowId = "tix-main",
      glyph = "buoy",
      template = "",
    } = type;
    return editType(viewer, "TIX", {
      kind: "save",
      type: { id, name, level, workflowId, glyph, template },
      newStates,
    });
  };

  test("a new type is made, used, taken out, and comes back; items keep it", async () => {
    await saveType({ id: "survey", template: "**Found**" });
    const id = (await make({ typeId: "survey" })).card.id;
    await editType(INES, "TIX", { kind: "remove", id: "survey" });
    expect((await viewOf(id)).types.find((t) => t.id === "survey")?.removedAt).not.toBeNull();
    await move(NOOR, id, "Ready");
    await editType(INES, "TIX", { kind: "bring back", id: "survey" });
    expect((await readDesign(INES, "TIX")).types.find((t) => t.id === "survey")).toMatchObject({
      removedAt: null,
      glyph: "buoy",
      template: "**Found**",
    });
    expect(await refusalOf(saveType({ id: "other", name: "story" }))).toBe("invalid");
    expect(await refusalOf(saveType({ id: "other", workflowId: "gate-main" }))).toBe("invalid");
    expect(await refusalOf(saveType({ id: "other" }, {}, NOOR))).toBe("not allowed");
  });

  test("given to another workflow, a type takes its items along into the states that were chosen; not one is lost", async () => {
    const { workflowId, isDraft } = await addWorkflow(INES, "TIX", {
      name: "Approvals",
      from: { kind: "template", name: "Requests with approval rounds" },
    });
    expect(isDraft).toBe(false);
    const type = await request();
    const design = await readDesign(INES, "TIX");
    const target = design.workflows.find((w) => w.id === workflowId)!;
    const inStates = Object.keys(design.countsByType.request);
    expect(inStates.length).toBeGreaterThan(2);
    const first = (kind: string) => target.states.find((s) => s.kind === kind)!.id;
    const kinds = new Map((await database().select().from(state)).map((s) => [s.id, s.kind]));
    const newStates = Object.fromEntries(inStates.map((id) => [id, first(kinds.get(id)!)]));
    expect(await refusalOf(saveType({ ...type, workflowId }))).toBe("invalid");
    const count = async () =>
      (
        await database()
          .select({ id: item.id })
          .from(item)
          .where(
            and(eq(item.projectId, "tix"), eq(item.typeId, "request"), isNull(item.withdrawnAt)),
          )
      ).length;
    const before = await count();
    const { movedItems } = await saveType({ ...type, workflowId }, newStates);
    expect([movedItems, await count()]).toEqual([before, before]);
    const known = new Set(target.states.map((s) => s.id));
    expect(
      (
        await database()
          .select({ stateId: item.stateId })
          .from(item)
          .where(
            and(eq(item.projectId, "tix"), eq(item.typeId, "request"), isNull(item.withdrawnAt)),
          )
      ).every((r) => known.has(r.stateId)),
    ).toBe(true);
    const [event] = await readEvents(database(), eq(itemEvent.cause, "workflow change"));
    expect(noteOf(event)).toBe("Its type follows the workflow “Approvals” now.");
  });

  test("the last type that stands on its own stays", async () => {
    const others = await database()
      .select()
      .from(itemType)
      .where(and(eq(itemType.projectId, "gate"), isNull(itemType.removedAt)));
    const standing = others.filter((t) => t.level >= 1);
    for (const t of standing.slice(1)) await editType(INES, "GATE", { kind: "remove", id: t.id });
    expect(await refusalOf(editType(INES, "GATE", { kind: "remove", id: standing[0].id }))).toBe(
      "invalid",
    );
  });
});

describe("workflows from elsewhere", () => {
  test("out as a file and in again as another workflow with ids of its own, which publishes as it is", async () => {
    for (const format of ["scxml", "json"] as const) {
      const { text, name } = await exportWorkflow(ARTHUR, "TIX", {
        workflow: "tix-main",
        format,
        which: "running",
      });
      expect(name).toBe(`build-review-test-deploy.${format}`);
      const made = await addWorkflow(INES, "TIX", {
        name: `Again by ${format}`,
        from: { kind: "file", text },
      });
      const { workflows } = await readDesign(INES, "TIX");
      const [original, back] = ["tix-main", made.workflowId].map((id) =>
        workflows.find((w) => w.id === id)!,
      );
      const shape = (w: typeof original) =>
        w.transitions
          .map((t) => [
            t.verb,
            t.from?.map((f) => w.states.find((s) => s.id === f)!.name),
            w.states.find((s) => s.id === t.to)!.name,
            t.requirements.length,
            t.followUps.length,
          ])
          .sort();
      expect(shape(back)).toEqual(shape(original));
      expect(back.states.some((s) => original.states.some((o) => o.id === s.id))).toBe(false);
      expect(made.isDraft).toBe(false);
    }
  });

  test("a file that would trap items becomes a draft, with what was not taken told", async () => {
    const text = `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="new"><transition event="go" cond="x > 1" target="stuck"/></state><state id="stuck"/><final id="end"/></scxml>`;
    const made = await addWorkflow(INES, "TIX", { name: "", from: { kind: "file", text } });
    expect(made.isDraft).toBe(true);
    expect(made.left.join(" ")).toMatch(
      /condition “x > 1”[\s\S]*From Stuck no finished state can be reached/,
    );
    const design = await readDesign(INES, "TIX");
    expect(
      design.drafts
        .find((d) => d.workflowId === made.workflowId)
        ?.definition.states.map((s) => s.name),
    ).toEqual(["New", "Stuck", "End"]);
  });

  test("bad files, other people's workflows and people without the right change nothing", async () => {
    const before = (await readDesign(INES, "TIX")).workflows.length;
    for (const text of [
      "",
      "nonsense",
      "{}",
      '{"format":"urn:zigzag-lane:workflow:1","workflow":{"states":[]}}',
      "[1]",
      "<!DOCTYPE a><a/>",
    ])
      expect(
        await refusalOf(addWorkflow(INES, "TIX", { name: "", from: { kind: "file", text } })),
      ).toBe("invalid");
    expect(
      await refusalOf(
        addWorkflow(OSKAR, "GATE", { name: "", from: { kind: "copy", workflowId: "tide-main" } }),
      ),
    ).toBe("not allowed");
    expect(
      await refusalOf(
        addWorkflow(NOOR, "TIX", { name: "", from: { kind: "template", name: "Nearly nothing" } }),
      ),
    ).toBe("not allowed");
    expect(
      await refusalOf(
        exportWorkflow(ARTHUR, "TIDE", { workflow: "tide-main", format: "json", which: "running" }),
      ),
    ).toBe("not found");
    expect((await readDesign(INES, "TIX")).workflows.length).toBe(before);
  });
});

test("sprints and releases: one sprint at a time, what is planned in one keeps it, strangers' are refused", async () => {
  const sprintOf = (id: string, startsOn: string, endsOn: string) =>
    editTimebox(IVO, "TIX", {
      kind: "sprint",
      sprint: { id, name: id, goal: "", startsOn, endsOn },
    });
  await sprintOf("far", "2031-01-06", "2031-01-19");
  expect(await refusalOf(sprintOf("near", "2031-01-19", "2031-02-01"))).toBe("invalid");
  await sprintOf("near", "2031-01-20", "2031-02-01");
  const id = await itemIn(NOOR, "Planned");
  await send(NOOR, id, {
    kind: "edit",
    seenVersion: (await snapshot(id)).version,
    changes: { sprintId: "far" },
  });
  expect(await refusalOf(editTimebox(IVO, "TIX", { kind: "remove sprint", id: "far" }))).toBe(
    "invalid",
  );
  await editTimebox(IVO, "TIX", { kind: "remove sprint", id: "near" });
  expect(
    (await database().select().from(sprint).where(eq(sprint.id, "near")))[0].removedAt,
  ).not.toBeNull();
  expect(
    await refusalOf(
      editTimebox(IVO, "TIDE", {
        kind: "sprint",
        sprint: { id: "far", name: "far", goal: "", startsOn: "2031-01-06", endsOn: "2031-01-07" },
      }),
    ),
  ).toBe("not found");
  expect(
    await refusalOf(
      send(NOOR, id, {
        kind: "edit",
        seenVersion: (await snapshot(id)).version,
        changes: { sprintId: "gate-sprint-1" },
      }),
    ),
  ).toBe("invalid");
});

test("the history of all of it agrees with what is stored", async () =>
  expect((await checkItems()).findings).toEqual([]));
