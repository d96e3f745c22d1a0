import type { Happened } from "./happened";
import {
  STANDARD_RULE_IDS,
  standardRule,
  type StandardRule,
  type Tie,
  type Ties,
} from "./standard-rules";

/** Why something concerns a person: the rules that fit, and the steps of the history they fit. */
export interface Concern {
  /** Ids of rules: those that everybody starts with, the closest first, and people's own. */
  rules: string[];
  seqs: number[];
}

/**
 * Whom things that happened to an item concern, and why. Nobody is told of their own doing, nor of
 * what it made the process do. Whoever merely follows an item is told by that rule alone where no
 * other fits.
 * @param membersOf who belongs to a team
 * @param doers who did it, or set it off
 */
export function concernsOf({
  happened,
  ties,
  membersOf,
  doers,
}: {
  happened: readonly Happened[];
  ties: Ties;
  membersOf: (teamId: string) => readonly string[];
  doers: ReadonlySet<string>;
}): Map<string, Concern> {
  const concerns = new Map<string, Concern>();
  for (const one of happened)
    for (const id of STANDARD_RULE_IDS)
      for (const person of peopleOf(standardRule(id), one, ties, membersOf)) {
        if (doers.has(person)) continue;
        const concern = concerns.get(person) ?? { rules: [], seqs: [] };
        concerns.set(person, concern);
        if (!concern.rules.includes(id)) concern.rules.push(id);
        if (!concern.seqs.includes(one.seq)) concern.seqs.push(one.seq);
      }
  for (const concern of concerns.values()) {
    closest(concern);
  }
  return concerns;
}

/** Why something concerns people by several grounds, as one. */
export function concernsTogether(
  all: readonly ReadonlyMap<string, Concern>[],
): Map<string, Concern> {
  const together = new Map<string, Concern>();
  for (const concerns of all)
    for (const [person, { rules, seqs }] of concerns) {
      const before = together.get(person) ?? { rules: [], seqs: [] };
      together.set(person, {
        rules: [...before.rules, ...rules],
        seqs: [...new Set([...before.seqs, ...seqs])],
      });
    }
  for (const concern of together.values()) closest(concern);
  return together;
}

/** That somebody merely follows is told where nothing else is a reason. */
function closest(concern: Concern): void {
  const closer = concern.rules.filter((id) => id !== "follows");
  if (closer.length > 0) concern.rules = closer;
  concern.seqs.sort((a, b) => a - b);
}

function peopleOf(
  rule: StandardRule,
  one: Happened,
  ties: Ties,
  membersOf: (teamId: string) => readonly string[],
): readonly string[] {
  if (rule.happens !== "anything" && !rule.happens.includes(one.kind)) return [];
  if (rule.whom === "addressed") return [...one.people, ...one.teams.flatMap(membersOf)];
  return rule.whom.flatMap((tie: Tie) => ties[tie]);
}
