import { sql, type SQL, type SQLWrapper } from "drizzle-orm";
import { HIT_BEGINS, HIT_ENDS, hitParts, type TextPart } from "@/core/find/excerpt";
import type { Wanted } from "@/core/find/wanted";

/** A text is looked through so far for the words around a hit. */
const LOOKED_THROUGH = 20_000;

/** Below three letters the index of parts says nothing. */
const SHORTEST_PART = 3;

/** All words of a search, each as the beginning of one in a text. */
const query = ({ words }: Wanted): SQL =>
  sql`to_tsquery('english', ${words.map((word) => `${word}:*`).join(" & ")})`;

/** Texts in which each word begins one, in any of its forms. */
export const hasWords = (document: SQL, wanted: Wanted): SQL =>
  sql`${document} @@ ${query(wanted)}`;

const within = (name: SQLWrapper, part: string): SQL =>
  sql`${name} ilike ${`%${part.replace(/[\\%_]/g, "\\$&")}%`}`;

/** Names in which each word stands somewhere. */
export const hasAllIn = (name: SQLWrapper, { words }: Wanted): SQL =>
  words.length === 0
    ? sql`false`
    : sql`(${sql.join(
        words.map((word) => within(name, word)),
        sql` and `,
      )})`;

/** The same, as far as the index of parts of names finds it. */
export const hasPartsIn = (name: SQLWrapper, wanted: Wanted): SQL =>
  wanted.words.some((word) => word.length >= SHORTEST_PART) ? hasAllIn(name, wanted) : sql`false`;

/** Names that begin with what was looked for. */
export const beginsSo = (name: SQLWrapper, { text }: Wanted): SQL =>
  sql`starts_with(lower(${name}), lower(${text}))`;

const OPTIONS = `StartSel=${HIT_BEGINS}, StopSel=${HIT_ENDS}, MaxFragments=1, MaxWords=16, MinWords=8`;

/** The part of a text in which the words stand, with marks around them; read by `excerptOf`. */
export const excerpt = (text: SQLWrapper, wanted: Wanted): SQL<string> =>
  sql`ts_headline('english', translate(left(${text}, ${LOOKED_THROUGH}::int), ${HIT_BEGINS + HIT_ENDS}, ''), ${query(wanted)}, ${OPTIONS})`;

/** A part of a text as the database gave it out. */
export const excerptOf = (marked: string | null): TextPart[] => hitParts(marked ?? "");
