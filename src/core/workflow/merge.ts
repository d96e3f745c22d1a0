import { removeState } from "./edit";
import { same } from "./same";
import type { State } from "./state";
import { statesInOrder, type Transition, type Workflow } from "./workflow";

/** Something that two people changed differently at once. */
export interface Clash {
  about: "workflow" | "state" | "move";
  /** The state or the move. */
  id: string;
  /** Which of its fields; null: one took the whole out that the other changed. */
  field: string | null;
  /** What it is, such as “the name of Review”. */
  words: string;
}

export interface Merged {
  workflow: Workflow;
  /** What both changed differently: the other one's was kept until somebody chooses. */
  clashes: Clash[];
}

/**
 * Brings two edits of one workflow together, field by field: what only one of them changed is taken
 * from them, what both changed differently stays as `theirs` has it and is told.
 */
export function mergeWorkflows(base: Workflow, mine: Workflow, theirs: Workflow): Merged {
  const clashes: Clash[] = [];
  const states = mergeList(
    { base: base.states, mine: mine.states, theirs: theirs.states },
    { about: "state", fields: STATE_FIELDS, called: (s) => s.name },
    clashes,
  );
  const transitions = mergeList(
    { base: base.transitions, mine: mine.transitions, theirs: theirs.transitions },
    { about: "move", fields: MOVE_FIELDS, called: (t) => `the move “${t.verb}”` },
    clashes,
  );
  const iRenamed = mine.name !== base.name;
  if (iRenamed && theirs.name !== base.name && mine.name !== theirs.name)
    clashes.push({
      about: "workflow",
      id: theirs.id,
      field: "name",
      words: "the name of the workflow",
    });
  const name = theirs.name !== base.name ? theirs.name : mine.name;
  return {
    workflow: withoutLooseEnds({
      ...theirs,
      name,
      states: states.map((s, position) => ({ ...s, position })),
      transitions,
    }),
    clashes,
  };
}

/** The workflow with what one changed oneself in place of what the other one made of it. */
export function takeMine(workflow: Workflow, clash: Clash, mine: Workflow): Workflow {
  if (clash.about === "workflow") return { ...workflow, name: mine.name };
  if (clash.about === "state") {
    if (clash.field !== null)
      return { ...workflow, states: withField(workflow.states, clash, mine.states) };
    const state = mine.states.find((s) => s.id === clash.id);
    return state ? broughtBack(workflow, state, mine) : removeState(workflow, clash.id);
  }
  if (clash.field !== null)
    return { ...workflow, transitions: withField(workflow.transitions, clash, mine.transitions) };
  const others = workflow.transitions.filter((t) => t.id !== clash.id);
  const own = mine.transitions.filter((t) => t.id === clash.id);
  return withoutLooseEnds({ ...workflow, transitions: [...others, ...own] });
}

function withField<T extends { id: string }>(list: T[], clash: Clash, mine: readonly T[]): T[] {
  const own = mine.find((x) => x.id === clash.id);
  const field = clash.field as keyof T;
  return own ? list.map((x) => (x.id === clash.id ? { ...x, [field]: own[field] } : x)) : list;
}

/** A state that the other one took out, with the moves that it had. */
function broughtBack(workflow: Workflow, state: State, mine: Workflow): Workflow {
  const states = statesInOrder(workflow);
  states.splice(Math.min(state.position, states.length), 0, state);
  const here = new Set(workflow.transitions.map((t) => t.id));
  const touches = (t: Transition) => t.to === state.id || (t.from ?? []).includes(state.id);
  const back = mine.transitions.filter((t) => !here.has(t.id) && touches(t));
  return withoutLooseEnds({
    ...workflow,
    states: states.map((s, position) => ({ ...s, position })),
    transitions: [...workflow.transitions, ...back],
  });
}

/** A move to or from a state that is not there goes with it. */
function withoutLooseEnds(workflow: Workflow): Workflow {
  const kept = new Set(workflow.states.map((s) => s.id));
  return {
    ...workflow,
    transitions: workflow.transitions.flatMap((t) => {
      if (!kept.has(t.to)) return [];
      if (t.from === null) return [t];
      const from = t.from.filter((id) => kept.has(id));
      return from.length > 0 ? [{ ...t, from }] : [];
    }),
  };
}

/** What of a thing is brought together on its own, and how it is called. */
type Fields<T> = Readonly<Record<Exclude<keyof T, "id" | "position">, string>>;

const STATE_FIELDS: Fields<State> = {
  name: "the name",
  kind: "the kind",
  stage: "the stage",
  teamId: "the team",
  byReviewer: "whose work it is",
  expectedDays: "the expected time",
  tooOldDays: "from when on it is too long",
  limit: "the limit",
  entryPolicies: "what is agreed to enter",
  exitPolicies: "what is agreed to leave",
  outcomes: "the outcomes",
};

const MOVE_FIELDS: Fields<Transition> = {
  verb: "the words",
  from: "the beginning",
  to: "the end",
  who: "who may make it",
  requirements: "what is required",
  followUps: "what follows",
  triggers: "what makes it happen",
};

/** What kind of thing a list has. */
interface Listed<T> {
  about: "state" | "move";
  fields: Fields<T>;
  called: (thing: T) => string;
}

interface Three<T> {
  base: readonly T[];
  mine: readonly T[];
  theirs: readonly T[];
}

/** Where it stands is the list's affair, not the thing's own. */
const withoutPlace = <T extends { id: string }>(thing: T) => ({ ...thing, position: 0 });
const unchanged = <T extends { id: string }>(a: T, b: T) => same(withoutPlace(a), withoutPlace(b));

function mergeList<T extends { id: string }>(
  { base, mine, theirs }: Three<T>,
  listed: Listed<T>,
  clashes: Clash[],
): T[] {
  const [was, my, their] = [base, mine, theirs].map((list) => new Map(list.map((x) => [x.id, x])));
  const { about, called } = listed;
  return idsInOrder({ base, mine, theirs }).flatMap((id) => {
    const [b, m, t] = [was.get(id), my.get(id), their.get(id)];
    if (m && t) return [b ? mergeOne({ b, m, t }, listed, clashes) : t];
    const left = m ?? t!;
    if (!b) return [left];
    if (unchanged(left, b)) return [];
    const words = `${called(left)}, which ${m ? "they" : "you"} took out`;
    clashes.push({ about, id, field: null, words });
    return m ? [] : [left];
  });
}

/** One thing that both still have. */
function mergeOne<T extends { id: string }>(
  { b, m, t }: { b: T; m: T; t: T },
  { about, fields, called }: Listed<T>,
  clashes: Clash[],
): T {
  const merged = { ...t };
  for (const field of Object.keys(fields) as (keyof Fields<T> & keyof T & string)[]) {
    if (same(m[field], b[field]) || same(m[field], t[field])) continue;
    if (same(t[field], b[field])) merged[field] = m[field];
    else clashes.push({ about, id: t.id, field, words: `${fields[field]} of ${called(t)}` });
  }
  return merged;
}

/** The order of whoever changed it; of both, theirs. What only the other has follows its own. */
function idsInOrder<T extends { id: string }>({ base, mine, theirs }: Three<T>): string[] {
  const was = new Set(base.map((x) => x.id));
  const order = (list: readonly T[]) =>
    list
      .filter((x) => was.has(x.id))
      .map((x) => x.id)
      .join();
  const iReordered = order(mine) !== order(base) && order(theirs) === order(base);
  const [leading, other] = iReordered ? [mine, theirs] : [theirs, mine];
  const ids = leading.map((x) => x.id);
  for (const [i, x] of other.entries()) {
    if (ids.includes(x.id)) continue;
    const before = other.slice(0, i).findLast((y) => ids.includes(y.id));
    ids.splice(before ? ids.indexOf(before.id) + 1 : 0, 0, x.id);
  }
  return ids;
}
