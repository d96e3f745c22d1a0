import { cutText } from "@/core/formats/cut-text";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { asksWhoLooks, factsIn, type Condition } from "@/core/condition/condition";
import { ownFieldFindings, triggerFindings } from "./check-triggers";
import { neverHolds } from "./contradiction";
import {
  finding,
  repairable,
  type CheckSurroundings,
  type Finding,
  type Repair,
  type Severity,
} from "./finding";
import { reachableFrom, reversed, sourcesOf, successors } from "./graph";
import { same } from "./same";
import {
  PLAIN_TRANSITION,
  isReturn,
  statesInOrder,
  type Transition,
  type Workflow,
} from "./workflow";
import { isInProgress, type State, type StateId } from "./state";

/** Everything that deserves a look before a workflow binds anybody, the worst first. */
export function checkWorkflow(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const findings = [
    ...shapeFindings(workflow),
    ...namingFindings(workflow),
    ...stateFindings(workflow, around),
    ...workflow.transitions.flatMap((t) => transitionFindings(workflow, t, around)),
    ...triggerFindings(workflow),
    ...ownFieldFindings(workflow, around),
  ];
  const order: Severity[] = ["trap", "weak", "hint"];
  return findings.sort((a, b) => order.indexOf(a.severity) - order.indexOf(b.severity));
}

function shapeFindings(workflow: Workflow): Finding[] {
  const states = statesInOrder(workflow);
  const starts = states.filter((s) => s.kind === "unstarted");
  const ends = states.filter((s) => s.kind === "finished");
  const found: Finding[] = [];
  if (starts.length === 0)
    found.push(
      finding("trap", "no start", "There is no unstarted state, so a new item has nowhere to be."),
    );
  else if (states[0].kind !== "unstarted")
    found.push(
      finding(
        "trap",
        "start not first",
        `New items begin in the first state; ${states[0].name} is ${states[0].kind}.`,
        { stateId: states[0].id },
      ),
    );
  if (ends.length === 0)
    found.push(
      finding("trap", "no end", "There is no finished state, so nothing can ever be done."),
    );
  if (starts.length === 0 || ends.length === 0) return found;
  const next = successors(workflow);
  const reached = reachableFrom(next, [states[0].id]);
  const leadsToEnd = reachableFrom(
    reversed(next),
    ends.map((s) => s.id),
  );
  for (const [i, state] of states.entries()) {
    const place = { stateId: state.id };
    if (!reached.has(state.id)) {
      // From somewhere that items do reach, or the repair would mend nothing.
      const before = states.slice(0, i).findLast((s) => reached.has(s.id) && s.kind !== "finished");
      const repair: Repair | null = before
        ? {
            kind: "add move",
            from: before.id,
            to: state.id,
            verb: cutText(`To ${state.name}`, 60),
            words: `Add a move from ${before.name}`,
          }
        : { kind: "remove state", stateId: state.id, words: `Take ${state.name} out` };
      found.push(
        repairable(
          finding("weak", "unreachable", `Nothing leads to ${state.name}.`, place),
          repair,
        ),
      );
    }
    // Of a chain that ends nowhere only its end is told: mending that mends the others.
    const isEnd = () =>
      [...reachableFrom(next, [state.id])].every((id) => reachableFrom(next, [id]).has(state.id));
    if (!leadsToEnd.has(state.id) && isEnd()) {
      const onward = states.slice(i + 1).find((s) => leadsToEnd.has(s.id)) ?? ends[0];
      found.push(
        repairable(
          finding(
            "trap",
            "no way out",
            `From ${state.name} no finished state can be reached: items would be stuck there.`,
            place,
          ),
          {
            kind: "add move",
            from: state.id,
            to: onward.id,
            verb: cutText(`To ${onward.name}`, 60),
            words: `Add a move to ${onward.name}`,
          },
        ),
      );
    }
  }
  return found;
}

function namingFindings(workflow: Workflow): Finding[] {
  const found: Finding[] = [];
  const seen = new Map<string, State>();
  for (const state of workflow.states) {
    const name = state.name.trim().toLowerCase();
    const twin = seen.get(name);
    if (twin)
      found.push(
        finding("weak", "same name", `Two states are called ${state.name}.`, { stateId: state.id }),
      );
    seen.set(name, state);
  }
  const verbs = new Map<string, Transition>();
  for (const t of workflow.transitions)
    for (const from of sourcesOf(workflow, t)) {
      const key = `${from} ${t.verb.trim().toLowerCase()}`;
      const twin = verbs.get(key);
      if (twin && twin.to !== t.to) {
        const name = workflow.states.find((s) => s.id === from)?.name;
        found.push(
          finding(
            "weak",
            "same verb",
            `Two moves from ${name} are called “${t.verb}”: nobody can tell which is which.`,
            { transitionId: t.id },
          ),
        );
      }
      verbs.set(key, t);
    }
  return found;
}

function stateFindings(workflow: Workflow, around: CheckSurroundings): Finding[] {
  const next = successors(workflow);
  const kindOf = new Map(workflow.states.map((s) => [s.id, s.kind]));
  const shown = new Set(around.shownStates);
  return workflow.states.flatMap((state) => {
    const found: Finding[] = [];
    const place = { stateId: state.id };
    const targets = [...(next.get(state.id) ?? [])];
    const earlier = statesInOrder(workflow).filter((s) => s.position < state.position);
    if (
      state.kind === "working" &&
      earlier.some((s) => s.kind === "working") &&
      !targets.some((to) => isReturn(workflow, state.id, to))
    ) {
      const back = earlier.findLast((s) => s.kind === "working")!;
      found.push(
        repairable(
          finding(
            "weak",
            "no way back",
            `When work in ${state.name} fails, nothing leads back.`,
            place,
          ),
          {
            kind: "add move",
            from: state.id,
            to: back.id,
            verb: cutText(`Send back to ${back.name}`, 60),
            words: `Add a move back to ${back.name}`,
          },
        ),
      );
    }
    // One wait may lead into another, as long as somebody pulls in the end.
    const waits = reachableFrom(
      new Map(
        [...next].map(([id, to]) => [id, kindOf.get(id) === "waiting" ? to : new Set<StateId>()]),
      ),
      [state.id],
    );
    const pulled = [...waits].some(
      (id) =>
        kindOf.get(id) === "working" ||
        (kindOf.get(id) === "finished" &&
          workflow.transitions.some((t) => t.to === id && t.from?.some((f) => waits.has(f)))),
    );
    if (state.kind === "waiting" && !pulled)
      found.push(
        finding(
          "weak",
          "nobody pulls",
          `Nobody pulls from ${state.name}: no move leads from it to a state where somebody works.`,
          place,
        ),
      );
    if (isInProgress(state.kind) && !shown.has(state.id))
      found.push(
        finding(
          "hint",
          "not on a board",
          `No board shows ${state.name} yet; publishing puts it on the board.`,
          place,
        ),
      );
    if (state.teamId !== null) {
      const people = around.peopleOfTeam[state.teamId] ?? 0;
      const team = around.vocabulary.teams.find((t) => t.id === state.teamId)?.name;
      if (!team)
        found.push(
          finding(
            "weak",
            "team gone",
            `The team that works in ${state.name} does not exist any more.`,
            place,
          ),
        );
      else if (people === 0)
        found.push(
          finding(
            "weak",
            "team without people",
            `${team} works in ${state.name}, but nobody of it is in this project.`,
            place,
          ),
        );
      else if (state.limit && state.limit.max < people)
        found.push(
          finding(
            "hint",
            "limit below team",
            `${state.name} takes ${state.limit.max}, but ${people} people of ${team} work there: some will have nothing to do.`,
            place,
          ),
        );
    }
    if (
      state.tooOldDays !== null &&
      state.expectedDays !== null &&
      state.tooOldDays < state.expectedDays
    )
      found.push(
        finding(
          "weak",
          "too old before expected",
          `In ${state.name} an item is too old after ${state.tooOldDays} days, before it is even expected to leave (${state.expectedDays}).`,
          place,
        ),
      );
    return found;
  });
}

function transitionFindings(
  workflow: Workflow,
  t: Transition,
  around: CheckSurroundings,
): Finding[] {
  const found: Finding[] = [];
  const place = { transitionId: t.id };
  const nameOf = (id: StateId) =>
    workflow.states.find((s) => s.id === id)?.name ?? "a state that is gone";
  const label = `“${t.verb}” to ${nameOf(t.to)}`;
  const target = workflow.states.find((s) => s.id === t.to)!;
  const remove = (index: number, words: string): Repair => ({
    kind: "remove requirement",
    transitionId: t.id,
    index,
    words,
  });
  const teams = new Set(around.vocabulary.teams.map((x) => x.id));
  for (const [index, r] of t.requirements.entries()) {
    if (r.kind === "condition") {
      if (neverHolds(r.condition))
        found.push(
          repairable(
            finding("weak", "never holds", `${label} has a condition that can never hold.`, place),
            remove(index, "Take the condition out"),
          ),
        );
      else if (excludesSources(r.condition, sourcesOf(workflow, t)))
        found.push(
          repairable(
            finding(
              "weak",
              "never holds",
              `${label} wants the item to be in a state it cannot come from.`,
              place,
            ),
            remove(index, "Take the condition out"),
          ),
        );
      if (asksWhoLooks(r.condition))
        found.push(
          repairable(
            finding(
              "trap",
              "asks who looks",
              `${label} asks who looks (me, my teams); a rule is the same for everybody. Say who may make the move instead.`,
              place,
            ),
            remove(index, "Take the condition out"),
          ),
        );
      for (const gone of missingIds(r.condition, around.vocabulary))
        found.push(
          finding(
            "weak",
            "unknown name",
            `${label} asks for ${gone}, which the project does not have.`,
            place,
          ),
        );
    }
    if (r.kind === "outcome" && target.kind !== "finished")
      found.push(
        repairable(
          finding(
            "weak",
            "outcome without end",
            `${label} asks for an outcome, but ${target.name} is not a finished state.`,
            place,
          ),
          remove(index, "Do not ask for it"),
        ),
      );
    if (
      r.kind === "outcome" &&
      target.outcomes.length > 0 &&
      !r.allowed.some((o) => target.outcomes.includes(o))
    )
      found.push(
        repairable(
          finding(
            "weak",
            "contradiction",
            `${label} offers outcomes that ${target.name} does not allow.`,
            place,
          ),
          remove(index, `Offer what ${target.name} allows`),
        ),
      );
    if (r.kind === "approvals" && r.teamId !== null && !teams.has(r.teamId))
      found.push(
        finding(
          "weak",
          "team gone",
          `${label} needs approval by a team that does not exist any more.`,
          place,
        ),
      );
    if (r.kind === "approvals") {
      const people =
        r.teamId !== null
          ? (around.peopleOfTeam[r.teamId] ?? 0)
          : r.role === "lead"
            ? around.leads
            : around.workers;
      // Nobody approves their own work, so one more person than approvals may be needed.
      if (people < r.count)
        found.push(
          finding(
            "weak",
            "too few to approve",
            `${label} needs ${r.count} approvals, but there ${people === 1 ? "is 1 person" : `are ${people} people`} who could give them.`,
            place,
          ),
        );
    }
    if (
      r.kind === "checklist" &&
      target.entryPolicies.length === 0 &&
      sourcesOf(workflow, t).every(
        (id) => workflow.states.find((s) => s.id === id)?.exitPolicies.length === 0,
      )
    )
      found.push(
        repairable(
          finding(
            "hint",
            "empty checklist",
            `${label} wants the agreement ticked, but nothing is agreed there.`,
            place,
          ),
          remove(index, "Do not ask for it"),
        ),
      );
    const twin = t.requirements.findIndex((other) => same(other, r));
    if (twin < index)
      found.push(
        repairable(
          finding("hint", "asked twice", `${label} asks for the same thing twice.`, place),
          remove(index, "Ask once"),
        ),
      );
  }
  const filled = t.requirements.flatMap((r) => (r.kind === "filled" ? [r.field as string] : []));
  const takesOff = t.followUps.find(
    (f) => f.kind === "set field" && f.change.value === null && filled.includes(f.change.field),
  );
  if (takesOff)
    found.push(
      finding("hint", "cleared at once", `${label} asks for a field and clears it at once.`, place),
    );
  for (const m of t.who) {
    if (m.kind === "team" && !teams.has(m.teamId))
      found.push(
        finding("weak", "team gone", `${label} is for a team that does not exist any more.`, place),
      );
    else if (m.kind === "team" && (around.peopleOfTeam[m.teamId] ?? 0) === 0 && t.who.length === 1)
      found.push(
        finding(
          "weak",
          "role without people",
          `${label} is for ${around.vocabulary.teams.find((x) => x.id === m.teamId)?.name}, of which nobody is in this project.`,
          place,
        ),
      );
    if (m.kind === "role" && m.role === "lead" && around.leads === 0 && t.who.length === 1)
      found.push(
        finding(
          "weak",
          "role without people",
          `${label} is for leads, and the project has none.`,
          place,
        ),
      );
  }
  const reviewerOnly = t.who.length > 0 && t.who.every((m) => m.kind === "assignee");
  if (
    reviewerOnly &&
    t.requirements.some((r) => r.kind === "condition" && demandsNoAssignee(r.condition))
  )
    found.push(
      finding(
        "weak",
        "contradiction",
        `${label} is for the assignee, but wants items without one.`,
        place,
      ),
    );
  return found;
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

/** The workflow after a repair. */
export function repair(
  workflow: Workflow,
  { repair: how }: { repair: Repair },
  newId: () => string,
): Workflow {
  switch (how.kind) {
    case "add move":
      return {
        ...workflow,
        transitions: [
          ...workflow.transitions,
          { id: newId(), from: [how.from], to: how.to, verb: how.verb, ...PLAIN_TRANSITION },
        ],
      };
    case "remove state":
      return removeState(workflow, how.stateId);
    case "remove requirement":
      return {
        ...workflow,
        transitions: workflow.transitions.map((t) =>
          t.id === how.transitionId
            ? { ...t, requirements: t.requirements.filter((_, i) => i !== how.index) }
            : t,
        ),
      };
  }
}

/** Without a state; moves that only led from or to it go with it. */
export function removeState(workflow: Workflow, stateId: StateId): Workflow {
  const states = statesInOrder(workflow)
    .filter((s) => s.id !== stateId)
    .map((s, position) => ({ ...s, position }));
  const transitions = workflow.transitions.flatMap((t) => {
    if (t.to === stateId) return [];
    if (t.from === null) return [t];
    const from = t.from.filter((id) => id !== stateId);
    return from.length > 0 ? [{ ...t, from }] : [];
  });
  return { ...workflow, states, transitions };
}
