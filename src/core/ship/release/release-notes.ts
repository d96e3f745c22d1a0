import { grouped } from "@/core/item/grouped";

/** What the notes of a release say of an item. */
export interface ReleaseNote {
  itemId: string;
  key: string;
  title: string;
  typeId: string;
  /** What somebody wrote; empty where it is what the item is called. */
  words: string;
  /** Not for those outside. */
  internal: boolean;
  finished: boolean;
}

/** Where in the notes something stands, in the order in which they are read. */
export const NOTE_SECTIONS = ["New", "Mended"] as const;
export type NoteSection = (typeof NOTE_SECTIONS)[number];

/** A bug is mended; everything else is new. */
export const sectionOf = ({ typeId }: Pick<ReleaseNote, "typeId">): NoteSection =>
  typeId === "bug" ? "Mended" : "New";

/** As it is read: what was written, else what the item is called. */
export const noteWords = ({ words, title }: Pick<ReleaseNote, "words" | "title">): string =>
  words.trim() || title;

/** The notes by section, without what is internal. */
export function noteSections<N extends ReleaseNote>(
  notes: readonly N[],
): { section: NoteSection; notes: N[] }[] {
  const bySection = grouped(
    notes.filter(({ internal }) => !internal),
    sectionOf,
  );
  return NOTE_SECTIONS.flatMap((section) => {
    const own = bySection.get(section) ?? [];
    return own.length > 0 ? [{ section, notes: own }] : [];
  });
}

/** Signs that would be read as Markdown, or begin something else on a line. */
const MARKED = /[\\`*_[\]<>#|~]/g;

/** A title stands for itself; what somebody wrote may be Markdown, in one line. */
const lineOf = ({ words, title }: ReleaseNote): string =>
  words.trim() === ""
    ? title.replace(MARKED, "\\$&")
    : words
        .split("\n")
        .map((line) => line.trim())
        .filter((line) => line !== "")
        .join(" ");

/**
 * The notes in Markdown, as they go out.
 * @example notesMarkdown("Crossing 20", notes) // "# Crossing 20\n\n## New\n\n- Voucher codes for schools\n"
 */
export function notesMarkdown(name: string, notes: readonly ReleaseNote[]): string {
  const parts = noteSections(notes).map(
    ({ section, notes: own }) =>
      `## ${section}\n\n${own.map((note) => `- ${lineOf(note)}`).join("\n")}\n`,
  );
  return [`# ${name.replace(MARKED, "\\$&")}\n`, ...parts].join("\n");
}
