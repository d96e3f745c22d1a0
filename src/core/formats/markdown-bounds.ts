/*
 * What a Markdown reader may be given. CommonMark lets quotes, lists, emphasis and links nest
 * without end, and readers take more than one pass over what nests: texts that people write stay
 * far below these bounds; a text beyond them is shown as it is.
 */

const LONGEST = 40_000;
/** Quotes and lists inside each other, opened on one line. */
const MOST_CONTAINERS = 12;
/** Columns before an item of a list: lists also nest by standing further right, line by line. */
const FURTHEST_RIGHT = 40;
/** Signs of emphasis, and brackets, between two blank lines. */
const MOST_MARKS = 400;
/** Cells of all tables together, as wide as the widest row. */
const MOST_CELLS = 10_000;

/**
 * Whether a text can be read as Markdown in the time that people wait; looked at in one pass.
 * @example isTame("**Gate 4** hums") === true; isTame(">".repeat(10_000)) === false
 */
export function isTame(text: string): boolean {
  if (text.length > LONGEST) return false;
  let marks = 0;
  let brackets = 0;
  let rows = 0;
  let widest = 0;
  for (const line of text.split("\n")) {
    if (line.trim() === "") marks = brackets = 0;
    if (containersOf(line) > MOST_CONTAINERS) return false;
    let cells = 0;
    for (const letter of line) {
      if (letter === "*" || letter === "_" || letter === "~") marks += 1;
      else if (letter === "[" || letter === "]" || letter === "`" || letter === "<") brackets += 1;
      else if (letter === "|") cells += 1;
    }
    if (cells > 0) rows += 1;
    widest = Math.max(widest, cells);
    if (marks > MOST_MARKS || brackets > MOST_MARKS || rows * widest > MOST_CELLS) return false;
  }
  return true;
}

/** How many quotes and list items a line opens before its words begin. */
function containersOf(line: string): number {
  let opened = 0;
  let i = 0;
  const first = line.search(/\S/);
  while (i < line.length && opened <= MOST_CONTAINERS) {
    const letter = line[i];
    if (letter === " " || letter === "\t") i += 1;
    else if (
      letter === ">" ||
      ((letter === "-" || letter === "*" || letter === "+") && isGap(line[i + 1]))
    ) {
      opened += 1;
      i += 1;
    } else {
      let digits = 0;
      while (digits < 9 && isDigit(line[i + digits])) digits += 1;
      const end = line[i + digits];
      if (digits === 0 || (end !== "." && end !== ")") || !isGap(line[i + digits + 1])) break;
      opened += 1;
      i += digits + 1;
    }
  }
  return opened > 0 && first > FURTHEST_RIGHT ? Infinity : opened;
}

const isGap = (letter: string | undefined) =>
  letter === undefined || letter === " " || letter === "\t";
const isDigit = (letter: string | undefined) =>
  letter !== undefined && letter >= "0" && letter <= "9";
