import { shorten } from "@/core/formats/cut-text";

/** A part of a text: what it is called, and what stands in it. */
interface Part {
  name: string;
  content: string;
}

/** A line that begins a part: a heading, or words in bold with what stands behind them. */
function labelIn(line: string): Part | null {
  const words = line.trim();
  if (words.startsWith("#")) {
    const behind = words.replace(/^#{1,6}/, "");
    return behind.startsWith(" ") ? { name: behind.trim(), content: "" } : null;
  }
  const end = words.startsWith("**") ? words.indexOf("**", 2) : -1;
  if (end <= 2) return null;
  const behind = words.slice(end + 2).trim();
  const content = behind.startsWith(":") ? behind.slice(1).trim() : behind;
  return { name: words.slice(2, end).trim(), content };
}

/** Signs of lists and boxes to tick, with nothing behind them. */
const BARE = /^(?:[-*+]|\d+[.)])?(?:\[x?\])?$/i;

/** So much of a sentence names it. */
const NAME_LETTERS = 40;

/** The parts of a text, in their order; what stands before the first label has no name. */
function partsOf(text: string): Part[] {
  const parts: Part[] = [{ name: "", content: "" }];
  for (const line of text.split(/\r?\n/)) {
    const label = labelIn(line);
    if (label) parts.push(label);
    else if (!BARE.test(line.replace(/\s/g, ""))) {
      const last = parts.at(-1)!;
      last.content = `${last.content}\n${line.trim()}`;
    }
  }
  return parts.map(({ name, content }) => ({ name, content: content.trim() }));
}

const alike = (name: string): string =>
  name
    .replace(/[:.\s]+/g, " ")
    .trim()
    .toLocaleLowerCase("en");

/**
 * Which parts of its type's starting text nobody has written yet: those that say what the starting
 * text says, or nothing. A part that somebody took out is not missed.
 * @param text the description as it is
 * @param template what descriptions of the type begin with, Markdown
 * @returns the names of the parts, in the order of the starting text
 * @example emptyParts("**Expected**\n\n**Actual**\nIt stays shut.", "**Expected**\n\n**Actual**\n")
 *   // ["Expected"]
 */
export function emptyParts(text: string, template: string): string[] {
  const said = partsOf(text);
  return partsOf(template).flatMap(({ name, content }) => {
    if (name === "")
      return content !== "" && stillSays(said[0].content, content)
        ? [shorten(content.replace(/\s+/g, " "), NAME_LETTERS)]
        : [];
    const part = said.find((one) => alike(one.name) === alike(name));
    return part && (part.content === "" || part.content === content) ? [name] : [];
  });
}

/** Words that are to be filled in, and stand there as they were. */
const stillSays = (said: string, wanted: string): boolean => said.includes(wanted);
