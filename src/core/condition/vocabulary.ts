import { fieldTexts, type OwnField } from "@/core/item/own-field";
import {
  FACT_NAMES,
  factOf,
  FACTS,
  ownFactName,
  ownFieldOf,
  type FactName,
  type FactOptions,
} from "./facts";

/** What a project calls the things that conditions refer to by id. */
export interface Vocabulary {
  types: { id: string; name: string; workflowId: string }[];
  states: { id: string; name: string; workflowName: string }[];
  /** With what they are good for, where one project is looked at. */
  people: { id: string; name: string; trades?: readonly string[] }[];
  teams: { id: string; name: string }[];
  sprints: { id: string; name: string; past?: boolean }[];
  releases: { id: string; name: string; past?: boolean }[];
  /** The levels that its types are of, from the lowest, each by its number. */
  levels: { id: string; name: string }[];
  /** The projects that are looked at: mostly one. */
  projects: { id: string; name: string }[];
  /** Fields of the project's own, those that were taken out too. */
  own: OwnField[];
}

export const EMPTY_VOCABULARY: Vocabulary = {
  types: [],
  states: [],
  people: [],
  teams: [],
  sprints: [],
  releases: [],
  levels: [],
  projects: [],
  own: [],
};

export interface Option {
  id: string;
  label: string;
  /** Over already, as a sprint: not offered for new work. */
  past?: boolean;
}

/** An own field of a vocabulary; undefined for other facts and for fields that are not there. */
export function ownField(fact: FactName, vocabulary: Vocabulary): OwnField | undefined {
  const id = ownFieldOf(fact)?.id;
  return id === undefined ? undefined : vocabulary.own.find((f) => f.id === id);
}

/** What a fact is called. */
export function factLabel(fact: FactName, vocabulary: Vocabulary): string {
  return ownFieldOf(fact)
    ? (ownField(fact, vocabulary)?.name ?? "a field that is gone")
    : factOf(fact).label;
}

/** The unit of a fact; empty where it has none. */
export function factUnit(fact: FactName, vocabulary: Vocabulary): string {
  return factOf(fact).unit || ownField(fact, vocabulary)?.unit || "";
}

const TAKEN = new Set(FACT_NAMES.map((name) => FACTS[name].text));

/** How facts are written after `item.`: those of every item, and the project's own. */
export function factTexts(vocabulary: Vocabulary): Map<FactName, string> {
  const texts = new Map<FactName, string>(FACT_NAMES.map((name) => [name, FACTS[name].text]));
  const own = fieldTexts(vocabulary.own, TAKEN);
  for (const field of vocabulary.own) texts.set(ownFactName(field), own.get(field.id)!);
  return texts;
}

/** How one fact is written. */
export function factText(fact: FactName, vocabulary: Vocabulary): string {
  return ownFieldOf(fact)
    ? (factTexts(vocabulary).get(fact) ?? factOf(fact).text)
    : factOf(fact).text;
}

/** Facts that tell nothing apart where there is one of what they name. */
const OF_SEVERAL: Partial<Record<FactName, "levels" | "projects">> = {
  level: "levels",
  projectId: "projects",
};

/** The facts that can be asked about, those of fields that were taken out left aside. */
export function factsOffered(vocabulary: Vocabulary): FactName[] {
  const asked = FACT_NAMES.filter((name) => {
    const several = OF_SEVERAL[name];
    return several === undefined || vocabulary[several].length > 1;
  });
  return [...asked, ...vocabulary.own.filter((f) => f.removedAt === null).map(ownFactName)];
}

/**
 * The values that a fact can have, each with a label of its own: names that occur twice are told
 * apart.
 */
export function optionsOf(fact: FactName, vocabulary: Vocabulary): Option[] {
  const { options } = factOf(fact);
  if (options === null) return [];
  if (isFixed(options)) return options.map((o) => ({ id: o, label: o }));
  if (typeof options === "object")
    return ownField(fact, vocabulary)?.options.map((o) => ({ id: o.id, label: o.name })) ?? [];
  return labelled(options, vocabulary);
}

const isFixed = (options: Exclude<FactOptions, null>): options is readonly string[] =>
  Array.isArray(options);

function labelled(options: Extract<FactOptions, string>, vocabulary: Vocabulary): Option[] {
  const things: { id: string; name: string; more: string; past?: boolean }[] =
    options === "states"
      ? vocabulary.states.map((s) => ({ id: s.id, name: s.name, more: s.workflowName }))
      : vocabulary[options].map((t) => ({ ...t, more: t.id }));
  const count = new Map<string, number>();
  for (const { name } of things) count.set(name, (count.get(name) ?? 0) + 1);
  return things.map(({ id, name, more, past }) => ({
    id,
    ...(past ? { past } : {}),
    label: count.get(name)! > 1 ? `${name} (${more})` : name,
  }));
}

/** The label of an id; the id itself when nothing is called so any more. */
export function labelOf(fact: FactName, id: string, vocabulary: Vocabulary): string {
  return optionsOf(fact, vocabulary).find((o) => o.id === id)?.label ?? id;
}
