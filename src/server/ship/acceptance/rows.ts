import { and, asc, desc, inArray, isNull, sql } from "drizzle-orm";
import { answeredOf, type Answered } from "@/core/ship/acceptance/answer";
import type { SaidOfIt } from "@/core/ship/acceptance/acceptance-view";
import type { Accepted } from "@/core/ship/acceptance/enough";
import { grouped } from "@/core/item/grouped";
import type { Reader } from "@/db/connection";
import { acceptanceAnswer, showing, shownItem } from "@/db/schema";
import { deployedOfItems } from "../presence";

export type ShowingRow = typeof showing.$inferSelect;
export type ShownItemRow = typeof shownItem.$inferSelect;
export type AnswerRow = typeof acceptanceAnswer.$inferSelect;

/** An item as it is shown to somebody, with what they said of it. */
export interface Shown {
  row: ShownItemRow;
  /** The latest first. */
  answers: AnswerRow[];
  answered: Answered;
}

/** Whether it waits for a word. */
export const isWaited = ({ answered }: Pick<Shown, "answered">): boolean =>
  answered === "waits" || answered === "changed since";

/** The commits of some items that are deployed anywhere, by the items' ids. */
export async function deployedCommits(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, string[]>> {
  const deployed = await deployedOfItems(reader, itemIds);
  return new Map([...deployed].map(([itemId, all]) => [itemId, all.map(({ name }) => name)]));
}

/** What is shown by some showings, by their ids, in the order in which it is shown. */
export async function shownBy(
  reader: Reader,
  showingIds: readonly string[],
): Promise<Map<string, Shown[]>> {
  if (showingIds.length === 0) return new Map();
  const some = [...showingIds];
  const rows = await reader
    .select()
    .from(shownItem)
    .where(inArray(shownItem.showingId, some))
    .orderBy(asc(shownItem.position));
  const itemIds = [...new Set(rows.map(({ itemId }) => itemId))];
  const [answers, deployed] = await Promise.all([
    reader
      .select()
      .from(acceptanceAnswer)
      .where(inArray(acceptanceAnswer.showingId, some))
      .orderBy(desc(acceptanceAnswer.at), desc(acceptanceAnswer.id)),
    deployedCommits(reader, itemIds),
  ]);
  const said = grouped(answers, ({ showingId, itemId }) => `${showingId} ${itemId}`);
  return grouped(
    rows.map((row): Shown => {
      const own = said.get(`${row.showingId} ${row.itemId}`) ?? [];
      const answered = answeredOf(own[0] ?? null, deployed.get(row.itemId) ?? []);
      return { row, answers: own, answered };
    }),
    ({ row }) => row.showingId,
  );
}

export interface AcceptedRow extends Accepted {
  /** Whether somebody says that something is missing. */
  missing: boolean;
}

/** To how many some items are shown, and how many accept them as they are now, by the items' ids; every one is in it. */
export async function acceptanceOf(
  reader: Reader,
  itemIds: readonly string[],
): Promise<Map<string, AcceptedRow>> {
  if (itemIds.length === 0) return new Map();
  const showings = await reader
    .selectDistinct({ id: showing.id })
    .from(shownItem)
    .innerJoin(showing, sql`${showing.id} = ${shownItem.showingId}`)
    .where(
      and(
        sql`${shownItem.itemId} = any(${sql.param([...itemIds])}::uuid[])`,
        isNull(showing.revokedAt),
      ),
    );
  const wanted = new Set(itemIds);
  const shown = await shownBy(
    reader,
    showings.map(({ id }) => id),
  );
  const byItem = grouped(
    [...shown.values()].flat().filter(({ row }) => wanted.has(row.itemId)),
    ({ row }) => row.itemId,
  );
  return new Map(
    itemIds.map((itemId) => {
      const own = (byItem.get(itemId) ?? []).map(({ answered }) => answered);
      const given = own.filter((answered) => answered === "accepted").length;
      return [itemId, { asked: own.length, given, missing: own.includes("missing") }];
    }),
  );
}

export const saidOf = ({ accepted, name, words, at, environment, build }: AnswerRow): SaidOfIt => ({
  ...{ accepted, name, words, at, environment, build },
});
