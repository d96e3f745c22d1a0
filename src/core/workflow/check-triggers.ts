import { finding, type Finding } from "./finding";
import { sourcesOf } from "./graph";
import { triggerWords, type Trigger } from "./trigger";
import { statesInOrder, type Transition, type Workflow } from "./workflow";
import type { StateId } from "./state";

/**
 * What of the triggers deserves a look: two that wait for the same, and moves that would chase each
 * other for ever.
 */
export function triggerFindings(workflow: Workflow): Finding[] {
  return [...competing(workflow), ...chasing(workflow)];
}

const sameEvent = (a: Trigger, b: Trigger) =>
  a.kind === b.kind &&
  (a.kind !== "deployed" ||
    a.environment.toLowerCase() === (b as typeof a).environment.toLowerCase());

/** Of two moves out of one state that wait for the same, only the first is ever made. */
function competing(workflow: Workflow): Finding[] {
  const found: Finding[] = [];
  const told = new Set<string>();
  for (const state of statesInOrder(workflow)) {
    const out = workflow.transitions.filter(
      (t) => t.triggers.length > 0 && sourcesOf(workflow, t).includes(state.id),
    );
    for (const [i, a] of out.entries())
      for (const b of out.slice(i + 1)) {
        const shared = a.triggers.find((x) => b.triggers.some((y) => sameEvent(x, y)));
        if (!shared || a.to === b.to || told.has(`${a.id} ${b.id}`)) continue;
        told.add(`${a.id} ${b.id}`);
        found.push(
          finding(
            "weak",
            "triggers compete",
            `Out of ${state.name} both “${a.verb}” and “${b.verb}” happen by themselves when ${triggerWords(shared)}: only one of them ever will.`,
            { transitionId: b.id },
          ),
        );
      }
  }
  return found;
}

/**
 * Moves that lead from one to the next without anybody doing anything, round and round: each waits
 * only for time, or for an item above or below to finish, which such a move itself brings about.
 */
function chasing(workflow: Workflow): Finding[] {
  const byItself = workflow.transitions.filter((t) =>
    t.triggers.some((x) => x.kind === "days in state"),
  );
  const next = new Map<StateId, Transition[]>();
  for (const t of byItself)
    for (const from of sourcesOf(workflow, t)) next.set(from, [...(next.get(from) ?? []), t]);
  const nameOf = (id: StateId) => workflow.states.find((s) => s.id === id)?.name ?? "a state";
  const found: Finding[] = [];
  const told = new Set<StateId>();
  const follow = (state: StateId, path: readonly Transition[]): void => {
    for (const t of next.get(state) ?? []) {
      const start = path.findIndex((p) => p.id === t.id);
      if (start >= 0) {
        const circle = path.slice(start);
        if (circle.some((c) => told.has(c.to))) continue;
        circle.forEach((c) => told.add(c.to));
        found.push(
          finding(
            "weak",
            "moves chase each other",
            `Items would go round for ever by themselves: ${circle.map((c) => `“${c.verb}” to ${nameOf(c.to)}`).join(", then ")}, and on again.`,
            { transitionId: circle[0].id },
          ),
        );
      } else if (path.length < workflow.transitions.length) follow(t.to, [...path, t]);
    }
  };
  for (const t of byItself) if (!told.has(t.to)) follow(t.to, [t]);
  return [...found, ...familyChases(workflow)];
}

/**
 * A move out of a finished state that waits for sub-tasks or a parent to finish, beside one that
 * finishes for the other reason.
 */
function familyChases(workflow: Workflow): Finding[] {
  const kindOf = new Map(workflow.states.map((s) => [s.id, s.kind]));
  const waits = (t: Transition, kind: "sub-tasks finished" | "parent finished") =>
    t.triggers.some((x) => x.kind === kind);
  const reopening = workflow.transitions.filter(
    (t) =>
      kindOf.get(t.to) !== "finished" &&
      sourcesOf(workflow, t).some((id) => kindOf.get(id) === "finished"),
  );
  const finishing = workflow.transitions.filter((t) => kindOf.get(t.to) === "finished");
  return reopening.flatMap((back) => {
    const reason = (["sub-tasks finished", "parent finished"] as const).find((kind) =>
      waits(back, kind),
    );
    const other = reason === "sub-tasks finished" ? "parent finished" : "sub-tasks finished";
    const partner = reason && finishing.find((t) => waits(t, other) || waits(t, reason));
    return partner
      ? [
          finding(
            "weak",
            "moves chase each other",
            `“${back.verb}” and “${partner.verb}” set each other off: an item above and one below it would finish and reopen one another for ever.`,
            { transitionId: back.id },
          ),
        ]
      : [];
  });
}
