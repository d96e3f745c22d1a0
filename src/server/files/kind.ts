import { cutText } from "@/core/formats/cut-text";
import { isDrawable, pictureSize } from "@/core/formats/picture-size";

const starts = (b: Buffer, ...bytes: number[]) =>
  b.subarray(0, bytes.length).equals(Buffer.from(bytes));

const SIGNATURES: { mediaType: string; matches: (b: Buffer) => boolean }[] = [
  {
    mediaType: "image/png",
    matches: (b) => starts(b, 0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a),
  },
  { mediaType: "image/jpeg", matches: (b) => starts(b, 0xff, 0xd8, 0xff) },
  {
    mediaType: "image/gif",
    matches: (b) => /^GIF8[79]a$/.test(b.subarray(0, 6).toString("latin1")),
  },
  {
    mediaType: "image/webp",
    matches: (b) =>
      b.subarray(0, 4).toString("latin1") === "RIFF" &&
      b.subarray(8, 12).toString("latin1") === "WEBP",
  },
  { mediaType: "application/pdf", matches: (b) => b.subarray(0, 5).toString("latin1") === "%PDF-" },
  { mediaType: "text/plain", matches: isPlainText },
];

/**
 * Text that no program would run or render: valid UTF-8, no control characters, no mark-up and no
 * script at its beginning.
 */
function isPlainText(content: Buffer): boolean {
  let text: string;
  try {
    text = new TextDecoder("utf-8", { fatal: true }).decode(content);
  } catch {
    return false;
  }
  return (
    text.trim().length > 0 &&
    !/[\u0000-\u0008\u000e-\u001f\u007f]/.test(text) &&
    !/^\s*(<|#!|%!|MZ)/.test(text)
  );
}

/** What kind of file some bytes are, by the bytes themselves; null where it is none that is known. */
export const mediaTypeOf = (content: Buffer): string | null =>
  SIGNATURES.find((s) => s.matches(content))?.mediaType ?? null;

/** Only these are ever shown in a page; everything else is for downloading. */
export const isPicture = (mediaType: string) => mediaType.startsWith("image/");

/** Whether a file may be drawn in a page: a picture whose size is known and not monstrous. */
export const isShowable = (mediaType: string, content: Buffer): boolean =>
  isPicture(mediaType) && isDrawable(pictureSize(content));

/**
 * A name that is safe in a list and in a header: without folders, control characters and marks that
 * turn writing around.
 */
export function cleanName(name: string): string {
  const bare = name
    .split(/[/\\]/)
    .at(-1)!
    .replace(/[\u0000-\u001f\u007f\u200e\u200f\u202a-\u202e\u2066-\u2069"]/g, "")
    .trim();
  return cutText(bare, 120) || "file";
}
