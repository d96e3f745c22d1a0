import type { FactName, FactOptions } from "./facts";
import { FACTS } from "./facts";

/** What a project calls the things that conditions refer to by id. */
export interface Vocabulary {
  types: { id: string; name: string }[];
  states: { id: string; name: string; workflowName: string }[];
  people: { id: string; name: string }[];
  teams: { id: string; name: string }[];
}

export interface Option {
  id: string;
  label: string;
}

/** The values that a fact can have, each with a label of its own: names that occur twice are told apart. */
export function optionsOf(fact: FactName, vocabulary: Vocabulary): Option[] {
  const { options } = FACTS[fact];
  if (options === null) return [];
  if (typeof options !== "string") return options.map((o) => ({ id: o, label: o }));
  return labelled(options, vocabulary);
}

function labelled(options: Extract<FactOptions, string>, vocabulary: Vocabulary): Option[] {
  const things: { id: string; name: string; more: string }[] =
    options === "states"
      ? vocabulary.states.map((s) => ({ id: s.id, name: s.name, more: s.workflowName }))
      : vocabulary[options].map((t) => ({ ...t, more: t.id }));
  const count = new Map<string, number>();
  for (const { name } of things) count.set(name, (count.get(name) ?? 0) + 1);
  return things.map(({ id, name, more }) => ({ id, label: count.get(name)! > 1 ? `${name} (${more})` : name }));
}

/** The label of an id; the id itself when nothing is called so any more. */
export function labelOf(fact: FactName, id: string, vocabulary: Vocabulary): string {
  return optionsOf(fact, vocabulary).find((o) => o.id === id)?.label ?? id;
}
