import { pool } from "@/db/connection";
import { findAll } from "@/server/find/find";
import type { Viewer } from "@/server/people/viewer";
import { COMMENTS_PER_ITEM, ITEMS_PER_PROJECT, PROJECTS } from "./organisation";
import { p95, timed, type Row } from "./row";

/** What people look for: words of titles, of texts, of comments, common ones and rare ones. */
const LOOKED_FOR = [
  "gate scanner",
  "ticket",
  "refund card",
  "timetable feed late",
  "fog",
  "number 4711",
  "wheelchair",
  "print the receipt",
  "pier closed",
  "second time",
];

/** The same words asked of the texts alone, as anybody would write it: ranked, and so many of each. */
const BARE = [
  `select i.id from item i, to_tsquery('english', $1) q
    where i.withdrawn_at is null and to_tsvector('english', i.title || ' ' || i.description) @@ q
    order by ts_rank(to_tsvector('english', i.title || ' ' || i.description), q) desc limit 8`,
  `select c.id from comment c, to_tsquery('english', $1) q
    where to_tsvector('english', c.body) @@ q
    order by ts_rank(to_tsvector('english', c.body), q) desc limit 4`,
];

/** Everything that is found for some words, beside the full-text query of the database alone. */
export async function findAmongAll(viewer: Viewer): Promise<Row> {
  const wanted = (i: number) => LOOKED_FOR[i % LOOKED_FOR.length];
  const ours = (i: number) => findAll(viewer, { q: wanted(i), at: "BIG1" });
  const bare = async (i: number) => {
    const query = wanted(i)
      .split(" ")
      .map((word) => `${word}:*`)
      .join(" & ");
    await Promise.all(BARE.map((text) => pool().query(text, [query])));
  };
  await timed(LOOKED_FOR.length, ours);
  await timed(LOOKED_FOR.length, bare);
  const measured = p95(await timed(60, ours));
  const yardstick = p95(await timed(60, bare));
  const items = PROJECTS * ITEMS_PER_PROJECT;
  const comments = items * COMMENTS_PER_ITEM;
  return {
    what: `find among ${items.toLocaleString("en")} items and ${comments.toLocaleString("en")} comments, p95`,
    measured,
    yardstick,
    against: "the full-text query of the same words alone, ranked",
    reach: 3,
  };
}
