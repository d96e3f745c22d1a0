import { cutText } from "@/core/formats/cut-text";
import { freeName } from "./edit";
import { finding, repairable, type Finding } from "./finding";
import { reachableFrom, reversed, sourcesOf, successors } from "./graph";
import { statesInOrder, type Transition, type Workflow } from "./workflow";
import type { State } from "./state";

/** Where items begin, where they end, and what lies on no way from the one to the other. */
export function shapeFindings(workflow: Workflow): Finding[] {
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
  return [...found, ...wayFindings(workflow, states, ends)];
}

/** States that no item reaches, and those that it cannot leave. */
function wayFindings(
  workflow: Workflow,
  states: readonly State[],
  ends: readonly State[],
): Finding[] {
  const next = successors(workflow);
  const reached = reachableFrom(next, [states[0].id]);
  const leadsToEnd = reachableFrom(
    reversed(next),
    ends.map((s) => s.id),
  );
  // Of a chain that ends nowhere only its end is told: mending that mends the others.
  const isEnd = (state: State) =>
    [...reachableFrom(next, [state.id])].every((id) => reachableFrom(next, [id]).has(state.id));
  // Of a chain that begins nowhere only its beginning is told.
  const before = reversed(next);
  const begins = (state: State) =>
    [...reachableFrom(before, [state.id])].every((id) => reachableFrom(before, [id]).has(state.id));
  return states.flatMap((state, i) => [
    ...(reached.has(state.id) || !begins(state)
      ? []
      : [
          // From somewhere that items do reach, or the repair would mend nothing.
          unreachable(
            state,
            states.slice(0, i).findLast((s) => reached.has(s.id) && s.kind !== "finished"),
          ),
        ]),
    ...(leadsToEnd.has(state.id) || !isEnd(state)
      ? []
      : [noWayOut(state, states.slice(i + 1).find((s) => leadsToEnd.has(s.id)) ?? ends[0])]),
  ]);
}

const unreachable = ({ id, name }: State, before: State | undefined): Finding =>
  repairable(
    finding("weak", "unreachable", `Nothing leads to ${name}.`, { stateId: id }),
    before
      ? {
          kind: "add move",
          from: before.id,
          to: id,
          verb: cutText(`To ${name}`, 60),
          words: `Add a move from ${before.name}`,
        }
      : { kind: "remove state", stateId: id, words: `Take ${name} out` },
  );

const noWayOut = ({ id, name }: State, onward: State): Finding =>
  repairable(
    finding(
      "trap",
      "no way out",
      `From ${name} no finished state can be reached: items would be stuck there.`,
      { stateId: id },
    ),
    {
      kind: "add move",
      from: id,
      to: onward.id,
      verb: cutText(`To ${onward.name}`, 60),
      words: `Add a move to ${onward.name}`,
    },
  );

function sameName(workflow: Workflow, { id, name, stage }: State): Finding {
  const free = freeName(workflow, stage && !name.includes(stage) ? `${name}, ${stage}` : name);
  return repairable(
    finding("weak", "same name", `Two states are called ${name}.`, { stateId: id }),
    {
      kind: "change state",
      stateId: id,
      change: { name: free },
      words: `Call this one ${free}`,
    },
  );
}

function sameVerb(workflow: Workflow, { id, verb, to }: Transition, from: string): Finding {
  const target = workflow.states.find((s) => s.id === to)?.name ?? "?";
  const other = cutText(`${verb.trim()} to ${target}`, 60);
  return repairable(
    finding(
      "weak",
      "same verb",
      `Two moves from ${from} are called “${verb}”: nobody can tell which is which.`,
      { transitionId: id },
    ),
    { kind: "change move", transitionId: id, change: { verb: other }, words: `Call it “${other}”` },
  );
}

/** States of one name, and moves out of one state that nobody can tell apart. */
export function namingFindings(workflow: Workflow): Finding[] {
  const found: Finding[] = [];
  const seen = new Map<string, State>();
  for (const state of workflow.states) {
    const name = state.name.trim().toLowerCase();
    const twin = seen.get(name);
    if (twin) found.push(sameName(workflow, state));
    seen.set(name, state);
  }
  const verbs = new Map<string, Transition>();
  for (const t of workflow.transitions)
    for (const from of sourcesOf(workflow, t)) {
      const key = `${from} ${t.verb.trim().toLowerCase()}`;
      const twin = verbs.get(key);
      if (twin && twin.to !== t.to) {
        const name = workflow.states.find((s) => s.id === from)?.name;
        found.push(sameVerb(workflow, t, name ?? "?"));
      }
      verbs.set(key, t);
    }
  return found;
}
