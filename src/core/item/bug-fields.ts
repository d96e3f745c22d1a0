import { PLAIN_FIELD, type OwnField } from "./own-field";

/** What a bug usually says, beside what every item does. */
const USUAL: readonly (Pick<OwnField, "name" | "kind"> & { choices?: readonly string[] })[] = [
  { name: "Steps to reproduce", kind: "text" },
  { name: "Expected", kind: "text" },
  { name: "Seen instead", kind: "text" },
  { name: "Environment", kind: "text" },
  { name: "Version", kind: "text" },
  { name: "Workaround", kind: "text" },
  {
    name: "How often",
    kind: "one of",
    choices: ["every time", "often", "now and then", "once"],
  },
];

/**
 * The usual fields of a bug that a project does not have yet, for its types of bugs.
 * @param fields those that it has; a name that is there is left as it is
 * @param newId makes the id of each field and choice
 */
export function usualBugFields(
  fields: readonly OwnField[],
  typeIds: readonly string[],
  newId: () => string,
): OwnField[] {
  const there = new Set(
    fields
      .filter(({ removedAt }) => removedAt === null)
      .map(({ name }) => name.toLocaleLowerCase("en")),
  );
  const last = Math.max(-1, ...fields.map(({ position }) => position));
  return USUAL.filter(({ name }) => !there.has(name.toLocaleLowerCase("en"))).map(
    ({ name, kind, choices = [] }, i) => ({
      ...PLAIN_FIELD,
      id: newId(),
      name,
      kind,
      options: choices.map((choice) => ({ id: newId(), name: choice, offered: true })),
      typeIds: [...typeIds],
      onNewItem: false,
      position: last + 1 + i,
    }),
  );
}
