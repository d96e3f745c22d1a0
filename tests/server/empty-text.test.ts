import { randomUUID } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { EMPTIED } from "@/core/item/event-texts";
import { database } from "@/db/connection";
import { block, comment, item, itemText } from "@/db/schema";
import { checkItems } from "@/server/item/check";
import { emptyText } from "@/server/item/empty-text";
import { historyOf } from "@/server/item/history";
import { readItem } from "@/server/item/read";
import { itemIn, refusalOf, send } from "./setup/board";
import { INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const SECRET = "The key is 4711-tide, do not tell.";
const textOf = async (itemId: string, body: string) => {
  const where = and(eq(itemText.itemId, itemId), eq(itemText.body, body));
  return (await database().select().from(itemText).where(where))[0];
};
const empty = (itemId: string, textId: string, why = "A key was pasted.") =>
  emptyText(INES, { commandId: randomUUID(), itemId, textId, why });

test("no event of the demo's histories holds words; all of them stand in the texts", async () => {
  const found = await database().execute(sql`
    select e.kind, w.word #>> '{}' as word from item_event e
    cross join lateral jsonb_path_query(jsonb_build_array(e.old, case when e.kind in ('created', 'undone') then e.new - 'labels' - 'parts' else e.new end), 'strict $.** ? (@.type() == "string" && @ like_regex " ")') w (word)
    where e.kind <> 'overrode' and coalesce(e.field, '') not in ('labels', 'parts')
      and not (e.kind in ('ticked', 'unticked') and coalesce(e.new, e.old) ->> 'criterion' is null)
      and w.word #>> '{}' not in ('fixed date', 'cannot reproduce', 'relates to', 'came from', 'waits for',
        'test run passed', 'test run failed', 'change opened', 'change merged', 'checks passed', 'checks failed', 'review approved',
        'review sent back', 'checks started', 'work pushed', 'commit reverted', 'commit says done',
        'deployed no more', 'something missing')`);
  expect(found.rows).toEqual([]);
  const [{ n }] = (await database().execute(sql`select count(*)::int as n from item_text`)).rows;
  expect(n).toBeGreaterThan(1000);
});

test("a text is emptied wherever the item says it; the rest stays, and rebuilding says the same", async () => {
  const id = await itemIn(NOOR, "Gate sticks", "Ready");
  await send(NOOR, id, { kind: "edit", seenVersion: 2, changes: { description: SECRET } });
  await send(NOOR, id, { kind: "comment", body: SECRET });
  await send(NOOR, id, { kind: "comment", body: "Something else." });
  await send(NOOR, id, { kind: "block", cause: SECRET, waitingFor: "Ines" });
  const { id: textId } = await textOf(id, SECRET);
  await empty(id, textId);

  const [row] = await database().select().from(item).where(eq(item.id, id));
  expect([row.title, row.description, row.openBlockers[0].cause]).toEqual([
    "Gate sticks",
    EMPTIED,
    EMPTIED,
  ]);
  const bodies = await database()
    .select({ body: comment.body })
    .from(comment)
    .where(eq(comment.itemId, id));
  expect(bodies.map((c) => c.body).sort()).toEqual([EMPTIED, "Something else."]);
  const [blocked] = await database().select().from(block).where(eq(block.itemId, id));
  expect([blocked.cause, blocked.waitingFor]).toEqual([EMPTIED, "Ines"]);
  expect(JSON.stringify(await historyOf(database(), id))).not.toContain("4711-tide");
  expect(JSON.stringify(await readItem(INES, `TIX-${row.number}`))).not.toContain("4711-tide");
  const kept = await database().select().from(itemText).where(eq(itemText.id, textId));
  expect(kept).toMatchObject([{ emptiedBy: "ines", whyEmptied: "A key was pasted." }]);
  expect((await checkItems()).findings).toEqual([]);
});

test("what is empty already is refused, as is a text of another item or no reason", async () => {
  const [id, other] = [await itemIn(NOOR, SECRET, "Ready"), await itemIn(NOOR, "Other", "Ready")];
  const { id: textId } = await textOf(id, SECRET);
  expect(await refusalOf(empty(other, textId))).toBe("not found");
  expect(await refusalOf(empty(id, textId, " "))).toBe("invalid");
  await empty(id, textId);
  expect(await refusalOf(empty(id, textId))).toBe("invalid");
});

test("the database itself refuses any other change of a text", async () => {
  const refusal = (change: string) =>
    database()
      .execute(sql.raw(change))
      .then(
        () => null,
        (error: Error) => String(error.cause),
      );
  expect(await refusal("update item_text set body = 'x'")).toMatch("append-only");
  expect(await refusal("delete from item_text")).toMatch("append-only");
});
