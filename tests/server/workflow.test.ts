import { historyOf } from "@/server/item/history";
import { EMPTY_VOCABULARY } from "@/core/condition/vocabulary";
import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { parseCel } from "@/core/condition/cel-parse";
import {
  addState,
  changeState,
  changeTransition,
  connect,
  moveState,
  removeState,
} from "@/core/workflow/edit";
import type { FollowUp } from "@/core/workflow/follow-ups/table";
import type { Mover } from "@/core/workflow/requirement";
import { same } from "@/core/workflow/same";
import type { Transition, Workflow } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import { item, state } from "@/db/schema";
import { readBoard } from "@/server/board/read";
import { loadVocabulary } from "@/server/condition/vocabulary";
import { readLearn } from "@/server/flow/read";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { readItem } from "@/server/item/read";
import { discardDraft, saveDraft } from "@/server/workflow/draft";
import { replayDraft } from "@/server/workflow/replay";
import { readDesign, readVersion } from "@/server/workflow/read";
import { itemIn, move, refusalOf, send, stateId } from "./setup/board";
import { GRETA, INES, IVO, NOOR, TOMAS } from "./setup/people";
import { publishChange, runningWorkflow, storeDraft } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";
import type { Requirement } from "@/core/workflow/requirements/table";

givenTestDatabase();
const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const handToReview = (w: Workflow) => w.transitions.find((t) => t.verb === "Hand to review")!;
/** An item that Noor works on, with "Hand to review" as the move under test. */
const building = async (title = "On the way") => itemIn(NOOR, title, "Ready", "Building");
const hand =
  (viewer = NOOR, answers: object = {}) =>
  async (id: string) =>
    move(viewer, id, "Waiting for review", answers);

/** Sees to it that "Hand to review" has these rules and no others. */
async function withRules(change: Partial<Transition>): Promise<void> {
  const rules = { who: [], requirements: [], followUps: [], ...change };
  const now = handToReview(await runningWorkflow());
  if (!same({ ...now, ...rules }, now))
    await publishChange((w) => changeTransition(w, now.id, rules));
}

async function sayNo(
  work: Promise<unknown>,
): Promise<{ code: string; sentence: string; help: string; asks: { field: string }[] }> {
  try {
    await work;
  } catch (error) {
    const { refusal } = error as { refusal?: never };
    if (refusal) return refusal;
    throw error;
  }
  throw new Error("it was not refused");
}

describe("every requirement, through the real write path", () => {
  /** What is refused with which sentence, and what then makes it possible. */
  const cases: [
    string,
    Requirement,
    { code: string; sentence: string; asks: string[] },
    (id: string) => Promise<unknown>,
  ][] = [
    [
      "a field filled",
      { kind: "filled", field: "severity" },
      { code: "field missing", sentence: "It needs a severity.", asks: ["severity"] },
      hand(NOOR, { severity: "major" }),
    ],
    [
      "different people",
      { kind: "different people", first: "reviewerId", second: "assigneeId" },
      { code: "same person", sentence: "Review needs a second person.", asks: ["reviewerId"] },
      hand(NOOR, { reviewerId: "ivo" }),
    ],
    [
      "a condition",
      { kind: "condition", condition: parseCel("item.estimate <= 8", EMPTY_VOCABULARY).condition! },
      { code: "condition", sentence: "This move is for other items.", asks: [] },
      async (id) => {
        await send(NOOR, id, {
          kind: "edit",
          seenVersion: (await snapshot(id)).version,
          changes: { estimate: 5 },
        });
        return hand()(id);
      },
    ],
    [
      "sub-tasks finished",
      { kind: "sub-tasks finished" },
      { code: "sub-tasks open", sentence: "One child is not finished.", asks: [] },
      async (id) => {
        const [child] = await database().select().from(item).where(eq(item.parentId, id));
        const [done] = await database()
          .select({ id: state.id })
          .from(state)
          .where(and(eq(state.workflowId, "tix-tasks"), eq(state.name, "Done")));
        await send(NOOR, child.id, {
          kind: "move",
          from: child.stateId,
          to: done.id,
          answers: { outcome: "delivered" },
        });
        return hand()(id);
      },
    ],
    [
      "no blocker",
      { kind: "no blocker" },
      { code: "blocked", sentence: "It is blocked: waits for the harbour.", asks: [] },
      async (id) => {
        await send(NOOR, id, { kind: "lift", blockId: (await snapshot(id)).openBlockers[0].id });
        return hand()(id);
      },
    ],
    [
      "a comment",
      { kind: "comment" },
      { code: "comment missing", sentence: "This move leaves a comment.", asks: ["comment"] },
      hand(NOOR, { comment: "Look at the gate first." }),
    ],
    [
      "a reason",
      { kind: "reason" },
      { code: "reason missing", sentence: "This move says why.", asks: ["reason"] },
      hand(NOOR, { reason: "It is ready." }),
    ],
    [
      "two approvals by leads",
      { kind: "approvals", count: 2, role: "lead", teamId: null },
      { code: "approvals", sentence: "It needs 2 more approvals.", asks: [] },
      async (id) => {
        expect((await sayNo(send(NOOR, id, { kind: "approve", on: true }))).sentence).toBe(
          "Nobody approves their own work.",
        );
        await send(TOMAS, id, { kind: "approve", on: true });
        await send(INES, id, { kind: "approve", on: true });
        expect((await sayNo(hand()(id))).sentence).toBe("It needs one more approval.");
        await send(GRETA, id, { kind: "approve", on: true });
        return hand()(id);
      },
    ],
    [
      "the limit ahead",
      { kind: "limit ahead", mode: "refuse" },
      { code: "limit", sentence: "Waiting for review takes 4 items at most.", asks: [] },
      async (id) => {
        await withRules({ requirements: [{ kind: "limit ahead", mode: "ignore" }] });
        return hand()(id);
      },
    ],
    [
      "a reason beyond the limit ahead",
      { kind: "limit ahead", mode: "ask" },
      {
        code: "limit",
        sentence: "Waiting for review takes 4 items at most.",
        asks: ["overrideReason"],
      },
      (id) => move(NOOR, id, "Waiting for review", {}, { overrideReason: "The storm." }),
    ],
  ];

  test.each(cases)("%s", async (_what, requirement, refusal, satisfy) => {
    await withRules({ requirements: [requirement] });
    const id = await building();
    await send(NOOR, id, {
      kind: "edit",
      seenVersion: (await snapshot(id)).version,
      changes: { reviewerId: requirement.kind === "different people" ? "noor" : null },
    });
    if (requirement.kind === "no blocker")
      await send(NOOR, id, { kind: "block", cause: "waits for the harbour", waitingFor: null });
    if (requirement.kind === "sub-tasks finished")
      await createItem(NOOR, {
        commandId: randomUUID(),
        projectKey: "TIX",
        parentId: id,
        fields: { title: "Part of it", typeId: "task" },
      });
    const { code, sentence, asks } = await sayNo(hand()(id));
    expect({ code, sentence, asks: asks.map((a) => a.field) }).toEqual(refusal);
    expect((await snapshot(id)).stateId).toBe(await stateId("Building"));
    await satisfy(id);
    expect((await snapshot(id)).stateId).toBe(await stateId("Waiting for review"));
  });

  test("a condition's refusal says in a plain sentence when the move is made", async () => {
    const vocabulary = await loadVocabulary(database(), "tix");
    await withRules({
      requirements: [
        {
          kind: "condition",
          condition: parseCel('item.type == "Bug" && item.days_in_state < 5', vocabulary)
            .condition!,
        },
      ],
    });
    const id = await building();
    expect((await sayNo(hand()(id))).help).toBe(
      "It is made when the type is Bug and it has been in its state for less than 5 days.",
    );
  });

  test("a condition can ask for what stands under an item, whoever sees that", async () => {
    const vocabulary = await loadVocabulary(database(), "tix");
    const text = "children.all(child, child.how_to_test != null)";
    await withRules({
      requirements: [{ kind: "condition", condition: parseCel(text, vocabulary).condition! }],
    });
    const id = await building();
    const { card: task } = await createItem(NOOR, {
      commandId: randomUUID(),
      projectKey: "TIX",
      parentId: id,
      fields: { title: "Paint the rail", typeId: "task" },
    });
    expect((await sayNo(hand()(id))).help).toBe(
      "It is made when for all of its children, the note on how to test is set.",
    );
    const note = { howToTest: "Look at it." };
    await send(NOOR, task.id, { kind: "edit", seenVersion: task.version, changes: note });
    await hand()(id);
    expect((await snapshot(id)).stateId).toBe(await stateId("Waiting for review"));
  });

  test("the agreement is asked for in place, ticked on the way or before, and begins anew in the next state", async () => {
    await publishChange((w) => {
      const [here, ahead] = [
        w.states.find((s) => s.name === "Building")!,
        w.states.find((s) => s.name === "Waiting for review")!,
      ];
      const agreed = changeState(
        changeState(w, here.id, { exitPolicies: [{ id: "p1", text: "The help page says it" }] }),
        ahead.id,
        { entryPolicies: [{ id: "p2", text: "Tests are green" }] },
      );
      return changeTransition(agreed, handToReview(w).id, {
        who: [],
        requirements: [],
        followUps: [],
      });
    });
    const id = await building();
    expect(await sayNo(hand()(id))).toMatchObject({
      code: "checklist",
      sentence: "2 points of the agreement are open.",
      asks: [{ field: "ticks", policies: [{ id: "p1" }, { id: "p2" }] }],
    });
    await send(NOOR, id, { kind: "tick", policyId: "p1", on: true });
    const row = await snapshot(id);
    expect((await readItem(IVO, `TIX-${row.number}`)).agreement.points).toMatchObject([
      { id: "p1", ticked: true, tickedBy: "Noor Bakri" },
      { id: "p2", ticked: false },
    ]);
    expect((await sayNo(hand()(id))).sentence).toBe("One point of the agreement is open.");
    await hand(NOOR, { ticks: ["p2"] })(id);
    expect(await snapshot(id)).toMatchObject({ ticks: [] });
    expect(await refusalOf(send(NOOR, id, { kind: "tick", policyId: "p1", on: true }))).toBe(
      "invalid",
    );
    await publishChange((w) => ({
      ...w,
      states: w.states.map((s) => ({ ...s, entryPolicies: [], exitPolicies: [] })),
    }));
  });

  test("a state's own firm limit holds, also for whoever comes by another way", async () => {
    await publishChange((w) =>
      changeState(
        changeTransition(w, handToReview(w).id, { requirements: [] }),
        w.states.find((s) => s.name === "Waiting for review")!.id,
        { limit: { max: 1, firm: true, min: null, minFirm: false } },
      ),
    );
    const id = await building();
    expect((await sayNo(hand()(id))).sentence).toBe("Waiting for review takes 1 item at most.");
    await publishChange((w) =>
      changeState(w, w.states.find((s) => s.name === "Waiting for review")!.id, { limit: null }),
    );
  });
});

describe("who may make a move", () => {
  test.each<[string, Mover[], typeof NOOR, typeof NOOR]>([
    ["a lead", [{ kind: "role", role: "lead" }], NOOR, INES],
    ["the assignee", [{ kind: "assignee" }], IVO, NOOR],
    ["anyone but the assignee", [{ kind: "not the assignee" }], NOOR, IVO],
    ["the reviewer", [{ kind: "reviewer" }], NOOR, IVO],
    ["somebody of a team", [{ kind: "team", teamId: "platform" }], NOOR, GRETA],
  ])("%s", async (_who, who, other, right) => {
    await withRules({ who });
    const id = await building();
    await send(NOOR, id, {
      kind: "edit",
      seenVersion: (await snapshot(id)).version,
      changes: { reviewerId: "ivo" },
    });
    const refused = await sayNo(hand(other)(id));
    expect(refused.code).toBe("not for you");
    expect(refused.sentence).toMatch(/^“Hand to review” is for .+\.$/);
    await hand(right)(id);
    expect((await snapshot(id)).stateId).toBe(await stateId("Waiting for review"));
  });
});

describe("every follow-up, as part of the move", () => {
  const follow = async (
    followUps: FollowUp[],
    prepare: (id: string) => Promise<unknown> = async () => {},
  ) => {
    await withRules({ followUps });
    const id = await building();
    await prepare(id);
    await hand()(id);
    return id;
  };

  test("sets and clears fields, comments, sets the outcome", async () => {
    const id = await follow([
      { kind: "set field", change: { field: "priority", value: "urgent" } },
      { kind: "set field", change: { field: "reviewerId", value: null } },
      { kind: "comment", text: "Handed over." },
    ]);
    expect(await snapshot(id)).toMatchObject({ priority: "urgent", reviewerId: null });
    expect(
      (await readItem(NOOR, `TIX-${(await snapshot(id)).number}`)).talk.comments.map((c) => c.body),
    ).toEqual(["Handed over."]);
  });
  test.each<[string, FollowUp, string | null]>([
    ["one person", { kind: "assign", to: { kind: "person", personId: "ivo" } }, "ivo"],
    ["nobody", { kind: "assign", to: { kind: "nobody" } }, null],
    ["whoever moves it", { kind: "assign", to: { kind: "mover" } }, "noor"],
    ["its creator", { kind: "assign", to: { kind: "creator" } }, "noor"],
    ["the reviewer", { kind: "assign", to: { kind: "reviewer" } }, "mei"],
    ["who had it before", { kind: "assign", to: { kind: "previous assignee" } }, "ivo"],
  ])("gives it to %s", async (_to, followUp, expected) => {
    const id = await follow([followUp], async (own) => {
      const version = async () => (await snapshot(own)).version;
      await send(NOOR, own, {
        kind: "edit",
        seenVersion: await version(),
        changes: { assigneeId: "ivo", reviewerId: "mei" },
      });
      await send(NOOR, own, {
        kind: "edit",
        seenVersion: await version(),
        changes: { assigneeId: "noor" },
      });
    });
    expect((await snapshot(id)).assigneeId).toBe(expected);
  });
  test("gives it to whoever of a team has least, and to each in turn", async () => {
    const least = await follow([
      { kind: "assign", to: { kind: "least loaded", teamId: "ticketing" } },
    ]);
    const given = (await snapshot(least)).assigneeId!;
    const open = await database()
      .select({ who: item.assigneeId })
      .from(item)
      .where(eq(item.stateKind, "working"));
    expect(open.length).toBeGreaterThan(0);
    expect(given).not.toBeNull();
    const turn: FollowUp = { kind: "assign", to: { kind: "in turn", teamId: "ticketing" } };
    const people = [];
    for (let n = 0; n < 3; n++) people.push((await snapshot(await follow([turn]))).assigneeId);
    expect(new Set(people).size).toBe(3);
  });
  test("what was undone gave it to nobody: neither as the one before, nor as a turn", async () => {
    const version = async (id: string) => (await snapshot(id)).version;
    const before = await follow(
      [{ kind: "assign", to: { kind: "previous assignee" } }],
      async (own) => {
        await send(NOOR, own, {
          kind: "edit",
          seenVersion: await version(own),
          changes: { assigneeId: "ivo" },
        });
        await send(NOOR, own, {
          kind: "edit",
          seenVersion: await version(own),
          changes: { assigneeId: "noor" },
        });
        const [passing, undone] = [randomUUID(), randomUUID()];
        await send(
          NOOR,
          own,
          { kind: "edit", seenVersion: await version(own), changes: { assigneeId: "mei" } },
          passing,
        );
        await send(NOOR, own, { kind: "undo", commandId: passing }, undone);
      },
    );
    expect((await snapshot(before)).assigneeId).toBe("ivo");
    await withRules({
      followUps: [{ kind: "assign", to: { kind: "in turn", teamId: "ticketing" } }],
    });
    const [first, second] = [await building(), await building()];
    const commandId = randomUUID();
    await send(
      NOOR,
      first,
      {
        kind: "move",
        from: (await snapshot(first)).stateId,
        to: await stateId("Waiting for review"),
        answers: ANSWERS,
      },
      commandId,
    );
    const turn = (await snapshot(first)).assigneeId;
    await send(NOOR, first, { kind: "undo", commandId });
    await hand()(second);
    expect((await snapshot(second)).assigneeId).toBe(turn);
  });
  test("makes sub-tasks once, however often it is handed over", async () => {
    const id = await follow([
      { kind: "create sub-tasks", titles: ["Tell the quays", "Update the help"] },
    ]);
    await move(NOOR, id, "Building");
    await hand()(id);
    expect(
      (await database().select({ title: item.title }).from(item).where(eq(item.parentId, id)))
        .map((c) => c.title)
        .sort(),
    ).toEqual(["Tell the quays", "Update the help"]);
  });
  test("finishes its duplicates, by their own workflow and with the cause in their history", async () => {
    let twin = "";
    await follow([{ kind: "finish duplicates" }], async (id) => {
      twin = await itemIn(NOOR, "The same again");
      await send(NOOR, twin, {
        kind: "link",
        linkKind: "duplicates",
        otherKey: `TIX-${(await snapshot(id)).number}`,
      });
    });
    expect(await snapshot(twin)).toMatchObject({ stateKind: "finished", outcome: "duplicate" });
    const last = (await historyOf(database(), twin)).at(-1);
    expect(last).toMatchObject({ cause: "follow-up", kind: "moved" });
  });
  test("one that stands there twice finds what the first of them did", async () => {
    let twin = "";
    const twice = [
      { kind: "create sub-tasks" as const, titles: ["Tell them once"] },
      { kind: "finish duplicates" as const },
    ];
    const id = await follow([...twice, ...twice], async (original) => {
      twin = await itemIn(NOOR, "The same twice");
      const otherKey = `TIX-${(await snapshot(original)).number}`;
      await send(NOOR, twin, { kind: "link", linkKind: "duplicates", otherKey });
    });
    const children = await database().select().from(item).where(eq(item.parentId, id));
    expect(children.map((c) => c.title)).toEqual(["Tell them once"]);
    expect((await snapshot(twin)).stateKind).toBe("finished");
    expect((await checkItems()).findings).toEqual([]);
  });
  test("puts it on top", async () => {
    const id = await follow([{ kind: "put on top" }]);
    const [first] = await database()
      .select({ id: item.id })
      .from(item)
      .where(eq(item.stateId, await stateId("Waiting for review")))
      .orderBy(item.rank)
      .limit(1);
    expect(first.id).toBe(id);
  });
  test("a refused move leaves nothing of what would have followed", async () => {
    await withRules({
      requirements: [{ kind: "reason" }],
      followUps: [{ kind: "create sub-tasks", titles: ["Never made"] }],
    });
    const id = await building();
    await sayNo(hand()(id));
    expect(await database().select().from(item).where(eq(item.parentId, id))).toEqual([]);
  });
});

describe("the past under a draft", () => {
  test("is held against the stored draft, for leads only, and changes nothing", async () => {
    const before = await runningWorkflow();
    const query = { workflow: "tix-main", days: 90 as const };
    const plain = await replayDraft(INES, "TIX", query);
    const revision = await storeDraft(
      INES,
      changeTransition(before, handToReview(before).id, {
        who: [],
        requirements: [{ kind: "comment" }],
        followUps: [{ kind: "put on top" }],
      }),
    );
    const held = await replayDraft(INES, "TIX", query);
    expect(held.moves).toBe(plain.moves);
    expect(held.moves).toBeGreaterThan(500);
    const byRule = held.refusals.filter((r) => r.by === "comment");
    expect(byRule.length).toBeGreaterThan(50);
    expect(held.allowed + held.refusals.length).toBe(held.moves);
    expect(held.keys[byRule[0].itemId]).toMatch(/^TIX-\d+$/);
    expect(await refusalOf(replayDraft(NOOR, "TIX", query))).toBe("not allowed");
    expect(await refusalOf(replayDraft(INES, "TIX", { ...query, workflow: "gate-main" }))).toBe(
      "not found",
    );
    await discardDraft(INES, before.id, revision);
    expect((await runningWorkflow()).version).toBe(before.version);
  });
});

describe("drafts and publishing", () => {
  test("a draft binds nobody, is seen by leads only, and can be thrown away", async () => {
    const before = await runningWorkflow();
    const revision = await storeDraft(
      INES,
      changeState(before, before.states[1].id, { name: "To pull" }),
    );
    expect((await runningWorkflow()).states[1].name).toBe(before.states[1].name);
    expect((await readDesign(NOOR, "TIX")).drafts).toEqual([]);
    expect((await readDesign(GRETA, "TIX")).drafts).toHaveLength(1);
    expect(
      await refusalOf(
        saveDraft(GRETA, {
          workflowId: before.id,
          seenRevision: 0,
          baseVersion: before.version,
          definition: before,
        }),
      ),
    ).toBe("conflict");
    await discardDraft(INES, before.id, revision);
    expect((await readDesign(INES, "TIX")).drafts).toEqual([]);
  });

  test("a draft begun before somebody else published is not published over it", async () => {
    const old = await runningWorkflow();
    await publishChange((w) => changeState(w, w.states[1].id, { expectedDays: 2 }));
    expect(
      await refusalOf(
        saveDraft(GRETA, {
          workflowId: old.id,
          seenRevision: 0,
          baseVersion: old.version,
          definition: changeState(old, old.states[2].id, { expectedDays: 3 }),
        }),
      ),
    ).toBe("conflict");
  });

  test("what would trap items is refused; what is the same is refused; nothing changes", async () => {
    const { version } = await runningWorkflow();
    const trap = (w: Workflow) => ({
      ...w,
      transitions: w.transitions.filter(
        (t) => t.from !== null && !t.from.includes(w.states.find((s) => s.name === "In test")!.id),
      ),
    });
    await expect(publishChange(trap)).rejects.toThrow(/no finished state can be reached/);
    await expect(publishChange((w) => w)).rejects.toThrow("The draft is the same as what runs.");
    expect((await runningWorkflow()).version).toBe(version);
  });

  test("a new waiting state stands on the board, a renamed one is the same state, and the past counts on", async () => {
    const id = await building("In the middle");
    await withRules({});
    const past = (await readLearn(INES, "TIX", { period: "26 weeks" })).report.times;
    const next = await stateId("Ready to deploy");
    const { version } = await publishChange(
      (w) =>
        addState(w, w.states.find((s) => s.name === "In test")!.id, {
          id: "harbour",
          name: "Waiting for the harbour",
          kind: "waiting",
          stage: "Deploy",
          moveIds: ["h1", "h2"],
        }),
      {},
      "The harbour office approves now.",
    );
    const board = await readBoard(NOOR, "TIX");
    expect(board.columns.findIndex((c) => c.stateIds.includes("harbour"))).toBe(
      board.columns.findIndex((c) => c.stateIds.includes(next)) - 1,
    );
    for (const step of [
      "Waiting for review",
      "In review",
      "Waiting for test",
      "In test",
      "Waiting for the harbour",
      "Ready to deploy",
      "Live",
    ])
      await move(
        INES,
        id,
        step,
        { reviewerId: "ivo", howToTest: "Look.", outcome: "delivered" },
        { overrideReason: "trying it" },
      );
    await publishChange((w) => changeState(w, next, { name: "Packed" }));
    const after = (await readLearn(INES, "TIX", { period: "26 weeks" })).report.times.states.find(
      (s) => s.stateId === next,
    )!;
    expect(after.items).toBe(past.states.find((s) => s.stateId === next)!.items + 1);
    const { versions } = await readDesign(INES, "TIX");
    expect(versions.find((v) => v.version === version)).toMatchObject({
      by: "Ines Dahl",
      note: "The harbour office approves now.",
      summary: expect.stringMatching(/^New state Waiting for the harbour/),
    });
  });

  test("items of a state that goes get the state chosen for them, with the reason in their history", async () => {
    const there = await building("Stranded");
    await withRules({});
    const [review, ready] = [await stateId("Waiting for review"), await stateId("Ready")];
    await hand()(there);
    const without = (w: Workflow) =>
      connect(removeState(w, review), {
        id: "straight",
        from: w.states.find((s) => s.name === "Building")!.id,
        to: w.states.find((s) => s.name === "In review")!.id,
        verb: "Hand to review",
      });
    await expect(publishChange(without)).rejects.toThrow(
      /items? (is|are) in Waiting for review, which is going\./,
    );
    const { movedItems } = await publishChange(without, { [review]: ready });
    expect(movedItems).toBeGreaterThan(0);
    expect((await snapshot(there)).stateId).toBe(ready);
    const last = (await historyOf(database(), there)).at(-1);
    expect(last).toMatchObject({
      kind: "moved",
      cause: "workflow change",
      note: "Waiting for review was taken out of the process.",
    });
    expect((await readBoard(NOOR, "TIX")).columns.some((c) => c.stateIds.includes(review))).toBe(
      false,
    );
    expect(
      JSON.stringify((await readItem(NOOR, `TIX-${(await snapshot(there)).number}`)).history),
    ).toContain("from Waiting for review to Ready");
    expect((await checkItems()).findings).toEqual([]);
  });

  test("a waiting state that becomes a working one counts as work from then on", async () => {
    const id = await itemIn(NOOR, "Changes its kind", "Ready");
    const ready = await stateId("Ready");
    await publishChange((w) => changeState(w, ready, { kind: "working" }));
    expect(await snapshot(id)).toMatchObject({ stateId: ready, stateKind: "working" });
    await publishChange((w) => changeState(w, ready, { kind: "waiting" }));
    expect((await checkItems()).findings).toEqual([]);
  });

  test("an earlier version can be looked at and published again", async () => {
    const first = await readVersion(INES, "TIX", { workflow: "tix-main", version: 1 });
    expect(first.states.map((s) => s.name)).toContain("Waiting for review");
    const mapped = await stateId("Ready");
    const now = await runningWorkflow();
    const gone = Object.fromEntries(
      now.states.filter((s) => !first.states.some((f) => f.id === s.id)).map((s) => [s.id, mapped]),
    );
    await publishChange((w) => ({ ...first, version: w.version }), gone);
    expect((await runningWorkflow()).states.map((s) => s.name)).toEqual(
      first.states.map((s) => s.name),
    );
    expect(await refusalOf(readVersion(INES, "GATE", { workflow: "tix-main", version: 1 }))).toBe(
      "not found",
    );
  });

  test("another order of the states is only another order", async () => {
    const before = await runningWorkflow();
    await publishChange((w) => moveState(w, w.states[3].id, 1));
    expect((await runningWorkflow()).transitions).toEqual(before.transitions);
  });

  test("while 32 people move items, a publish that takes a state out leaves everything in order", async () => {
    await publishChange((w) =>
      addState(w, w.states.find((s) => s.name === "Ready")!.id, {
        id: "pier",
        name: "On the pier",
        kind: "waiting",
        stage: "Ready",
        moveIds: ["pier-in", "pier-out"],
      }),
    );
    const ids = await Promise.all(
      Array.from({ length: 32 }, (_, n) => itemIn(NOOR, `Mover ${n}`, "Ready")),
    );
    const [ready] = [await stateId("Ready")];
    let stop = false;
    const refusals = new Set<string>();
    const movers = ids.map(async (id) => {
      for (let n = 0; !stop || n < 4; n++) {
        const from = (await snapshot(id)).stateId;
        const to = from === ready ? "pier" : ready;
        refusals.add(await refusalOf(send(NOOR, id, { kind: "move", from, to, answers: ANSWERS })));
        if (n > 200) break;
      }
    });
    const published = publishChange(
      (w) =>
        connect(removeState(w, "pier"), {
          id: "on",
          from: ready,
          to: w.states.find((s) => s.name === "Building")!.id,
          verb: "Start building",
        }),
      { pier: ready },
    );
    await published;
    stop = true;
    await Promise.all(movers);
    expect(
      await database().select({ id: item.id }).from(item).where(eq(item.stateId, "pier")),
    ).toEqual([]);
    // Decided by one version or the other: a move is made, or told that it does not exist (any
    // more), never anything else.
    expect(
      [...refusals].every((r) =>
        ["nothing refused", "no such move", "moved meanwhile"].includes(r),
      ),
    ).toBe(true);
    expect((await checkItems()).findings).toEqual([]);
  });
});

const ANSWERS = { assigneeId: "noor", reason: "Back to the quay." };
