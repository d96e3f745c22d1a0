/** A text and what is marked in it; `from` and `to` are the same where only the caret stands there. */
export interface Marked {
  text: string;
  from: number;
  to: number;
}

/** What stands around words: strong, slanted, or as it is. */
export const AROUND = { strong: "**", slanted: "_", code: "`" } as const;
export type Around = keyof typeof AROUND;

/** What stands before lines. */
export const BEFORE = { list: "- ", numbers: "1. ", ticks: "- [ ] ", quote: "> " } as const;
export type Before = keyof typeof BEFORE;

/** Puts a mark around what is marked, or takes it away where it stands there. */
export function around({ text, from, to }: Marked, how: Around): Marked {
  const mark = AROUND[how];
  const { length } = mark;
  const words = text.slice(from, to);
  const outside = text.slice(from - length, from) === mark && text.slice(to, to + length) === mark;
  if (outside && from >= length)
    return put({ text, from: from - length, to: to + length }, words, 0);
  if (words.length > 2 * length && words.startsWith(mark) && words.endsWith(mark))
    return put({ text, from, to }, words.slice(length, -length), 0);
  return put({ text, from, to }, mark + words + mark, length);
}

/** A beginning of a line that says of which kind it is. */
const LINE = /^(\s*)(- \[[ x]\] |- |\d{1,4}\. |> )?/;

/** Begins the lines that are touched in a way, or ends that where all begin so. */
export function before({ text, from, to }: Marked, how: Before): Marked {
  const start = text.lastIndexOf("\n", from - 1) + 1;
  const next = text.indexOf("\n", Math.max(from, to - 1));
  const end = next < 0 ? text.length : next;
  const lines = text.slice(start, end).split("\n");
  const is = (line: string) => kindOf(LINE.exec(line)![2]) === how;
  const off = lines.every(is);
  const changed = lines.map((line, i) => {
    const [all, indent] = LINE.exec(line)!;
    const rest = line.slice(all.length);
    if (off) return indent + rest;
    return indent + (how === "numbers" ? `${i + 1}. ` : BEFORE[how]) + rest;
  });
  const said = changed.join("\n");
  const whole = text.slice(0, start) + said + text.slice(end);
  // Where only the caret stood it goes to the end of its line.
  return from === to
    ? { text: whole, from: start + said.length, to: start + said.length }
    : { text: whole, from: start, to: start + said.length };
}

function kindOf(sign: string | undefined): Before | null {
  if (sign === undefined) return null;
  if (sign.startsWith("- [")) return "ticks";
  if (sign === "- ") return "list";
  return sign === "> " ? "quote" : "numbers";
}

const ADDRESS = /^https?:\/\/\S+$/;

/** Makes a link of what is marked: its words, or its address where it is one. */
export function link({ text, from, to }: Marked): Marked {
  const words = text.slice(from, to);
  if (ADDRESS.test(words)) {
    const made = put({ text, from, to }, `[words](${words})`, 0);
    return { text: made.text, from: from + 1, to: from + 1 + "words".length };
  }
  const made = put({ text, from, to }, `[${words || "words"}](https://)`, 0);
  const at = made.to - 1;
  return { text: made.text, from: at, to: at };
}

/**
 * What a new line begins with behind a line of a list; null where it is a plain one. A line that is
 * empty but for its sign ends the list: it is emptied instead.
 */
export function nextLine({ text, from, to }: Marked): Marked | null {
  if (from !== to) return null;
  const start = text.lastIndexOf("\n", from - 1) + 1;
  const line = text.slice(start, from);
  const [all, indent, sign] = LINE.exec(line)!;
  if (sign === undefined) return null;
  if (line.length === all.length) return put({ text, from: start, to: from }, "", 0);
  const number = /^\d+/.exec(sign);
  const next = number ? `${Number(number[0]) + 1}. ` : sign.replace("[x]", "[ ]");
  const { to: caret, text: whole } = put({ text, from, to }, `\n${indent}${next}`, 0);
  return { text: whole, from: caret, to: caret };
}

/** @param edge so many letters at both ends of what is put in stay unmarked */
function put({ text, from, to }: Marked, words: string, edge: number): Marked {
  return {
    text: text.slice(0, from) + words + text.slice(to),
    from: from + edge,
    to: from + words.length - edge,
  };
}
