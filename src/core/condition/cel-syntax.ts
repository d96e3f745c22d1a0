/** The parts of a text, comments left out, in the order they stand, with where each begins. */
export interface Token {
  kind:
    | "word"
    | "number"
    | "text"
    | "operator"
    | "open"
    | "close"
    | "comma"
    | "dot"
    | "not"
    | "strange";
  text: string;
  at: number;
}

const PATTERNS: [Token["kind"], RegExp][] = [
  ["text", /"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'/y],
  ["number", /-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/y],
  ["operator", /&&|\|\||[=!<>]=|[<>]|in(?![A-Za-z0-9_])/y],
  ["word", /[A-Za-z_][A-Za-z0-9_]*/y],
  ["not", /!/y],
  ["open", /[([]/y],
  ["close", /[)\]]/y],
  ["comma", /,/y],
  ["dot", /\./y],
];

/**
 * Cuts a text of the Common Expression Language into its smallest parts, comments and gaps left out.
 */
export function tokens(text: string): Token[] {
  const found: Token[] = [];
  let at = 0;
  while (at < text.length) {
    if (text.startsWith("//", at)) {
      const end = text.indexOf("\n", at);
      at = end < 0 ? text.length : end;
      continue;
    }
    if (/\s/.test(text[at])) {
      at += 1;
      continue;
    }
    const token = next(text, at);
    found.push(token);
    at += token.text.length;
  }
  return found;
}

function next(text: string, at: number): Token {
  for (const [kind, pattern] of PATTERNS) {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (match) return { kind, text: match[0], at };
  }
  return { kind: "strange", text: text[at], at };
}

/**
 * The first character at which a text stops being an expression, with what is wanted there. The
 * parser of the language tells only where the last whole expression ended, which is before the
 * mistake.
 */
export function syntaxError(text: string): { at: number; sentence: string } | null {
  const open: Token[] = [];
  let wantsOperand = true;
  let before: Token | null = null;
  for (const token of tokens(text)) {
    const problem = tokenProblem(token, wantsOperand, open, before);
    if (problem) return { at: token.at, sentence: problem };
    if (token.kind === "open") open.push(token);
    if (token.kind === "close") open.pop();
    wantsOperand = wantedAfter(token);
    before = token;
  }
  if (wantsOperand) return { at: text.length, sentence: "Something is missing at the end." };
  if (open.length > 0)
    return { at: open.at(-1)!.at, sentence: `This ${open.at(-1)!.text} is never closed.` };
  return null;
}

const wantedAfter = ({ kind }: Token) =>
  kind === "operator" || kind === "not" || kind === "open" || kind === "comma" || kind === "dot";

function tokenProblem(
  { kind, text }: Token,
  wantsOperand: boolean,
  open: readonly Token[],
  before: Token | null,
): string | null {
  if (kind === "strange") {
    if (text === '"' || text === "'") return "This text is never closed.";
    return text === "="
      ? "Compare with two signs: ==."
      : text === "&" || text === "|"
        ? `Write ${text}${text} between two comparisons.`
        : `“${text}” has no meaning here.`;
  }
  if (before?.kind === "dot" && kind !== "word") return "A name is wanted after the dot.";
  const isOperand = kind === "word" || kind === "number" || kind === "text" || kind === "not";
  if (wantsOperand) {
    if (isOperand || kind === "open") return null;
    // An empty list or call.
    if (kind === "close" && before?.kind === "open")
      return matches(open, text) ? null : `“${text}” closes nothing.`;
    return `Something is missing before “${text}”.`;
  }
  if (kind === "close")
    return open.length > 0 && matches(open, text) ? null : `“${text}” closes nothing.`;
  if (kind === "operator" || kind === "dot") return null;
  if (kind === "comma") return open.length > 0 ? null : "A comma has no meaning here.";
  // A call: a word followed by its bracket.
  if (kind === "open" && text === "(" && before?.kind === "word") return null;
  // "3 -2" reads the sign as part of the number.
  return `An operator such as && or == is missing before “${text}”.`;
}

const matches = (open: readonly Token[], close: string) =>
  open.length > 0 && (open.at(-1)!.text === "(") === (close === ")");
