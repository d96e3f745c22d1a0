import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { shorten } from "@/core/formats/cut-text";
import { standardRule } from "@/core/alerts/standard-rules";
import type { DayNews, DayQuestion } from "@/core/today/day";
import { listWords } from "@/core/formats/list-words";
import type { Reader } from "@/db/connection";
import { alert, comment, item, person } from "@/db/schema";
import { tellingOf } from "../alerts/telling";
import { isFresh } from "../alerts/keep";
import type { Viewer } from "../people/viewer";

/** So much of a question stands on a line. */
const QUESTION = 90;
const NAMED_FIRST = /^\s*@\p{L}[\p{L}-]*(?: \p{Lu}[\p{L}-]*)?[,:]?\s*/u;
/** Questions about what ended long ago are asked no more. */
const MOST = 100;

const answeredBy = (who: ReturnType<typeof sql>) => sql`exists (
  select 1 from comment later where later.item_id = ${comment.itemId}
    and later.author_id = ${who} and later.gone_at is null and later.at > ${comment.at}
    and later.answers_id in (${comment.id}, ${comment.answersId}))`;

/** Questions that a person is to answer, and those of theirs that nobody has answered yet. */
export async function readQuestions(
  reader: Reader,
  viewer: Viewer,
): Promise<{ asked: DayQuestion[]; asking: DayQuestion[] }> {
  const me = viewer.personId;
  const open = and(isNull(comment.goneAt), sql`${item.stateKind} <> 'finished'`);
  const [asked, asking] = await Promise.all([
    reader
      .select({
        itemId: comment.itemId,
        commentId: comment.id,
        who: person.name,
        body: comment.body,
      })
      .from(comment)
      .innerJoin(item, eq(item.id, comment.itemId))
      .innerJoin(person, eq(person.id, comment.authorId))
      .where(
        and(
          open,
          sql`${comment.asks} <> '[]'::jsonb`,
          sql`${comment.asks} @> ${JSON.stringify([me])}::jsonb`,
          sql`not ${answeredBy(sql`${me}`)}`,
        ),
      )
      .orderBy(asc(comment.at))
      .limit(MOST),
    reader
      .select({
        itemId: comment.itemId,
        commentId: comment.id,
        asks: comment.asks,
        body: comment.body,
      })
      .from(comment)
      .innerJoin(item, eq(item.id, comment.itemId))
      .where(
        and(
          open,
          eq(comment.authorId, me),
          sql`${comment.asks} <> '[]'::jsonb`,
          sql`exists (select 1 from jsonb_array_elements_text(${comment.asks}) who
            where not ${answeredBy(sql`who.value`)})`,
        ),
      )
      .orderBy(asc(comment.at))
      .limit(MOST),
  ]);
  const ids = [...new Set(asking.flatMap((one) => one.asks))];
  const names = new Map(
    ids.length === 0
      ? []
      : (
          await reader
            .select({ id: person.id, name: person.name })
            .from(person)
            .where(inArray(person.id, ids))
        ).map((one) => [one.id, one.name] as const),
  );
  // Whom it names first is said already.
  const wordsOf = (body: string) =>
    shorten(body.replace(NAMED_FIRST, "").replace(/\s+/g, " ").trim(), QUESTION);
  return {
    asked: asked.map(({ body, ...one }) => ({ ...one, words: wordsOf(body) })),
    asking: asking.map(({ body, asks, ...one }) => ({
      ...one,
      words: wordsOf(body),
      who: listWords(
        asks.map((id) => names.get(id) ?? "somebody"),
        "and",
      ),
    })),
  };
}

/** What a person was told in the last days, and not merely as a follower, and has not looked at. */
export async function readNews(reader: Reader, viewer: Viewer, now: number): Promise<DayNews[]> {
  const rows = await reader
    .select()
    .from(alert)
    .where(and(eq(alert.personId, viewer.personId), isFresh(now)))
    .orderBy(sql`${alert.lastAt} desc`)
    .limit(MOST);
  const telling = await tellingOf(viewer, rows);
  const news = new Map<string, DayNews>();
  for (const { id, itemId } of rows) {
    const { lines = [], why = [] } = telling.get(id) ?? {};
    const last = lines.at(-1);
    if (!last || why.every((one) => one === FOLLOWED)) continue;
    const known = news.get(itemId);
    if (known) known.alertIds.push(id);
    else {
      const { who, words } = last;
      news.set(itemId, { itemId, alertIds: [id], words: who === null ? words : `${who} ${words}` });
    }
  }
  return [...news.values()];
}

const FOLLOWED = standardRule("follows").why;
