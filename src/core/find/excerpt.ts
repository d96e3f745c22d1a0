/** A part of a text, and whether it is what was looked for. */
export interface TextPart {
  text: string;
  hit: boolean;
}

/** Stand around each hit in a text that the database took out: no text of people has them. */
export const HIT_BEGINS = "\uE000";
export const HIT_ENDS = "\uE001";

/** A text with marks around its hits, in parts. */
export function hitParts(marked: string): TextPart[] {
  return marked
    .replace(/\s+/g, " ")
    .trim()
    .split(HIT_BEGINS)
    .flatMap((piece, i) => {
      const [hit, ...rest] = i === 0 ? ["", piece] : piece.split(HIT_ENDS);
      return [
        { text: hit, hit: true },
        { text: rest.join(""), hit: false },
      ];
    })
    .filter(({ text }) => text !== "");
}

/**
 * A name in parts: where one of the words stands in it is a hit.
 * @param words in small letters
 */
export function nameParts(name: string, words: readonly string[]): TextPart[] {
  const small = name.toLowerCase();
  // Where small letters are as many as those written, places in the one are places in the other.
  if (small.length !== name.length) return [{ text: name, hit: false }];
  const hit = new Array<boolean>(name.length).fill(false);
  for (const word of words)
    for (let at = small.indexOf(word); word !== "" && at >= 0; at = small.indexOf(word, at + 1))
      hit.fill(true, at, at + word.length);
  const parts: TextPart[] = [];
  for (const [i, is] of hit.entries()) {
    const last = parts.at(-1);
    if (last?.hit === is) last.text += name[i];
    else parts.push({ text: name[i], hit: is });
  }
  return parts;
}
