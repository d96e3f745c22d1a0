import type { Vocabulary } from "@/core/condition/vocabulary";
import { grouped } from "@/core/item/grouped";
import { onceEach } from "@/core/item/once-each";
import type { OwnField, OwnFieldKind } from "@/core/item/own-field";

/** Own fields of several projects that are one field where they are looked at together. */
export interface AlikeFields {
  /** By the id of the field that stands for them: all that mean the same. */
  fields: Readonly<Record<string, readonly string[]>>;
  /** By the id of a choice: the choice of the same name in the field that stands for them. */
  options: Readonly<Record<string, string>>;
}

/** What several projects call things, where their items are looked at together. */
export interface MergedVocabulary {
  vocabulary: Vocabulary;
  alike: AlikeFields;
}

interface OfProject {
  key: string;
  vocabulary: Vocabulary;
}

/** Kinds whose values mean the same in every project; what is computed has formulas of its own. */
const COMPARABLE: readonly OwnFieldKind[] = [
  "text",
  "number",
  "date",
  "one of",
  "person",
  "yes or no",
  "link",
];

/** Levels have one number everywhere, and each project its own word for it. */
function mergedLevels(all: readonly Vocabulary[]): Vocabulary["levels"] {
  const levels = all.flatMap((one) => one.levels);
  const ids = [...new Set(levels.map(({ id }) => id))].sort();
  return ids.map((id) => {
    const names = levels.filter((level) => level.id === id).map(({ name }) => name);
    return { id, name: [...new Set(names)].join(" or ") };
  });
}

const alikeKey = ({ name, kind, unit }: OwnField): string =>
  JSON.stringify([name.toLowerCase(), kind, unit]);

/** Fields are one only if name and kind are equal, and what they are counted in. */
function mergedFields(all: readonly Vocabulary[]): { own: OwnField[]; alike: AlikeFields } {
  const present = all.flatMap(({ own }) =>
    own.filter((field) => field.removedAt === null && COMPARABLE.includes(field.kind)),
  );
  const groups = grouped(present, alikeKey);
  const fields: Record<string, string[]> = {};
  const options: Record<string, string> = {};
  const own = [...groups.values()].map(([first, ...others]) => {
    fields[first.id] = [first.id, ...others.map(({ id }) => id)];
    const choices = [...first.options];
    for (const choice of others.flatMap((other) => other.options)) {
      const same = choices.find(({ name }) => name.toLowerCase() === choice.name.toLowerCase());
      if (same && same.id !== choice.id) options[choice.id] = same.id;
      else if (!same) choices.push(choice);
    }
    // On which types it stands is each project's own.
    return { ...first, options: choices, typeIds: [], formula: null };
  });
  return { own, alike: { fields, options } };
}

/**
 * What several projects call things, as one: types, people and teams are the same by their ids;
 * states, sprints and releases say whose they are; own fields are one where name and kind are equal.
 */
export function mergeVocabularies(of: readonly OfProject[]): MergedVocabulary {
  const all = of.map(({ vocabulary }) => vocabulary);
  const [only] = all;
  if (all.length === 1) return { vocabulary: only, alike: { fields: {}, options: {} } };
  const ofKey = <T extends { name: string }>(key: string, things: readonly T[]): T[] =>
    things.map((thing) => ({ ...thing, name: `${thing.name} · ${key}` }));
  const { own, alike } = mergedFields(all);
  return {
    alike,
    vocabulary: {
      types: onceEach(all.flatMap(({ types }) => types)),
      states: of.flatMap(({ key, vocabulary: { states } }) =>
        states.map((state) => {
          const alone = states.filter(({ name }) => name === state.name).length === 1;
          return { ...state, workflowName: alone ? key : `${key}, ${state.workflowName}` };
        }),
      ),
      people: onceEach(all.flatMap(({ people }) => people)).sort((a, b) =>
        a.name < b.name ? -1 : 1,
      ),
      teams: onceEach(all.flatMap(({ teams }) => teams)),
      sprints: onceEach(of.flatMap(({ key, vocabulary }) => ofKey(key, vocabulary.sprints))),
      releases: onceEach(of.flatMap(({ key, vocabulary }) => ofKey(key, vocabulary.releases))),
      levels: mergedLevels(all),
      projects: onceEach(all.flatMap(({ projects }) => projects)),
      own,
    },
  };
}
