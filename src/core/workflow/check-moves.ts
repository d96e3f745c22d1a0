import type { Vocabulary } from "@/core/condition/vocabulary";
import { parseCel } from "@/core/condition/cel-parse";
import {
  asksPromise,
  asksWhoLooks,
  factsIn,
  isRead,
  operatorsFor,
  type Condition,
} from "@/core/condition/condition";
import { isFactName, ownFactName, type FactName } from "@/core/condition/facts";
import { counted } from "@/core/formats/counted";
import { neverHolds } from "./contradiction";
import {
  finding,
  moveAt,
  repairable,
  type CheckSurroundings,
  type Finding,
  type Severity,
} from "./finding";
import { sourcesOf } from "./graph";
import { demandedOwnField } from "./requirement";
import { requirementWords, type Requirement } from "./requirements/table";
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
  const label = moveAt(workflow, move);
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
    ...excludeEachOther(looked, (index) => takenOut(move, index)),
    ...moverFindings(looked),
    ...moverOfNone(looked),
  ];
}

function demandFindings(looked: Looked, index: number): Finding[] {
  const { move, tell } = looked;
  const demand = move.requirements[index];
  const mended = takenOut(move, index);
  const about =
    demand.kind === "condition"
      ? conditionFindings(looked, demand, mended)
      : demand.kind === "outcome"
        ? outcomeFindings(looked, demand, mended)
        : demand.kind === "approvals"
          ? approvalFindings(looked, demand, index)
          : demand.kind === "checklist"
            ? checklistFindings(looked, mended)
            : [];
  const twin = move.requirements.findIndex((other) => same(other, demand));
  return twin < index
    ? [...about, mended(tell("hint", "asked twice", "asks for the same thing twice."), "Ask once")]
    : about;
}

type Mended = (found: Finding, words: string) => Finding;

/** Mends a finding by taking a rule out. */
const takenOut =
  (move: Transition, index: number): Mended =>
  (found, words) =>
    repairable(found, { kind: "remove requirement", transitionId: move.id, index, words });

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
    ...(asksPromise(condition)
      ? [
          mended(
            tell(
              "trap",
              "asks for promises",
              "asks how a promise stands; that is for views and their filters, not for rules.",
            ),
            takeOut,
          ),
        ]
      : []),
    ...missingIds(condition, around.vocabulary).map((gone) =>
      mended(
        tell("weak", "unknown name", `asks for ${gone}, which the project does not have.`),
        takeOut,
      ),
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
  { move, around, tell }: Looked,
  { teamId, role, count }: Demand<"approvals">,
  index: number,
): Finding[] {
  // Nobody approves their own work, so one more person than approvals may be needed.
  const people =
    teamId !== null
      ? (around.peopleOfTeam[teamId] ?? 0)
      : role === "lead"
        ? around.leads
        : around.workers;
  // That nobody is there at all is told of the team.
  if (people >= count || (teamId !== null && people === 0)) return [];
  const there = people === 1 ? "is 1 person" : `are ${people} people`;
  const found = tell(
    "weak",
    "too few to approve",
    `needs ${counted(count, "approval")}, but there ${there} who could give them.`,
  );
  if (people === 0) return [found];
  const fewer = move.requirements.map((r, i) =>
    i === index && r.kind === "approvals" ? { ...r, count: people } : r,
  );
  return [
    repairable(found, {
      kind: "change move",
      transitionId: move.id,
      change: { requirements: fewer },
      words: `Ask for ${people}`,
    }),
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
function moverFindings({ move, around, tell }: Looked): Finding[] {
  const leadsOnly =
    move.who.length > 0 && move.who.every((m) => m.kind === "role" && m.role === "lead");
  return leadsOnly && around.leads === 0
    ? [tell("weak", "role without people", "is for leads, and the project has none.")]
    : [];
}

/** What a rule says of an item, as a condition; null where it says nothing of its fields. */
function demandedOf(r: Requirement, vocabulary: Vocabulary): Condition | null {
  const isSet = (fact: FactName): Condition => ({
    kind: "compare",
    fact,
    op: "is set",
    value: null,
  });
  if (r.kind === "condition") return isRead(r.condition) ? r.condition : null;
  if (r.kind === "no blocker") return { kind: "compare", fact: "blocked", op: "is", value: false };
  if (r.kind === "different people") return isSet(r.first);
  if (r.kind === "sub-tasks finished")
    return { kind: "compare", fact: "openChildren", op: "is", value: 0 };
  if (r.kind !== "filled") return null;
  const own = demandedOwnField(r.field);
  if (own === null) return isFactName(r.field) ? isSet(r.field) : null;
  const field = vocabulary.own.find((f) => f.id === own);
  return field && operatorsFor(ownFactName(field)).includes("is set")
    ? isSet(ownFactName(field))
    : null;
}

/** Rules that each can hold, but no two of them at once. */
function excludeEachOther(
  { move, around, tell }: Looked,
  mended: (index: number) => Mended,
): Finding[] {
  const { vocabulary } = around;
  const rules = move.requirements.map((r) => demandedOf(r, vocabulary));
  const together = (i: number, j: number) => {
    const [a, b] = [rules[i], rules[j]];
    return (
      a !== null &&
      b !== null &&
      !neverHolds(a) &&
      !neverHolds(b) &&
      neverHolds({ kind: "all", of: [a, b] })
    );
  };
  return move.requirements.flatMap((second, j) => {
    const i = move.requirements.findIndex((_, at) => at < j && together(at, j));
    if (i < 0) return [];
    const [a, b] = [move.requirements[i], second].map((r) => requirementWords(r, vocabulary));
    const found = tell(
      "weak",
      "contradiction",
      `can never be made: “${a}” and “${b}” exclude each other.`,
    );
    return [mended(j)(found, "Take the second out")];
  });
}

/** It is for the assignee or the reviewer alone, and wants items that have none. */
function moverOfNone({ move, around, tell }: Looked): Finding[] {
  const facts = { assignee: "assigneeId", reviewer: "reviewerId" } as const;
  const only = (["assignee", "reviewer"] as const).find(
    (kind) => move.who.length > 0 && move.who.every((m) => m.kind === kind),
  );
  if (!only) return [];
  const there: Condition = { kind: "compare", fact: facts[only], op: "is set", value: null };
  const without = move.requirements.some((r) => {
    const demanded = demandedOf(r, around.vocabulary);
    return demanded && !neverHolds(demanded) && neverHolds({ kind: "all", of: [there, demanded] });
  });
  return without
    ? [tell("weak", "contradiction", `is for the ${only}, but wants items without one.`)]
    : [];
}

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
