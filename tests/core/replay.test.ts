import { NOTHING_AROUND } from "@/core/condition/facts";
import { replayMoves, type ReplayContext } from "@/core/workflow/replay";
import { afterTry, tryMoves } from "@/core/workflow/try-item";
import { changeTransition, removeState } from "@/core/workflow/edit";
import type { Transition, Workflow } from "@/core/workflow/workflow";
import { VOCABULARY } from "./setup/conditions";
import { context, Subject, workflow } from "./setup/make";

const asking: ReplayContext = {
  actorOf: (id) => ({ personId: id, role: id === "ines" ? "lead" : "member", teamIds: [] }),
  aroundOf: (_id, everIn) => ({ ...NOTHING_AROUND, everIn }),
  asker: { personId: null, teamIds: [], now: 0, zone: "UTC" },
  teamsOf: () => [],
  vocabulary: VOCABULARY,
  nameOf: (id) => id,
  ownFields: [],
  teamName: (id) => id,
};

/** Goes to live, with one return from review. */
const lived = () =>
  new Subject()
    .move("Ready")
    .move("Building", { assigneeId: "noor" })
    .move("Waiting for review")
    .move("In review", { reviewerId: "ivo" })
    .move("Building", { reason: "Too slow." })
    .move("Waiting for review")
    .move("In review")
    .move("Waiting for test", { howToTest: "Look." })
    .move("In test")
    .move("Ready to deploy")
    .move("Live", { outcome: "delivered" });

const withRule = (verb: string, change: Partial<Transition>): Workflow =>
  changeTransition(workflow, workflow.transitions.find((t) => t.verb === verb)!.id, change);
const replay = (draft: Workflow, since = 0) => replayMoves(draft, [lived().events], since, asking);

describe("the past under a draft", () => {
  test("under the rules that ran then, everything is allowed", () =>
    expect(replay(workflow)).toMatchObject({ moves: 11, allowed: 11, refusals: [] }));

  test.each<[string, Workflow, string, number]>([
    [
      "a rule that was not kept",
      withRule("Start building", { requirements: [{ kind: "filled", field: "estimate" }] }),
      "filled",
      1,
    ],
    [
      "a rule that was kept by the answers of that move",
      withRule("Start review", { requirements: [{ kind: "filled", field: "reviewerId" }] }),
      "filled",
      0,
    ],
    [
      "a reason where none was given",
      withRule("Hand to review", { requirements: [{ kind: "reason" }] }),
      "reason",
      2,
    ],
    [
      "a reason where one was given",
      withRule("Send back", { requirements: [{ kind: "reason" }] }),
      "reason",
      0,
    ],
    [
      "a condition on the way so far",
      withRule("Start test", {
        requirements: [
          {
            kind: "condition",
            condition: { kind: "compare", fact: "returns", op: "is", value: 0 },
          },
        ],
      }),
      "condition",
      1,
    ],
    [
      "a move that the draft does not have",
      { ...workflow, transitions: workflow.transitions.filter((t) => t.verb !== "Send back") },
      "no such move",
      1,
    ],
    ["a state that is gone", removeState(workflow, "In test"), "state is gone", 2],
    [
      "a move that is for leads",
      withRule("Deploy", { who: [{ kind: "role", role: "lead" }] }),
      "not for them",
      1,
    ],
  ])("%s", (_what, draft, by, n) => {
    const { refusals, moves, allowed } = replay(draft);
    expect(refusals.filter((r) => r.by === by)).toHaveLength(n);
    expect(moves - allowed).toBe(refusals.length);
  });

  test("counts the follow-ups that would have run, and only moves since the day asked for", () => {
    const draft = withRule("Hand to review", {
      followUps: [{ kind: "put on top" }, { kind: "assign", to: { kind: "nobody" } }],
    });
    expect(replay(draft).followUps).toEqual({ "put on top": 2, assign: 2 });
    const { events } = lived();
    const last = events.filter((e) => e.kind === "moved").at(-1)!;
    expect(replayMoves(workflow, [events], last.at, asking).moves).toBe(1);
  });
});

describe("trying", () => {
  const around = context();
  test("answers every requirement with yes or no and the reason, and walks on without storing", () => {
    const { item } = new Subject()
      .move("Ready")
      .move("Building", { assigneeId: "noor" })
      .move("Waiting for review");
    const [start] = tryMoves(workflow, item!, {}, around);
    expect(start).toMatchObject({
      possible: false,
      requirements: [
        { met: false, reason: "Review needs a reviewer. Choose somebody other than the assignee." },
        { met: false, reason: "It has no reviewer. Set one: somebody else reads it." },
      ],
    });
    const [possible] = tryMoves(workflow, item!, { reviewerId: "ivo" }, around);
    expect(possible.possible).toBe(true);
    expect(
      afterTry(workflow, item!, possible, { answers: { reviewerId: "ivo" }, actorId: "noor" }),
    ).toMatchObject({
      stateId: "In review",
      stateKind: "working",
      reviewerId: "ivo",
    });
    expect(item!.stateId).toBe("Waiting for review");
  });
  test("shows what would follow", () => {
    const draft = withRule("Start building", {
      followUps: [
        { kind: "set field", change: { field: "priority", value: "high" } },
        { kind: "assign", to: { kind: "mover" } },
      ],
    });
    const { item } = new Subject().move("Ready");
    const [move] = tryMoves(draft, item!, { assigneeId: "ivo" }, around);
    expect(
      afterTry(draft, item!, move, { answers: { assigneeId: "ivo" }, actorId: "noor" }),
    ).toMatchObject({
      stateId: "Building",
      priority: "high",
      assigneeId: "noor",
    });
  });
});
