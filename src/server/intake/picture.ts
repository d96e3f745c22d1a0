import { invalid } from "../refused";

export const LARGEST_PICTURE = 5 * 1024 * 1024;

const SIGNATURES: { mediaType: string; matches: (b: Buffer) => boolean }[] = [
  { mediaType: "image/png", matches: (b) => b.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) },
  { mediaType: "image/jpeg", matches: (b) => b.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff])) },
  { mediaType: "image/gif", matches: (b) => /^GIF8[79]a$/.test(b.subarray(0, 6).toString("latin1")) },
  { mediaType: "image/webp", matches: (b) => b.subarray(0, 4).toString("latin1") === "RIFF" && b.subarray(8, 12).toString("latin1") === "WEBP" },
];

/**
 * What kind of picture some bytes are, by the bytes themselves; what the sender calls them does not count.
 * @throws Refused when they are too many or no picture
 */
export function checkPicture(content: Buffer): string {
  if (content.length > LARGEST_PICTURE)
    throw invalid(`This picture has ${(content.length / 1048576).toFixed(1)} MB.`, "Choose one of at most 5 MB, or send the report without it.");
  const known = SIGNATURES.find((s) => s.matches(content));
  if (!known) throw invalid("This file is no picture that we can show.", "Choose a PNG, JPEG, GIF or WebP file, or send the report without it.");
  return known.mediaType;
}
