import { LARGEST_FILE, MOST_FILES } from "@/core/intake/file-limits";
import { fileSize } from "@/core/formats/file-size";
import { cleanName, mediaTypeOf } from "../files/kind";
import { invalid } from "../refused";

/** A file as it came from outside: nothing about it is believed but its bytes. */
export interface SentFile {
  name: string;
  content: Buffer;
}

export interface CheckedFile extends SentFile {
  mediaType: string;
}

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
  const mediaType = mediaTypeOf(content);
  if (mediaType === null)
    throw invalid(
      `${called} is of a kind that we cannot take.`,
      "Choose a picture (PNG, JPEG, GIF, WebP), a PDF or plain text, or send the report without it.",
    );
  return { name: called, mediaType, content };
}

/** @throws Refused when one of them, or all together, cannot be taken */
export function checkFiles(files: readonly SentFile[]): CheckedFile[] {
  if (files.length > MOST_FILES)
    throw invalid(`These are ${files.length} files.`, `Choose at most ${MOST_FILES}.`);
  return files.map(checkFile);
}
