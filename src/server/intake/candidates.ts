import { and, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import type { Meaning } from "@/core/intake/meaning";
import type { Text } from "@/core/intake/similarity";
import type { Outcome, StateKind } from "@/core/workflow/state";
import { database } from "@/db/connection";
import { item, state } from "@/db/schema";
import { seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { nearInMeaning } from "./meanings";

/** An item that may be about the same thing, with what is shown of it. */
export interface Candidate {
  id: string;
  number: number;
  title: string;
  description: string;
  place: string | null;
  stateName: string;
  stateKind: StateKind;
  stage: string | null;
  outcome: Outcome | null;
}

/** A candidate as the core compares it. */
export const textOfCandidate = (
  { id, title, description, place }: Candidate,
  meaning: Meaning | null = null,
): Text => ({ id, title, body: description, place, meaning });

/** So many are held against the text at most. */
const BY_WORDS = 300;
const BY_TITLE = 60;
const BY_MEANING = 40;
const FEWEST_WORDS = 3;
const MOST_WORDS = 20;
const STATISTICS_KEPT_MS = 5 * 60_000;

/**
 * Items that share rare words with a text, whose title is written much like it, or that mean about
 * the same: the ones to hold against it. Common words are left out as long as rarer ones find
 * enough, so that it stays fast however many items there are. The database's own statistics say
 * which words are common.
 */
export async function likelyItems(
  viewer: Viewer,
  project: { id: string; nextItemNumber: number },
  text: { title: string; body: string; meaning?: Meaning | null },
): Promise<Candidate[]> {
  const { shares, items } = await wordStatistics();
  const found = await database().execute(
    sql`select coalesce(array_agg(lexeme), '{}') as words from unnest(to_tsvector('english', ${`${text.title} ${text.body}`}))`,
  );
  const chosen = rarest(
    found.rows[0].words as string[],
    (word) => (shares.get(word) ?? 0) * Math.min(items, project.nextItemNumber),
  );
  const some = (where: SQL, order: SQL, most: number) =>
    database()
      .select({
        id: item.id,
        number: item.number,
        title: item.title,
        description: item.description,
        place: item.place,
        stateName: state.name,
        stage: state.stage,
        stateKind: item.stateKind,
        outcome: item.outcome,
      })
      .from(item)
      .innerJoin(state, eq(state.id, item.stateId))
      .where(
        and(
          eq(item.projectId, project.id),
          isNull(item.withdrawnAt),
          isNull(item.parentId),
          seesItem(database(), viewer),
          where,
        ),
      )
      .orderBy(order)
      .limit(most);
  const query = sql`(select string_agg(quote_literal(w), ' | ') from unnest(${sql.param(chosen)}::text[]) as w)::tsquery`;
  const near = text.meaning ? await nearInMeaning(project.id, text.meaning, BY_MEANING) : [];
  const [byWords, byTitle, byMeaning] = await Promise.all([
    chosen.length === 0
      ? []
      : some(
          sql`to_tsvector('english', ${item.title} || ' ' || ${item.description}) @@ ${query}`,
          sql`${item.number} desc`,
          BY_WORDS,
        ),
    some(
      sql`${item.title} % ${text.title}`,
      sql`similarity(${item.title}, ${text.title}) desc`,
      BY_TITLE,
    ),
    near.length === 0 ? [] : some(inArray(item.id, near), sql`${item.number} desc`, BY_MEANING),
  ]);
  return [...new Map([...byWords, ...byTitle, ...byMeaning].map((c) => [c.id, c])).values()];
}

/** The rarest words, as many as together find about as many items as are wanted. */
export function rarest(words: readonly string[], expected: (word: string) => number): string[] {
  const chosen: string[] = [];
  let sum = 0;
  for (const word of words
    .toSorted((a, b) => expected(a) - expected(b) || (a < b ? -1 : 1))
    .slice(0, MOST_WORDS)) {
    sum += expected(word);
    if (chosen.length >= FEWEST_WORDS && sum > BY_WORDS) break;
    chosen.push(word);
  }
  return chosen;
}

interface WordStatistics {
  /** The share of items that have a word; what is not here is rare. */
  shares: ReadonlyMap<string, number>;
  items: number;
}

let kept: { at: number; statistics: Promise<WordStatistics> } | null = null;

/**
 * What the database has gathered about the words of items (its ANALYZE, on the index of their
 * words).
 */
function wordStatistics(now = Date.now()): Promise<WordStatistics> {
  if (kept && now - kept.at < STATISTICS_KEPT_MS) return kept.statistics;
  const statistics = readStatistics();
  kept = { at: now, statistics };
  statistics.catch(() => (kept = null));
  return statistics;
}

async function readStatistics(): Promise<WordStatistics> {
  const [words, [size]] = await Promise.all([
    database().execute(
      sql`select most_common_elems::text::text[] as words, most_common_elem_freqs as shares from pg_stats where schemaname = current_schema() and tablename = 'item_words' and most_common_elems is not null limit 1`,
    ),
    database()
      .execute(
        sql`select greatest(reltuples, 0)::float8 as items from pg_class where oid = 'item'::regclass`,
      )
      .then((r) => r.rows),
  ]);
  const [row] = words.rows as { words: string[]; shares: number[] }[];
  // After the shares of the words stand the smallest, the largest and that of nulls.
  return {
    shares: new Map(row ? row.words.map((w, i) => [w, row.shares[i]]) : []),
    items: Number(size?.items ?? 0),
  };
}
