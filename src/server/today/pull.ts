import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import { limitState } from "@/core/board/limit";
import type { Card } from "@/core/board/card";
import type { Instant } from "@/core/calendar/instant";
import { pullMove } from "@/core/plan/pull";
import { pullNext, type Pullable, type Pulled } from "@/core/plan/pull-next";
import type { FlowSummary } from "@/core/flow/summary";
import { paceOf } from "@/core/flow/pace";
import { database } from "@/db/connection";
import { item } from "@/db/schema";
import { enterBacklog, pulledInto } from "../plan/backlog";
import { readFirstWaiting } from "../plan/backlog-rows";
import type { Viewer } from "../people/viewer";
import type { DayProject } from "./ground";

/** So many rows of the backlog are looked at. */
const LOOKED_AT = 50;

/** What a person may pull in a project now, and why nothing, where nothing is to be pulled. */
export async function readPull(
  viewer: Viewer,
  { access }: DayProject,
  { summary, today, now }: { summary: FlowSummary; today: string; now: Instant },
): Promise<{ pull: Pulled[]; noPull: string | null }> {
  if (!access.may("move item")) return { pull: [], noPull: "You may not move items here." };
  const { key, id } = access.project;
  const backlog = await enterBacklog(viewer, key, now);
  const [into, { cards, around }, alike] = await Promise.all([
    pulledInto(backlog, now),
    readFirstWaiting(viewer, backlog),
    doneAlike(viewer, id),
  ]);
  const columns = backlog.columns.map((column) => column.stateIds);
  if (
    into?.limit &&
    into.limit.maxFirm &&
    limitState(into.limit.count + 1, into.limit).kind === "over"
  )
    return {
      pull: [],
      noPull: `${into.column.name} is full: ${into.limit.count} of ${into.limit.max}. Help something on.`,
    };
  const rows = cards.slice(0, LOOKED_AT).map((card): Pullable => {
    const type = backlog.types.find((t) => t.id === card.typeId);
    const workflow = backlog.workflows.find((w) => w.id === type?.workflowId);
    const move = workflow ? pullMove(workflow, card.stateId, columns) : null;
    const { waitsFor = [], waitsForUnseen = 0, waitedFor = [] } = around[card.id] ?? {};
    return {
      card,
      move: move && { verb: move.verb, to: move.to },
      waitsFor: waitsFor.length + waitsForUnseen,
      frees: waitedFor.map((one) => one.key),
      alike: alike(card),
    };
  });
  const [first] = rows;
  const p85 = first ? paceOf(summary.paces, first.card.key).percentiles.p85 : null;
  const pull = pullNext(rows, { personId: viewer.personId, today, p85 });
  const noPull =
    pull.length > 0
      ? null
      : rows.length === 0
        ? "The backlog is empty."
        : "Nothing among the first in the backlog can be taken by you now.";
  return { pull, noPull };
}

/** Done once is chance; from so many on somebody knows such things. */
const KNOWS_AFTER = 2;

/** How many like an item this person has delivered: with the same label. */
async function doneAlike(
  viewer: Viewer,
  projectId: string,
): Promise<(card: Card) => Pullable["alike"]> {
  const label = sql<string>`jsonb_array_elements_text(${item.labels})`;
  const rows = await database()
    .select({ label, count: sql<number>`count(*)::int` })
    .from(item)
    .where(
      and(
        eq(item.projectId, projectId),
        eq(item.assigneeId, viewer.personId),
        isNotNull(item.deliveredAt),
        isNull(item.withdrawnAt),
      ),
    )
    .groupBy(label);
  const done = new Map(rows.map((row) => [row.label, row.count]));
  return ({ labels }) => {
    const [best] = labels
      .map((by) => ({ by, count: done.get(by) ?? 0 }))
      .toSorted((a, b) => b.count - a.count);
    return best && best.count >= KNOWS_AFTER ? best : null;
  };
}
