import type { OwnField } from "./own-field";

type Options = OwnField["options"];

/** So many choices of a field are taken from a text, each of so many characters. */
const MOST_OPTIONS = 100;
const LONGEST_OPTION = 80;

const sameName = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/**
 * The choices of a field as a text names them, one a line. Those that it names no more are kept and
 * not offered, as items may still say them; named again, capitals apart, they are offered again.
 * @param newId makes the id of each new choice
 */
export function optionsIn(text: string, known: Options, newId: () => string): Options {
  const lines = text.split("\n").map((line) => line.trim().slice(0, LONGEST_OPTION));
  const names = [...new Set(lines.filter(Boolean))].slice(0, MOST_OPTIONS);
  const kept = known.map((option) => ({
    ...option,
    offered: names.some((name) => sameName(name, option.name)),
  }));
  const added = names.filter((name) => !known.some((option) => sameName(name, option.name)));
  return [...kept, ...added.map((name) => ({ id: newId(), name, offered: true }))];
}
