import { eq } from "drizzle-orm";
import type { EventKind } from "@/core/events/catalogue";
import { changeState } from "@/core/workflow/edit";
import type { WorkflowEdit } from "@/core/workflow/request";
import { database } from "@/db/connection";
import { columnState, domainEvent, state } from "@/db/schema";
import { addWorkflow } from "@/server/workflow/new-workflow";
import { readDesign } from "@/server/workflow/read";
import { editWorkflows } from "@/server/workflow/remove-workflow";
import { editType } from "@/server/workflow/types";
import { visitDraft } from "@/server/workflow/visit";
import { refusalOf } from "./setup/board";
import { GRETA, INES, NOOR } from "./setup/people";
import { publishChange, runningWorkflow, storeDraft } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const told = async (kind: EventKind) =>
  (await database().select().from(domainEvent).where(eq(domainEvent.kind, kind))).map(
    (e) => e.data,
  );

describe("two at one draft", () => {
  const at = (viewer: typeof INES, chosenId: string | null, now: number, leaves = false) =>
    visitDraft(viewer, "TIX", { workflowId: "tix-main", chosenId, leaves }, now);

  test("each hears where the other is, until they leave or say nothing any more", async () => {
    expect(await at(INES, "one", 1_000)).toEqual([]);
    expect(await at(GRETA, null, 2_000)).toEqual([
      { personId: "ines", name: "Ines Dahl", chosenId: "one" },
    ]);
    expect(await at(INES, "two", 3_000)).toEqual([
      { personId: "greta", name: "Greta Falk", chosenId: null },
    ]);
    // The same place again is no news.
    await at(INES, "two", 4_000);
    expect(await told("workflow draft visited")).toHaveLength(3);
    await at(GRETA, null, 5_000, true);
    expect(await at(INES, "two", 6_000)).toEqual([]);
    expect(await told("workflow draft visited")).toHaveLength(4);
    expect(await at(GRETA, null, 70_000)).toEqual([]);
  });

  test("leaving one draft says nothing of another, and only those who may change it are there", async () => {
    await visitDraft(INES, "TIX", { workflowId: "tix-tasks", chosenId: null, leaves: false });
    await visitDraft(INES, "TIX", { workflowId: "tix-main", chosenId: null, leaves: true });
    const there = { workflowId: "tix-tasks", chosenId: null, leaves: false };
    expect(await visitDraft(GRETA, "TIX", there)).toHaveLength(1);
    expect(await refusalOf(visitDraft(NOOR, "TIX", there))).toBe("not allowed");
    const elsewhere = { workflowId: "gate-main", chosenId: null, leaves: false };
    expect(await refusalOf(visitDraft(INES, "TIX", elsewhere))).toBe("not found");
  });

  test("every storing of a draft is told, with its number", async () => {
    const before = await runningWorkflow();
    const first = await storeDraft(INES, changeState(before, before.states[1].id, { name: "A" }));
    const second = await storeDraft(INES, changeState(before, before.states[1].id, { name: "B" }));
    expect((await told("workflow draft changed")).slice(-2)).toEqual([
      { workflowId: "tix-main", revision: first },
      { workflowId: "tix-main", revision: second },
    ]);
  });
});

test("a version keeps why it was published apart from what changed", async () => {
  await publishChange((w) => changeState(w, w.states[1].id, { expectedDays: 4 }), {}, " Agreed. ");
  const { versions } = await readDesign(INES, "TIX");
  expect(versions.find((v) => v.workflowId === "tix-main")).toMatchObject({
    note: "Agreed.",
    summary: expect.stringMatching(/^The expected time in .* is 4 days \(was not set\)\.$/),
  });
});

describe("taking a workflow out", () => {
  const edit = (change: WorkflowEdit) => editWorkflows(INES, "TIX", change);
  const sentence = async (work: Promise<unknown>) => {
    try {
      await work;
    } catch (error) {
      return (error as { refusal: { sentence: string } }).refusal.sentence;
    }
    return "done";
  };

  test("what something follows stays; who may not change it is refused", async () => {
    expect(await sentence(edit({ kind: "take out", id: "tix-main" }))).toBe(
      "Story, Bug and Request follow it.",
    );
    const { workflowId: id } = await addWorkflow(INES, "TIX", {
      name: "Spare",
      from: { kind: "empty" },
    });
    expect(await refusalOf(editWorkflows(NOOR, "TIX", { kind: "take out", id }))).toBe(
      "not allowed",
    );
    expect(await refusalOf(editWorkflows(INES, "GATE", { kind: "take out", id }))).toBe(
      "not found",
    );
  });

  test("it leaves the lists and the boards, and comes back as it was", async () => {
    const { workflowId: id } = await addWorkflow(INES, "TIX", {
      name: "For a while",
      from: { kind: "template", name: "Test first" },
    });
    const type = { id: "trial", name: "Trial", level: 1, workflowId: id, glyph: "square" } as const;
    const stored = { ...type, template: "", position: 9, removedAt: null };
    await editType(INES, "TIX", { kind: "save", type: stored, newStates: {} });
    const shown = () =>
      database()
        .select({ id: columnState.stateId })
        .from(columnState)
        .innerJoin(state, eq(state.id, columnState.stateId))
        .where(eq(state.workflowId, id));
    expect((await shown()).length).toBeGreaterThan(3);
    await editType(INES, "TIX", { kind: "remove", id: "trial" });
    await edit({ kind: "take out", id });
    const without = await readDesign(INES, "TIX");
    expect(without.workflows.map((w) => w.name)).not.toContain("For a while");
    expect(without.removed).toEqual([{ id, name: "For a while" }]);
    expect(await shown()).toEqual([]);
    expect(without.columns.every((c) => c.stateIds.length > 0)).toBe(true);
    await edit({ kind: "bring back", id });
    const back = await readDesign(INES, "TIX");
    expect(back.workflows.map((w) => w.name)).toContain("For a while");
    expect(back.removed).toEqual([]);
  });

  test("an item of a type that was taken out still follows it", async () => {
    const { workflowId: id } = await addWorkflow(INES, "TIX", {
      name: "Old way",
      from: { kind: "copy", workflowId: "tix-main" },
    });
    const { types, workflows } = await readDesign(INES, "TIX");
    const [main, copy] = ["tix-main", id].map((w) => workflows.find((x) => x.id === w)!);
    const newStates = Object.fromEntries(
      main.states.map((s, i) => [s.id, copy.states[i].id] as const),
    );
    const type = { ...types.find((t) => t.id === "request")!, workflowId: id };
    await editType(INES, "TIX", { kind: "save", type, newStates });
    await editType(INES, "TIX", { kind: "remove", id: "request" });
    expect(await sentence(edit({ kind: "take out", id }))).toMatch(
      /^\d+ items of a type that was taken out still follow it\.$/,
    );
  });
});
