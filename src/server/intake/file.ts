import { LARGEST_FILE, MOST_FILES } from "@/core/intake/file-limits";
import { fileSize } from "@/core/formats/file-size";
import { cutText } from "@/core/formats/cut-text";
import { invalid } from "../refused";

/** A file as it came from outside: nothing about it is believed but its bytes. */
export interface SentFile {
  name: string;
  content: Buffer;
}

export interface CheckedFile extends SentFile {
  mediaType: string;
}

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

/** Only these are ever shown in a page; everything else is for downloading. */
export const isPicture = (mediaType: string) => mediaType.startsWith("image/");

/**
 * What kind of file some bytes are, by the bytes themselves; what the sender calls them does not
 * count.
 * @throws Refused when they are too many or of a kind that is not taken
 */
export function checkFile({ name, content }: SentFile): CheckedFile {
  const called = cleanName(name);
  if (content.length > LARGEST_FILE)
    throw invalid(
      `${called} has ${fileSize(content.length)}.`,
      "Choose one of at most 5 MB, or send the report without it.",
    );
  const known = SIGNATURES.find((s) => s.matches(content));
  if (!known)
    throw invalid(
      `${called} is of a kind that we cannot take.`,
      "Choose a picture (PNG, JPEG, GIF, WebP), a PDF or plain text, or send the report without it.",
    );
  return { name: called, mediaType: known.mediaType, content };
}

/** @throws Refused when one of them, or all together, cannot be taken */
export function checkFiles(files: readonly SentFile[]): CheckedFile[] {
  if (files.length > MOST_FILES)
    throw invalid(`These are ${files.length} files.`, `Choose at most ${MOST_FILES}.`);
  return files.map(checkFile);
}

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
