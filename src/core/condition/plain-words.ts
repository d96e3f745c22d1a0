import { AMONG } from "./relatives";
import { factLabel, factsOffered, factText, type Vocabulary } from "./vocabulary";

/** A text in the signs of the Common Expression Language, and where its characters came from. */
export interface InSigns {
  text: string;
  /** The place in the text as it was written. */
  written: (at: number) => number;
}

const SIGN_OF: Record<string, string> = { and: "&&", or: "||", not: "!" };

/** Words that mean something of their own in the language. */
const OWN_MEANING = new Set(["item", "me", "my_teams", "true", "false", "null", "in"]);

/** Texts in quotation marks, comments, what stands behind a dot, words, and any other character. */
const PARTS =
  /"(?:[^"\\\n]|\\.)*"?|'(?:[^'\\\n]|\\.)*'?|\/\/[^\n]*|\.\s*[\p{L}_][\p{L}\p{N}_]*|[\p{L}_][\p{L}\p{N}_]*|[^]/gu;

/**
 * Puts signs where people write words: "and", "or", "not", and a field by the name that it has on
 * the screens ("Days in state > 3 and Estimate > 5"). What is in signs already stays as it is.
 */
export function inSigns(text: string, vocabulary: Vocabulary): InSigns {
  const named = namesOf(vocabulary);
  const pieces: { from: number; to: number; written: number; length: number }[] = [];
  let signs = "";
  const write = (at: number, length: number, piece: string) => {
    pieces.push({ from: signs.length, to: signs.length + piece.length, written: at, length });
    signs += piece;
  };
  PARTS.lastIndex = 0;
  for (let part = PARTS.exec(text); part; part = PARTS.exec(text)) {
    const { index: at, 0: words } = part;
    const found = /^[\p{L}_]/u.test(words) ? nameAt(text, at, named) : undefined;
    if (found) {
      write(at, found.length, `item.${found.fact}`);
      PARTS.lastIndex = at + found.length;
    } else write(at, words.length, SIGN_OF[words.toLowerCase()] ?? words);
  }
  return {
    text: signs,
    written: (at) => {
      const piece = pieces.find((p) => at < p.to);
      if (!piece) return text.length;
      return piece.to - piece.from === piece.length
        ? piece.written + at - piece.from
        : piece.written;
    },
  };
}

interface Named {
  label: string;
  fact: string;
}

/** The names of the facts, longest first, so that "Days in state" is not read as "Days". */
function namesOf(vocabulary: Vocabulary): Named[] {
  return factsOffered(vocabulary)
    .map((name) => ({
      label: factLabel(name, vocabulary).toLowerCase(),
      fact: factText(name, vocabulary),
    }))
    .filter(({ label }) => !OWN_MEANING.has(label) && !(label in SIGN_OF))
    .sort((a, b) => b.label.length - a.label.length);
}

const isAmong = (label: string): boolean => (AMONG as readonly string[]).includes(label);

function nameAt(text: string, at: number, named: readonly Named[]) {
  const found = named.find(({ label }) => {
    const end = at + label.length;
    if (text.slice(at, end).toLowerCase() !== label) return false;
    const rest = text.slice(end);
    // What is asked of those around it, as in children.all(…).
    if (isAmong(label) && /^\s*\./.test(rest)) return false;
    // A longer word, or the name of a call such as day(7).
    return !/^[\p{L}\p{N}_]/u.test(rest) && !/^\s*\(/.test(rest);
  });
  return found && { fact: found.fact, length: found.label.length };
}
