import { randomUUID } from "node:crypto";
import { and, eq, gt, inArray, isNull, or } from "drizzle-orm";
import { cardOf, type Card } from "@/core/board/card";
import type { ItemCommand } from "@/core/item/command";
import { decide } from "@/core/item/decide";
import { asItWas, lastSteps } from "@/core/item/undo";
import type { Cause } from "@/core/item/event";
import type { EditableFields, ItemSnapshot, LinkKind } from "@/core/item/fields";
import type { Action } from "@/core/people/authorise";
import { limitsWanted } from "@/core/workflow/decide-move";
import { transitionBetween } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import {
  commandRecord,
  item,
  itemEvent,
  itemType,
  itemLink,
  release,
  report,
  reportMessage,
  sprint,
  team,
} from "@/db/schema";
import { lockLimits } from "../board/limited-columns";
import { writeToRequester } from "../mail/write";
import { seesItem, type ProjectAccess } from "../people/access";
import { checkMembers } from "../people/belonging";
import type { Doer, Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { followOthers } from "./follow-others";
import { moveNeeds } from "./move-needs";
import { loadOwnFields, newlyNamed } from "./own-fields";
import { placeInState } from "./place";
import type { CommandRequest } from "./request";
import { eventOf, snapshotOf } from "./rows";
import { lockSeenItem, lockSeenItemByKey } from "./seen-item";
import { storeEvents } from "./store";
import { toldParent } from "./told-parent";
import { undoOthers } from "./undo-others";
import {
  decideNaming,
  decisionContext,
  enterItem,
  NO_COLUMNS,
  workflowOf,
  type ItemSurroundings,
} from "./surroundings";

const ACTION_OF: Record<CommandRequest["kind"], Action> = {
  move: "move item",
  edit: "edit item",
  place: "rank item",
  "put under": "edit item",
  comment: "comment item",
  ask: "comment item",
  block: "block item",
  lift: "block item",
  link: "link item",
  unlink: "link item",
  tick: "move item",
  approve: "move item",
  undo: "edit item",
};

export interface CommandResult {
  card: Card;
  /** False when this command had been carried out before and nothing was done now. */
  fresh: boolean;
}

/**
 * Carries out a command on an item: authorise, lock, ask the core, store, in one transaction.
 * @throws Refused with the core's refusal, or when the person may not do it
 */
export async function commandItem(
  viewer: Viewer,
  request: { commandId: string; itemId: string; command: CommandRequest },
): Promise<CommandResult> {
  return transact(async (tx) => {
    const surroundings = await enterItem(
      tx,
      viewer,
      request.itemId,
      ACTION_OF[request.command.kind],
    );
    const { access } = surroundings;
    const before = await lockItem(tx, request.itemId);
    if (
      !(await recordCommand(tx, request.commandId, viewer.personId, {
        itemId: before.id,
        what: `${request.command.kind} ${before.id}`,
      }))
    )
      return {
        card: await toldParent(tx, viewer, cardOf(before, access.project.key)),
        fresh: false,
      };
    const after = await decideAndStore(
      tx,
      viewer,
      surroundings,
      before,
      request.commandId,
      request.command,
    );
    return { card: await toldParent(tx, viewer, cardOf(after, access.project.key)), fresh: true };
  });
}

/**
 * Takes a command's idempotency key. False when it was taken before for the same; a key that was
 * used for something else, or by somebody else, is refused.
 * @param what the kind of the command and what it is about
 */
export async function recordCommand(
  tx: Transaction,
  id: string,
  actorId: string | null,
  { itemId = null, what }: { itemId?: string | null; what: string },
): Promise<boolean> {
  const taken = await tx
    .insert(commandRecord)
    .values({ id, actorId, at: Date.now(), itemId, what })
    .onConflictDoNothing()
    .returning({ id: commandRecord.id });
  if (taken.length > 0) return true;
  const [known] = await tx.select().from(commandRecord).where(eq(commandRecord.id, id));
  if (
    known.actorId !== actorId ||
    (itemId !== null && known.itemId !== itemId) ||
    (known.what !== null && known.what !== what)
  )
    throw invalid(
      "This command key was used for something else.",
      "Send the command again with a new key.",
    );
  return false;
}

/** What made a command, where it was not a person who gave it. */
export interface Made {
  cause: Cause;
  because?: string;
  /** How many moves in a row happened by themselves. */
  depth?: number;
}

/**
 * Decides on a command with all that it needs to know, and stores what comes of it, in the caller's
 * transaction.
 */
export async function decideAndStore(
  tx: Transaction,
  viewer: Doer,
  surroundings: ItemSurroundings,
  before: ItemSnapshot,
  commandId: string,
  request: CommandRequest,
  made: Made = { cause: request.kind === "undo" ? "undo" : "person" },
): Promise<ItemSnapshot> {
  const { access } = surroundings;
  if (request.kind === "link" || request.kind === "unlink")
    return relate(tx, viewer, surroundings, before, commandId, request);
  const command = await commandOf(tx, viewer, access, before, request);
  const target =
    command.kind === "move"
      ? command.to
      : command.kind === "undo"
        ? undoTarget(command, before)
        : null;
  const transition =
    command.kind === "move"
      ? transitionBetween(surroundings.workflow, before.stateId, command.to)
      : undefined;
  const editsOwn =
    command.kind === "edit" && command.own !== undefined && Object.keys(command.own).length > 0;
  if (command.kind === "edit")
    await checkReferences(tx, access.project.id, command.changes, before);
  if (command.kind === "move")
    await checkReferences(tx, access.project.id, command.answers, before);
  const columns = target
    ? await lockLimits(tx, {
        project: access.project,
        workflow: surroundings.workflow,
        before,
        to: target,
        wanted: limitsWanted(transition),
        now: Date.now(),
      })
    : NO_COLUMNS;
  const changedSince =
    command.kind === "edit" && command.seenVersion < before.version
      ? await fieldsChangedSince(tx, before.id, command.seenVersion)
      : [];
  const needs = await moveNeeds(tx, viewer, access, before, transition);
  if (editsOwn) needs.ownFields = await loadOwnFields(tx, access.project.id);
  if (command.kind === "edit" || command.kind === "move")
    await checkMembers(
      tx,
      access.project.id,
      newlyNamed(
        needs.ownFields,
        (command.kind === "edit" ? command.own : command.answers.own) ?? {},
        before.own,
      ),
    );
  const { cause } = made;
  if (command.kind === "move") command.because = made.because;
  if (command.kind === "move" && transition?.followUps.some((f) => f.kind === "put on top"))
    command.rank = await placeInState(tx, viewer, command.to, "first");
  const events = await decideNaming(tx, access.project.id, (naming) =>
    decide(
      before,
      command,
      decisionContext(viewer, surroundings, before, commandId, needs, naming, {
        columns,
        changedSince,
        cause,
      }),
    ),
  );
  const after = await storeEvents(tx, before, events, made.depth);
  if (request.kind === "ask") await askRequester(tx, viewer, after, request.body);
  if (request.kind === "undo")
    await undoOthers(tx, viewer, access, before.id, request.commandId, commandId);
  if (transition)
    await followOthers(tx, viewer, surroundings, after, transition, commandId, made.depth ?? 0);
  return after;
}

/** The state that undoing leads back to, where it is another. */
function undoTarget(
  { history, undoneId }: Extract<ItemCommand, { kind: "undo" }>,
  now: ItemSnapshot,
): string | null {
  const was = asItWas(history, lastSteps(history, undoneId));
  return was && was.stateId !== now.stateId ? was.stateId : null;
}

async function commandOf(
  tx: Transaction,
  viewer: Doer,
  access: ProjectAccess,
  before: ItemSnapshot,
  request: Exclude<CommandRequest, { kind: "link" | "unlink" }>,
): Promise<ItemCommand> {
  switch (request.kind) {
    case "place":
      if (request.below === before.id) return { kind: "rank", rank: before.rank };
      return {
        kind: "rank",
        rank: await placeInState(
          tx,
          viewer,
          before.stateId,
          request.below === null ? "first" : { itemId: request.below },
        ),
      };
    case "put under":
      return {
        kind: "put under",
        ...(await parentsOf(tx, viewer, access, before, request.parentKey)),
      };
    case "comment":
      return { ...request, commentId: randomUUID() };
    case "ask":
      return { kind: "comment", body: request.body, commentId: randomUUID() };
    case "block":
      return { ...request, blockId: randomUUID() };
    case "undo": {
      const rows = await tx
        .select()
        .from(itemEvent)
        .where(eq(itemEvent.itemId, before.id))
        .orderBy(itemEvent.seq);
      return { kind: "undo", undoneId: request.commandId, history: rows.map(eventOf) };
    }
    case "move":
      return { ...request, commentId: randomUUID() };
    case "edit":
    case "lift":
    case "tick":
    case "approve":
      return request;
  }
}

/** The item to stand under, which must be of a higher level, and the one it stands under now. */
async function parentsOf(
  tx: Transaction,
  viewer: Doer,
  access: ProjectAccess,
  before: ItemSnapshot,
  parentKey: string | null,
): Promise<{ parent: ParentKey | null; before: ParentKey | null }> {
  const keyed = (s: { id: string; number: number }): ParentKey => ({
    parentId: s.id,
    key: `${access.project.key}-${s.number}`,
  });
  // Under one that they may not see it stands, for them, under none.
  const [now] = before.parentId
    ? await tx
        .select({ id: item.id, number: item.number })
        .from(item)
        .where(and(eq(item.id, before.parentId), seesItem(tx, viewer)))
    : [];
  if (parentKey === null) return { parent: null, before: now ? keyed(now) : null };
  const parent = await lockSeenItemByKey(tx, viewer, access, parentKey);
  const levels = new Map(
    (
      await tx
        .select({ id: itemType.id, level: itemType.level })
        .from(itemType)
        .where(eq(itemType.projectId, access.project.id))
    ).map((t) => [t.id, t.level]),
  );
  if (parent.withdrawnAt !== null) throw notFound("item");
  if ((levels.get(parent.typeId) ?? 0) <= (levels.get(before.typeId) ?? 0))
    throw invalid(
      `${parentKey.toUpperCase()} is no larger piece of work than this one.`,
      "An item stands under one of a higher level: a task under a story, a story under a feature.",
    );
  return { parent: keyed(parent), before: now ? keyed(now) : null };
}

interface ParentKey {
  parentId: string;
  key: string;
}

async function fieldsChangedSince(
  tx: Transaction,
  itemId: string,
  version: number,
): Promise<string[]> {
  const rows = await tx
    .select({ field: itemEvent.field, new: itemEvent.new })
    .from(itemEvent)
    .where(
      and(
        eq(itemEvent.itemId, itemId),
        gt(itemEvent.seq, version),
        inArray(itemEvent.kind, ["changed", "own changed", "undone"]),
      ),
    );
  return rows.flatMap((r) => r.field ?? restoredFields(r.new as Partial<ItemSnapshot>));
}

/** The fields that an undone step brought back, own ones by their ids. */
const restoredFields = (was: Partial<ItemSnapshot>): string[] => [
  ...Object.keys(was),
  ...Object.keys(was.own ?? {}),
];

/**
 * People, teams and types that a change names must exist, and a type must keep the item in its
 * workflow.
 */
export async function checkReferences(
  tx: Transaction,
  projectId: string,
  changes: Partial<EditableFields>,
  before: ItemSnapshot | null,
): Promise<void> {
  await checkMembers(tx, projectId, [
    before?.assigneeId === changes.assigneeId ? null : changes.assigneeId,
    before?.reviewerId === changes.reviewerId ? null : changes.reviewerId,
  ]);
  if (typeof changes.teamId === "string") {
    const [known] = await tx.select().from(team).where(eq(team.id, changes.teamId));
    if (!known) throw invalid("There is no such team.", "Choose one from the list.");
  }
  await checkBoxes(tx, projectId, changes);
  if (changes.typeId !== undefined) {
    const wanted = await workflowOf(tx, projectId, changes.typeId);
    if (before && !wanted.states.some((s) => s.id === before.stateId))
      throw invalid(
        "Items of that type follow another workflow.",
        "Choose a type with the same workflow.",
      );
  }
}

/**
 * A question to whoever reported the item: it goes to them by mail, stands on their private page,
 * and waits for an answer.
 */
async function askRequester(
  tx: Transaction,
  viewer: Doer,
  asked: ItemSnapshot,
  body: string,
): Promise<void> {
  const reports = await tx.select().from(report).where(eq(report.itemId, asked.id));
  if (reports.length === 0)
    throw invalid("Nobody outside has reported this item.", "Write a comment instead.");
  await tx.insert(reportMessage).values(
    reports.map(({ id }) => ({
      reportId: id,
      kind: "question" as const,
      body: body.trim(),
      authorId: viewer.personId,
      at: asked.updatedAt,
    })),
  );
  for (const row of reports)
    await writeToRequester(
      tx,
      row,
      { kind: "question", text: body.trim(), at: asked.updatedAt },
      { now: asked.updatedAt },
    );
}

/** A sprint or a release that a change names must be one of the project's. */
async function checkBoxes(
  tx: Transaction,
  projectId: string,
  { sprintId, releaseId }: Partial<EditableFields>,
): Promise<void> {
  for (const [id, table, what] of [
    [sprintId, sprint, "sprint"],
    [releaseId, release, "release"],
  ] as const) {
    if (typeof id !== "string") continue;
    const [known] = await tx
      .select({ id: table.id })
      .from(table)
      .where(and(eq(table.id, id), eq(table.projectId, projectId), isNull(table.removedAt)));
    if (!known) throw invalid(`There is no such ${what}.`, "Choose one from the list.");
  }
}

async function relate(
  tx: Transaction,
  viewer: Doer,
  surroundings: ItemSurroundings,
  before: ItemSnapshot,
  commandId: string,
  request: Extract<CommandRequest, { kind: "link" | "unlink" }>,
): Promise<ItemSnapshot> {
  const { access } = surroundings;
  const [link] =
    request.kind === "unlink"
      ? await tx.select().from(itemLink).where(eq(itemLink.id, request.linkId))
      : [];
  if (
    request.kind === "unlink" &&
    (!link || (link.fromItemId !== before.id && link.toItemId !== before.id))
  )
    throw notFound("link");
  const other = link
    ? await lockSeenItem(
        tx,
        viewer,
        access.project.id,
        link.fromItemId === before.id ? link.toItemId : link.fromItemId,
        "link",
      )
    : await lockSeenItemByKey(tx, viewer, access, request.kind === "link" ? request.otherKey : "");
  const outward = link ? link.fromItemId === before.id : true;
  if (request.kind === "link") await checkNewLink(tx, before.id, other.id, request.linkKind);
  const linkKind = link ? link.kind : (request as { linkKind: "duplicates" }).linkKind;
  const linkId = link ? link.id : randomUUID();
  const keyOf = (s: ItemSnapshot) => `${access.project.key}-${s.number}`;
  const both = [
    {
      one: before,
      command: {
        kind: request.kind,
        linkId,
        linkKind,
        otherId: other.id,
        otherKey: keyOf(other),
        outward,
      },
    },
    {
      one: other,
      command: {
        kind: request.kind,
        linkId,
        linkKind,
        otherId: before.id,
        otherKey: keyOf(before),
        outward: !outward,
      },
    },
  ];
  let result = before;
  for (const { one, command } of both) {
    const needs = await moveNeeds(tx, viewer, access, one, undefined);
    const events = await decideNaming(tx, access.project.id, (naming) =>
      decide(one, command, decisionContext(viewer, surroundings, one, commandId, needs, naming)),
    );
    const after = await storeEvents(tx, one, events);
    if (one === before) result = after;
  }
  return result;
}

/** Both ends are locked: nobody else makes the same link meanwhile. */
async function checkNewLink(
  tx: Transaction,
  fromId: string,
  toId: string,
  kind: LinkKind,
): Promise<void> {
  const there = and(eq(itemLink.fromItemId, fromId), eq(itemLink.toItemId, toId));
  const back = and(eq(itemLink.fromItemId, toId), eq(itemLink.toItemId, fromId));
  const [known] = await tx
    .select({ id: itemLink.id })
    .from(itemLink)
    .where(and(eq(itemLink.kind, kind), kind === "relates to" ? or(there, back) : there));
  if (known)
    throw invalid(
      "The two are linked like this already.",
      "Take the link away first, or choose another kind.",
    );
}

export async function lockItem(tx: Transaction, id: string): Promise<ItemSnapshot> {
  const [row] = await tx.select().from(item).where(eq(item.id, id)).for("update");
  if (!row) throw notFound("item");
  return snapshotOf(row);
}
