import type { Vocabulary } from "@/core/condition/vocabulary";
import { parseCel } from "@/core/condition/cel-parse";
import { asksWhoLooks, factsIn, isRead, type Condition } from "@/core/condition/condition";
import { neverHolds } from "./contradiction";
import {
  finding,
  repairable,
  type CheckSurroundings,
  type Finding,
  type Severity,
} from "./finding";
import { sourcesOf } from "./graph";
import type { Requirement } from "./requirements/table";
import { same } from "./same";
import type { Transition, Workflow } from "./workflow";
import type { State, StateId } from "./state";

type Demand<K extends Requirement["kind"]> = Extract<Requirement, { kind: K }>;

/** A move that is looked at, with how a finding about it is told. */
interface Looked {
  workflow: Workflow;
  move: Transition;
  target: State;
  around: CheckSurroundings;
  /** A finding whose sentence begins with the move. */
  tell: (severity: Severity, code: string, words: string) => Finding;
}

/** What of a move's rules deserves a look. */
export function moveFindings(
  workflow: Workflow,
  move: Transition,
  around: CheckSurroundings,
): Finding[] {
  const target = workflow.states.find((s) => s.id === move.to)!;
  const label = `“${move.verb}” to ${target.name}`;
  const looked: Looked = {
    workflow,
    move,
    target,
    around,
    tell: (severity, code, words) =>
      finding(severity, code, `${label} ${words}`, { transitionId: move.id }),
  };
  return [
    ...move.requirements.flatMap((_, index) => demandFindings(looked, index)),
    ...clearedAtOnce(looked),
    ...move.who.flatMap((mover) => moverFindings(looked, mover)),
    ...assigneeOfNone(looked),
  ];
}

function demandFindings(looked: Looked, index: number): Finding[] {
  const { move, tell } = looked;
  const demand = move.requirements[index];
  const mended = (found: Finding, words: string) =>
    repairable(found, { kind: "remove requirement", transitionId: move.id, index, words });
  const about =
    demand.kind === "condition"
      ? conditionFindings(looked, demand, mended)
      : demand.kind === "outcome"
        ? outcomeFindings(looked, demand, mended)
        : demand.kind === "approvals"
          ? approvalFindings(looked, demand)
          : demand.kind === "checklist"
            ? checklistFindings(looked, mended)
            : [];
  const twin = move.requirements.findIndex((other) => same(other, demand));
  return twin < index
    ? [...about, mended(tell("hint", "asked twice", "asks for the same thing twice."), "Ask once")]
    : about;
}

type Mended = (found: Finding, words: string) => Finding;

function conditionFindings(
  { workflow, move, around, tell }: Looked,
  { condition }: Demand<"condition">,
  mended: Mended,
): Finding[] {
  const takeOut = "Take the condition out";
  if (!isRead(condition)) {
    const { problem } = parseCel(condition.text, around.vocabulary);
    const where = problem ? ` Character ${problem.at + 1}: ${problem.sentence}` : "";
    const words = `has a condition that is not finished: “${condition.text}”.${where}`;
    return [mended(tell("trap", "unfinished condition", words), takeOut)];
  }
  const never = neverHolds(condition)
    ? "has a condition that can never hold."
    : excludesSources(condition, sourcesOf(workflow, move))
      ? "wants the item to be in a state it cannot come from."
      : null;
  return [
    ...(never ? [mended(tell("weak", "never holds", never), takeOut)] : []),
    ...(asksWhoLooks(condition)
      ? [
          mended(
            tell(
              "trap",
              "asks who looks",
              "asks who looks (me, my teams); a rule is the same for everybody. Say who may make the move instead.",
            ),
            takeOut,
          ),
        ]
      : []),
    ...missingIds(condition, around.vocabulary).map((gone) =>
      tell("weak", "unknown name", `asks for ${gone}, which the project does not have.`),
    ),
  ];
}

function outcomeFindings(
  { target, tell }: Looked,
  { allowed }: Demand<"outcome">,
  mended: Mended,
): Finding[] {
  if (target.kind !== "finished")
    return [
      mended(
        tell(
          "weak",
          "outcome without end",
          `asks for an outcome, but ${target.name} is not a finished state.`,
        ),
        "Do not ask for it",
      ),
    ];
  if (target.outcomes.length === 0 || allowed.some((o) => target.outcomes.includes(o))) return [];
  return [
    mended(
      tell("weak", "contradiction", `offers outcomes that ${target.name} does not allow.`),
      `Offer what ${target.name} allows`,
    ),
  ];
}

function approvalFindings(
  { around, tell }: Looked,
  { teamId, role, count }: Demand<"approvals">,
): Finding[] {
  const gone = teamId !== null && !around.vocabulary.teams.some((team) => team.id === teamId);
  // Nobody approves their own work, so one more person than approvals may be needed.
  const people =
    teamId !== null
      ? (around.peopleOfTeam[teamId] ?? 0)
      : role === "lead"
        ? around.leads
        : around.workers;
  const there = people === 1 ? "is 1 person" : `are ${people} people`;
  return [
    ...(gone
      ? [tell("weak", "team gone", "needs approval by a team that does not exist any more.")]
      : []),
    ...(people < count
      ? [
          tell(
            "weak",
            "too few to approve",
            `needs ${count} approvals, but there ${there} who could give them.`,
          ),
        ]
      : []),
  ];
}

function checklistFindings({ workflow, move, target, tell }: Looked, mended: Mended): Finding[] {
  const agreed = sourcesOf(workflow, move).some(
    (id) => workflow.states.find((s) => s.id === id)!.exitPolicies.length > 0,
  );
  if (agreed || target.entryPolicies.length > 0) return [];
  return [
    mended(
      tell("hint", "empty checklist", "wants the agreement ticked, but nothing is agreed there."),
      "Do not ask for it",
    ),
  ];
}

function clearedAtOnce({ move, tell }: Looked): Finding[] {
  const filled = move.requirements.flatMap((r) => (r.kind === "filled" ? [r.field as string] : []));
  const takesOff = move.followUps.some(
    (f) => f.kind === "set field" && f.change.value === null && filled.includes(f.change.field),
  );
  return takesOff
    ? [tell("hint", "cleared at once", "asks for a field and clears it at once.")]
    : [];
}

/** Whether there is anybody who may make it, of those who are named. */
function moverFindings(
  { move, around, tell }: Looked,
  mover: Transition["who"][number],
): Finding[] {
  const alone = move.who.length === 1;
  if (mover.kind === "role")
    return mover.role === "lead" && around.leads === 0 && alone
      ? [tell("weak", "role without people", "is for leads, and the project has none.")]
      : [];
  if (mover.kind !== "team") return [];
  const team = around.vocabulary.teams.find((x) => x.id === mover.teamId);
  if (!team) return [tell("weak", "team gone", "is for a team that does not exist any more.")];
  return (around.peopleOfTeam[team.id] ?? 0) === 0 && alone
    ? [
        tell(
          "weak",
          "role without people",
          `is for ${team.name}, of which nobody is in this project.`,
        ),
      ]
    : [];
}

function assigneeOfNone({ move, tell }: Looked): Finding[] {
  const assigneeOnly = move.who.length > 0 && move.who.every((m) => m.kind === "assignee");
  const ofNone = move.requirements.some(
    (r) => r.kind === "condition" && isRead(r.condition) && demandsNoAssignee(r.condition),
  );
  return assigneeOnly && ofNone
    ? [tell("weak", "contradiction", "is for the assignee, but wants items without one.")]
    : [];
}

const demandsNoAssignee = (c: Condition): boolean =>
  c.kind === "compare"
    ? c.fact === "assigneeId" && c.op === "is empty"
    : c.kind === "all" && c.of.some(demandsNoAssignee);

/** A condition on the state that no state the move leads from can meet. */
function excludesSources(condition: Condition, sources: readonly StateId[]): boolean {
  const about = condition.kind === "all" ? condition.of : [condition];
  return about.some(
    (c) =>
      c.kind === "compare" &&
      c.fact === "stateId" &&
      (c.op === "is" || c.op === "one of") &&
      ![c.value].flat().some((id) => sources.includes(String(id))),
  );
}

/** What a condition names that the project does not have, in words. */
function missingIds(condition: Condition, vocabulary: Vocabulary): string[] {
  if (condition.kind === "not") return missingIds(condition.of, vocabulary);
  if (condition.kind !== "compare") return condition.of.flatMap((c) => missingIds(c, vocabulary));
  if (factsIn(condition).size === 0 || condition.value === null) return [];
  const lists: Partial<Record<string, { id: string }[]>> = {
    typeId: vocabulary.types,
    teamId: vocabulary.teams,
    stateId: vocabulary.states,
    everIn: vocabulary.states,
  };
  const known = lists[condition.fact];
  if (!known) return [];
  const ids = [condition.value].flat().filter((v): v is string => typeof v === "string");
  return ids
    .filter((id) => !known.some((k) => k.id === id))
    .map(
      (id) =>
        `a ${condition.fact === "typeId" ? "type" : condition.fact === "teamId" ? "team" : "state"} (${id.slice(0, 20)})`,
    );
}
