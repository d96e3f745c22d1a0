/** What windows-1252 has between 0x80 and 0x9f; not every engine's decoder knows it. */
const BETWEEN = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";

/** What a text file was written in, as people know it. */
export type TextEncoding = "UTF-8" | "UTF-16" | "Windows-1252";

/**
 * The text of a file's bytes. UTF-8 is believed where it is valid, UTF-16 by its mark; what is
 * neither was written by an older program in Western letters (WHATWG Encoding Standard:
 * windows-1252, which Latin-1 is read as).
 */
export function decodeText(bytes: Uint8Array): { text: string; encoding: TextEncoding } {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: new TextDecoder("utf-16le").decode(bytes), encoding: "UTF-16" };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: new TextDecoder("utf-16be").decode(bytes), encoding: "UTF-16" };
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes), encoding: "UTF-8" };
  } catch {
    const text = new TextDecoder("latin1")
      .decode(bytes)
      .replace(/[\u0080-\u009f]/g, (letter) => BETWEEN[letter.charCodeAt(0) - 0x80]);
    return { text, encoding: "Windows-1252" };
  }
}
