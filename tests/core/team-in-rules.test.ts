import type { FollowUp } from "@/core/workflow/follow-ups/table";
import { dependsOnTeam, teamsOfMove, withoutTeam } from "@/core/workflow/team-in-rules";
import { changeState, changeTransition } from "@/core/workflow/edit";
import { PLAIN_TRANSITION, type Transition } from "@/core/workflow/workflow";
import { workflow } from "./setup/make";

const move = (rules: Partial<Transition>): Transition => ({
  id: "m",
  from: ["a"],
  to: "b",
  verb: "Hand over",
  ...PLAIN_TRANSITION,
  ...rules,
});
const team = (teamId: string) => ({ kind: "team", teamId }) as const;
const approvedBy = (teamId: string | null) =>
  ({ kind: "approvals", count: 1, role: null, teamId }) as const;
const told = (...whom: Extract<FollowUp, { kind: "tell" }>["whom"]): FollowUp => ({
  kind: "tell",
  whom,
  text: "Look",
});
const given = (kind: "least loaded" | "in turn", teamId: string): FollowUp => ({
  kind: "assign",
  to: { kind, teamId },
});
const LEADS = { kind: "role", role: "lead" } as const;

test("a move names the teams of who makes it, who approves it and what follows, each once", () => {
  const rules: Partial<Transition> = {
    who: [LEADS, team("quay"), team("tix")],
    requirements: [{ kind: "no blocker" }, approvedBy("tide"), approvedBy(null)],
    followUps: [
      { kind: "put on top" },
      { kind: "assign", to: { kind: "mover" } },
      given("in turn", "platform"),
      told({ kind: "assignee" }, team("crew"), team("tix")),
    ],
  };
  expect(teamsOfMove(move(rules))).toEqual(["quay", "tix", "tide", "platform", "crew"]);
  expect(teamsOfMove(move({}))).toEqual([]);
});

test.each<[string, boolean, Partial<Transition>]>([
  ["nobody but the team makes it", true, { who: [team("quay")] }],
  ["leads make it too", false, { who: [team("quay"), LEADS] }],
  ["another team makes it", false, { who: [team("tix")] }],
  ["everybody makes it", false, {}],
  ["the team approves", true, { requirements: [{ kind: "no blocker" }, approvedBy("quay")] }],
  ["another team approves", false, { requirements: [approvedBy("tix")] }],
  ["anybody approves", false, { requirements: [approvedBy(null)] }],
  ["it goes to the next of the team", true, { followUps: [given("in turn", "quay")] }],
  ["it goes to the freest of the team", true, { followUps: [given("least loaded", "quay")] }],
  ["it goes to the freest of another", false, { followUps: [given("least loaded", "tix")] }],
  ["it goes to a person", false, { followUps: [{ kind: "assign", to: { kind: "reviewer" } }] }],
  ["only the team is told", true, { followUps: [told(team("quay"))] }],
  ["others are told too", false, { followUps: [told(team("quay"), { kind: "leads" })] }],
  ["another team is told", false, { followUps: [told(team("tix"))] }],
  ["something else follows", false, { followUps: [{ kind: "put on top" }] }],
])("where %s, a move depends on the team: %s", (_, depends, rules) => {
  expect(dependsOnTeam(move(rules), "quay")).toBe(depends);
});

test("taken off, a team is named nowhere, and everything else stays", () => {
  const { id } = workflow.transitions.find((t) => t.verb === "Start review")!;
  const places = changeState(changeState(workflow, "In review", { teamId: "quay" }), "In test", {
    teamId: "tix",
  });
  const ruled = changeTransition(places, id, {
    who: [team("quay"), team("tix"), LEADS],
    requirements: [{ kind: "no blocker" }, approvedBy("quay"), approvedBy("tix")],
    followUps: [
      { kind: "put on top" },
      given("in turn", "quay"),
      given("in turn", "tix"),
      told(team("quay")),
      told(team("quay"), team("tix"), { kind: "leads" }),
    ],
  });
  const after = withoutTeam(ruled, "quay");
  const place = (name: string) => after.states.find((s) => s.name === name)!.teamId;
  expect([place("In review"), place("In test"), place("Building")]).toEqual([null, "tix", null]);
  expect(after.transitions.find((t) => t.id === id)).toMatchObject({
    who: [team("tix"), LEADS],
    requirements: [{ kind: "no blocker" }, approvedBy(null), approvedBy("tix")],
    followUps: [
      { kind: "put on top" },
      given("in turn", "tix"),
      told(team("tix"), { kind: "leads" }),
    ],
  });
  expect(withoutTeam(ruled, "nobody")).toEqual(ruled);
});
