import { and, asc, eq, inArray, isNull, sql } from "drizzle-orm";
import { scoreOf, type Scored, type ScoringModel } from "@/core/intake/scoring";
import { computedFields } from "@/core/item/compute-fields";
import type { OwnField } from "@/core/item/own-field";
import { votesTotal } from "@/core/item/vote";
import { ranksForOrder } from "@/core/item/rank";
import { refuse } from "@/core/workflow/refusal";
import { database, transact, type Reader } from "@/db/connection";
import { item, itemScore, itemType } from "@/db/schema";
import { recordCommand } from "../item/command-key";
import { allThroughDoor } from "../item/door";
import { lockInOrder } from "../item/enter";
import { readVotes } from "../item/votes";
import { loadOwnFields } from "../item/own-fields";
import { ranksAround } from "../item/place";
import type { ItemRow } from "../item/rows";
import { enterProject, seesItem } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound, Refused } from "../refused";
import { loadRules } from "./rules";
import { v7 as newId } from "uuid";
import type { WorthRequest } from "@/core/intake/request";
import type { WorthView } from "@/core/intake/worth-view";

const backlogOf = (reader: Reader, viewer: Viewer, projectId: string) =>
  reader
    .select({ item })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(item.stateKind, "unstarted"),
        isNull(item.withdrawnAt),
        sql`${itemType.level} >= 1`,
        seesItem(reader, viewer),
      ),
    )
    .orderBy(asc(item.rank), asc(item.number));

/** The backlog with what each request is worth, by the project's model. */
export async function readWorth(viewer: Viewer, projectKey: string): Promise<WorthView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { project } = access;
  const [rules, ownFields, rows] = [
    await loadRules(db, project.id),
    await loadOwnFields(db, project.id),
    (await backlogOf(db, viewer, project.id)).map((r) => r.item),
  ];
  const ids = rows.map((r) => r.id);
  const none = ids.length === 0;
  const scores = none
    ? []
    : await db.select().from(itemScore).where(inArray(itemScore.itemId, ids));
  const votes = await readVotes(db, viewer, ids);
  const scoreBy = new Map(scores.map((s) => [s.itemId, s.scores]));
  return {
    project: { id: project.id, key: project.key, name: project.name },
    model: rules.scoring,
    version: rules.version,
    rows: rows.map((row, i) => {
      const request = scoredOf({
        row,
        model: rules.scoring,
        ownFields,
        scores: scoreBy.get(row.id) ?? {},
        votes: votesTotal(votes(row.id)),
      });
      return {
        itemId: row.id,
        key: `${project.key}-${row.number}`,
        title: row.title,
        typeId: row.typeId,
        place: i + 1,
        votes: votes(row.id),
        request,
        parts: scoreOf(rules.scoring, request),
      };
    }),
    numbers: ownFields
      .filter((f) => f.removedAt === null && (f.kind === "number" || f.kind === "computed"))
      .map(({ id, name }) => ({ id, name })),
    maySetModel: access.may("edit workflow"),
    mayScore: access.may("edit item"),
  };
}

function scoredOf({
  row,
  model,
  ownFields,
  scores,
  votes,
}: {
  row: ItemRow;
  model: ScoringModel;
  ownFields: readonly OwnField[];
  scores: Record<string, number>;
  votes: number;
}): Scored {
  const computed = computedFields(ownFields, row);
  const number = (id: string | null) => {
    if (id === null) return null;
    const value = id in computed ? computed[id] : row.own[id];
    return typeof value === "number" ? value : null;
  };
  return {
    id: row.id,
    scores,
    votes,
    estimate: row.estimate,
    valuePerWeek: number(model.valueFieldId),
    weeks: number(model.weeksFieldId),
  };
}

/** Judges a request, or puts the backlog into another order. */
export async function editWorth(
  viewer: Viewer,
  projectKey: string,
  request: WorthRequest,
  now = Date.now(),
): Promise<void> {
  if (request.kind === "reorder") return reorder(viewer, projectKey, request);
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "edit item",
  });
  const [known] = await db
    .select({ id: item.id })
    .from(item)
    .where(
      and(
        eq(item.id, request.itemId),
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        seesItem(db, viewer),
      ),
    );
  if (!known) throw notFound("item");
  const { scoring } = await loadRules(db, project.id);
  for (const [criterionId, value] of Object.entries(request.scores)) {
    const criterion = scoring.criteria.find((c) => c.id === criterionId && c.source === "judged");
    if (!criterion)
      throw invalid(
        "The model has no such criterion.",
        "Reload the page: the model may have changed.",
      );
    if (value > criterion.scale)
      throw invalid(
        `“${criterion.name}” goes from 0 to ${criterion.scale}.`,
        "Choose a number on its scale.",
      );
  }
  const values = { scores: request.scores, byId: viewer.personId, at: now };
  await db
    .insert(itemScore)
    .values({ itemId: known.id, ...values })
    .onConflictDoUpdate({ target: itemScore.itemId, set: values });
}

/**
 * Each item whose place changes gets a new rank through its own history; whoever changed the order
 * meanwhile is not overwritten.
 */
async function reorder(
  viewer: Viewer,
  projectKey: string,
  { commandId, seen, wanted }: Extract<WorthRequest, { kind: "reorder" }>,
): Promise<void> {
  await transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "rank item",
    });
    if (
      !(await recordCommand(tx, commandId, viewer.personId, {
        what: `reorder ${access.project.id}`,
      }))
    )
      return;
    const rows = (await backlogOf(tx, viewer, access.project.id)).map((r) => r.item);
    const same = rows.length === seen.length && rows.every((r, i) => r.id === seen[i]);
    if (!same)
      throw new Refused(
        refuse(
          "conflict",
          "The backlog has changed meanwhile.",
          "Look at it as it is now, then reorder it again.",
        ),
      );
    if (
      new Set(wanted).size !== wanted.length ||
      wanted.length !== seen.length ||
      wanted.some((w) => !seen.includes(w))
    )
      throw invalid("The new order does not hold the same items.", "Reload the page.");
    // What everybody else is about to rank waits: the ranks that are read now are the last ones.
    await lockInOrder(tx, wanted);
    const { rankOf, neighbours } = await ranksAround(tx, wanted);
    const ranks = ranksForOrder(
      wanted.map((id) => ({ id, rank: rankOf.get(id)! })),
      neighbours,
    );
    await allThroughDoor(
      tx,
      viewer,
      [...ranks].map(([itemId, rank]) => ({
        on: { itemId, access },
        commandId: newId(),
        ask: { kind: "prepared", command: { kind: "rank", rank } },
      })),
    );
  });
}
