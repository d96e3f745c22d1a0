import { same } from "./same";
import type { Transition, Workflow } from "./workflow";
import type { State } from "./state";

export interface Merged {
  workflow: Workflow;
  /** What both changed differently, in words; the other one's was kept. */
  conflicts: string[];
}

/**
 * Brings two edits of one workflow together, state by state and move by move: what only one of them
 * changed is taken from them, what both changed differently stays as `theirs` has it and is told.
 */
export function mergeWorkflows(base: Workflow, mine: Workflow, theirs: Workflow): Merged {
  const conflicts: string[] = [];
  const states = mergeList<State>(
    { base: base.states, mine: mine.states, theirs: theirs.states },
    (s) => `the state ${s.name}`,
    conflicts,
  );
  const transitions = mergeList<Transition>(
    { base: base.transitions, mine: mine.transitions, theirs: theirs.transitions },
    (t) => `the move “${t.verb}”`,
    conflicts,
  );
  const kept = new Set(states.map((s) => s.id));
  const name = mine.name !== base.name ? mine.name : theirs.name;
  if (mine.name !== base.name && theirs.name !== base.name && mine.name !== theirs.name)
    conflicts.push("the name of the workflow");
  return {
    workflow: {
      ...theirs,
      name,
      states: states.map((s, position) => ({ ...s, position })),
      // A move to a state that the other one took out goes with it.
      transitions: transitions.flatMap((t) => {
        if (!kept.has(t.to)) return [];
        if (t.from === null) return [t];
        const from = t.from.filter((id) => kept.has(id));
        return from.length > 0 ? [{ ...t, from }] : [];
      }),
    },
    conflicts,
  };
}

/** Where it stands is the list's affair, not the thing's own. */
const withoutPlace = <T extends { id: string }>(thing: T) => ({ ...thing, position: 0 });

function mergeList<T extends { id: string }>(
  { base, mine, theirs }: { base: readonly T[]; mine: readonly T[]; theirs: readonly T[] },
  words: (thing: T) => string,
  conflicts: string[],
): T[] {
  const was = new Map(base.map((x) => [x.id, x]));
  const my = new Map(mine.map((x) => [x.id, x]));
  const their = new Map(theirs.map((x) => [x.id, x]));
  const changedByMe = (x: T) =>
    !same(withoutPlace(x), withoutPlace(was.get(x.id) ?? ({ id: x.id } as T)));
  const order = (list: readonly T[]) =>
    list
      .filter((x) => was.has(x.id))
      .map((x) => x.id)
      .join();
  // The order of whoever changed it; of both, theirs.
  const iReordered = order(mine) !== order(base) && order(theirs) === order(base);
  const [leading, other] = iReordered ? [mine, theirs] : [theirs, mine];
  const ids = leading.map((x) => x.id);
  for (const [i, x] of other.entries()) {
    if (ids.includes(x.id)) continue;
    const before = other.slice(0, i).findLast((y) => ids.includes(y.id));
    ids.splice(before ? ids.indexOf(before.id) + 1 : 0, 0, x.id);
  }
  return ids.flatMap((id) => {
    const [b, m, t] = [was.get(id), my.get(id), their.get(id)];
    if (m && t) {
      if (!b || same(withoutPlace(m), withoutPlace(t))) return [t];
      const [iDid, theyDid] = [changedByMe(m), !same(withoutPlace(t), withoutPlace(b))];
      if (iDid && theyDid) conflicts.push(words(t));
      return [iDid && !theyDid ? m : t];
    }
    if (m && !t) {
      if (!b) return [m];
      if (changedByMe(m)) conflicts.push(`${words(m)}, which the other one took out`);
      return [];
    }
    if (t && !m) {
      if (!b) return [t];
      const theyDid = !same(withoutPlace(t), withoutPlace(b));
      if (theyDid) conflicts.push(`${words(t)}, which you took out`);
      return theyDid ? [t] : [];
    }
    return [];
  });
}
