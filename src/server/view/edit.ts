import { and, eq, gt, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { refuse } from "@/core/workflow/refusal";
import { storedLook, type Look } from "@/core/view/look";
import { VIEW_PARTS, type Sharing, type ViewPart, type ViewRequest } from "@/core/view/view";
import { transact, type Transaction } from "@/db/connection";
import { namedCondition, person, view, viewChange, viewFold, viewUse } from "@/db/schema";
import { announce } from "../events/announce";
import { enterGround, type Ground } from "../across/ground";
import type { Viewer } from "../people/viewer";
import { invalid, notAllowed, notFound, Refused } from "../refused";
import { mayChangeView, ownerGone, sharingOf } from "./read";

/** So many views of their own a person keeps in a project, and so many the project. */
const MOST_VIEWS = 100;
const MOST_NAMED = 40;

interface Editing {
  tx: Transaction;
  ground: Ground;
  viewer: Viewer;
  now: number;
}

/** Makes, changes, orders and puts away the views of a project, and names conditions. */
export async function editViews(
  viewer: Viewer,
  key: string,
  request: ViewRequest,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const ground = await enterGround(tx, viewer, key, "keep view");
    await edit({ tx, ground, viewer, now }, request);
    // What a person likes, or has folded, is nobody else's news.
    if (request.kind !== "favourite" && request.kind !== "fold")
      await announce(tx, ground.projects[0].project.id, { kind: "views changed", data: {} }, now);
  });
}

function edit(editing: Editing, request: ViewRequest): Promise<void> {
  switch (request.kind) {
    case "make":
      return makeView(editing, request);
    case "change":
      return changeView(editing, request);
    case "put away":
    case "bring back":
      return putAway(editing, request.id, request.kind === "put away");
    case "favourite":
      return turnFavourite(editing, request.id, request.on);
    case "fold":
      return storeFolds(editing, request);
    case "frame":
      return orderFrame(editing, request.ids);
    case "name condition":
      return nameCondition(editing, request);
    case "unname condition":
      return unnameCondition(editing, request.id);
  }
}

/** The place is a view or a board; of one that is gone nothing is asked any more. */
async function storeFolds(
  { tx, ground, viewer }: Editing,
  { place, folds }: Extract<ViewRequest, { kind: "fold" }>,
): Promise<void> {
  const row = { personId: viewer.personId, groundId: ground.id, place };
  await tx
    .insert(viewFold)
    .values({ ...row, folds })
    .onConflictDoUpdate({
      target: [viewFold.personId, viewFold.groundId, viewFold.place],
      set: { folds },
    });
}

/** What a view of one kind says of whose it is. @throws Refused when somebody may not make such */
function ownership(sharing: Sharing, { ground, viewer }: Editing) {
  if (sharing === "project" && !ground.may("edit board"))
    throw notAllowed("changing views of the project");
  if (sharing === "shown" && !ground.may("share view")) throw notAllowed("showing views to others");
  return {
    ownerId: sharing === "project" ? null : viewer.personId,
    shown: sharing !== "mine",
  };
}

async function makeView(
  editing: Editing,
  { id, name, sharing, look }: Extract<ViewRequest, { kind: "make" }>,
): Promise<void> {
  const { tx, ground, now } = editing;
  const owned = ownership(sharing, editing);
  const [{ n }] = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(view)
    .where(
      and(
        eq(view.groundId, ground.id),
        isNull(view.putAwayAt),
        owned.ownerId === null ? isNull(view.ownerId) : eq(view.ownerId, owned.ownerId),
      ),
    );
  if (n >= MOST_VIEWS)
    throw invalid(`Nobody keeps more than ${MOST_VIEWS} views.`, "Put one away that is not used.");
  // The id is made by whoever asks, so asking twice makes one.
  await tx
    .insert(view)
    .values({ id, groundId: ground.id, name, ...owned, look, version: 1, madeAt: now })
    .onConflictDoNothing();
}

/** The row of a view, locked. @throws Refused where there is none that this person may change */
async function lockView({ tx, ground, viewer }: Editing, id: string, away = false) {
  const [found] = await tx
    .select({ row: view, gone: ownerGone })
    .from(view)
    .where(
      and(
        eq(view.id, id),
        eq(view.groundId, ground.id),
        away ? isNotNull(view.putAwayAt) : isNull(view.putAwayAt),
      ),
    )
    .for("update", { of: view });
  const seen =
    found &&
    (found.row.ownerId === null || found.row.shown || found.row.ownerId === viewer.personId);
  if (!seen) throw notFound("view");
  if (!mayChangeView({ ...found.row, gone: found.gone }, viewer, ground))
    throw notAllowed("changing this view");
  return found.row;
}

/** What a view says in each of its parts. */
const partsOf = (row: typeof view.$inferSelect): Record<ViewPart, unknown> => ({
  ...storedLook(row.look),
  name: row.name,
  sharing: sharingOf(row),
});

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Changes parts of a view. Where somebody else changed other parts meanwhile, both changes hold;
 * where they changed the same one to something else, nothing is stored and it is said.
 */
async function changeView(
  editing: Editing,
  { id, version, changes }: Extract<ViewRequest, { kind: "change" }>,
): Promise<void> {
  const { tx, viewer, now } = editing;
  const row = await lockView(editing, id);
  const current = partsOf(row);
  const changed = VIEW_PARTS.filter(
    (part) => changes[part] !== undefined && !same(changes[part], current[part]),
  );
  if (changed.length === 0) return;
  const clash = await clashOf(tx, row.id, version, changed);
  if (clash) throw changedMeanwhile(row, clash, current);
  const { name = row.name, sharing, ...looks } = changes;
  const owned =
    sharing === undefined || sharing === sharingOf(row) ? {} : given(row, sharing, editing);
  await tx
    .update(view)
    .set({
      name,
      look: { ...storedLook(row.look), ...(looks as Partial<Look>) },
      version: row.version + 1,
      ...owned,
    })
    .where(eq(view.id, id));
  await tx.insert(viewChange).values({
    viewId: id,
    version: row.version + 1,
    changedBy: viewer.personId,
    changedAt: now,
    before: Object.fromEntries(changed.map((part) => [part, current[part]])),
  });
}

/** A view given to others or taken to oneself: what is one's own alone stands in no frame. */
function given(row: typeof view.$inferSelect, sharing: Sharing, editing: Editing) {
  const owned = ownership(sharing, editing);
  return { ...owned, place: sharing === "mine" ? null : row.place };
}

interface Clash {
  by: string;
  parts: ViewPart[];
}

/** Who else changed one of these parts since a version; null where nobody did. */
async function clashOf(
  tx: Transaction,
  viewId: string,
  seen: number,
  changed: readonly ViewPart[],
): Promise<Clash | null> {
  const meanwhile = await tx
    .select({ before: viewChange.before, by: person.name })
    .from(viewChange)
    .innerJoin(person, eq(person.id, viewChange.changedBy))
    .where(and(eq(viewChange.viewId, viewId), gt(viewChange.version, seen)));
  for (const { before, by } of meanwhile) {
    const parts = changed.filter((part) => part in before);
    if (parts.length > 0) return { by, parts };
  }
  return null;
}

/** That somebody else changed the same of a view, with what stands there now. */
const changedMeanwhile = (
  { name, version }: typeof view.$inferSelect,
  { by, parts }: Clash,
  current: Record<ViewPart, unknown>,
): Refused =>
  new Refused({
    ...refuse(
      "conflict",
      `${by} changed the same of “${name}” meanwhile.`,
      "Look at what it is now, or keep yours as another view. Yours is still here.",
    ),
    conflict: parts.map((part) => ({ field: part, current: current[part] })),
    version,
  });

/** What is put away can be brought back; its links say what it was. */
async function putAway(editing: Editing, id: string, away: boolean): Promise<void> {
  const row = await lockView(editing, id, !away);
  await editing.tx
    .update(view)
    .set(
      away
        ? { putAwayAt: editing.now, putAwayBy: editing.viewer.personId, place: null }
        : { putAwayAt: null, putAwayBy: null },
    )
    .where(eq(view.id, row.id));
}

async function turnFavourite({ tx, ground, viewer }: Editing, id: string, on: boolean) {
  const [seen] = await tx
    .select({ ownerId: view.ownerId, shown: view.shown })
    .from(view)
    .where(and(eq(view.id, id), eq(view.groundId, ground.id)));
  if (!seen || (seen.ownerId !== null && !seen.shown && seen.ownerId !== viewer.personId))
    throw notFound("view");
  await tx
    .insert(viewUse)
    .values({ viewId: id, personId: viewer.personId, favourite: on })
    .onConflictDoUpdate({
      target: [viewUse.viewId, viewUse.personId],
      set: { favourite: on },
    });
}

/** The views of everybody's frame, in their order: those that everybody sees. */
async function orderFrame({ tx, ground }: Editing, ids: readonly string[]): Promise<void> {
  if (!ground.may("edit board")) throw notAllowed("choosing the views of the frame");
  const { id: groundId } = ground;
  const shared = and(eq(view.groundId, groundId), isNull(view.putAwayAt), eq(view.shown, true));
  const known =
    ids.length === 0
      ? []
      : await tx
          .select({ id: view.id })
          .from(view)
          .where(and(inArray(view.id, [...ids]), shared))
          .orderBy(view.id)
          .for("update");
  if (known.length < new Set(ids).size)
    throw invalid("One of these views is seen by its owner alone, or is gone.", "Reload the page.");
  await tx
    .update(view)
    .set({ place: null })
    .where(and(eq(view.groundId, groundId), isNotNull(view.place)));
  for (const [place, id] of ids.entries())
    await tx.update(view).set({ place }).where(eq(view.id, id));
}

async function nameCondition(
  { tx, ground }: Editing,
  { id, name, condition }: Extract<ViewRequest, { kind: "name condition" }>,
): Promise<void> {
  if (!ground.may("edit board")) throw notAllowed("naming conditions of the project");
  const { id: groundId } = ground;
  const others = await tx
    .select({ id: namedCondition.id, name: namedCondition.name, position: namedCondition.position })
    .from(namedCondition)
    .where(eq(namedCondition.groundId, groundId));
  if (others.some((other) => other.id !== id && other.name.toLowerCase() === name.toLowerCase()))
    throw invalid(`There is a condition “${name}” already.`, "Choose another name.");
  const known = others.some((other) => other.id === id);
  if (!known && others.length >= MOST_NAMED)
    throw invalid(`A project names at most ${MOST_NAMED} conditions.`, "Take one out first.");
  const position = 1 + Math.max(-1, ...others.map((other) => other.position));
  await tx
    .insert(namedCondition)
    .values({ id, groundId, name, condition, position })
    .onConflictDoUpdate({
      target: namedCondition.id,
      set: { name, condition },
      setWhere: eq(namedCondition.groundId, groundId),
    });
}

async function unnameCondition({ tx, ground }: Editing, id: string): Promise<void> {
  if (!ground.may("edit board")) throw notAllowed("naming conditions of the project");
  await tx
    .delete(namedCondition)
    .where(and(eq(namedCondition.id, id), eq(namedCondition.groundId, ground.id)));
}
