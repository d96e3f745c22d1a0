import { and, inArray } from "drizzle-orm";
import type { ColumnLimit } from "@/core/board/limit";
import type { HeldLimit } from "@/core/board/keep-limits";
import { mattersForLimits, weightIn, type CountingBy } from "@/core/board/limited";
import { holds } from "@/core/condition/evaluate";
import { computedFields } from "@/core/item/compute-fields";
import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { applyEvent } from "@/core/item/snapshot";
import { asksLimits, withinLimits, type Decided } from "@/core/item/within-limits";
import { limitMode } from "@/core/workflow/decide-move";
import { isRefusal, type Refusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { state } from "@/db/schema";
import { namedSql } from "@/db/statement";
import { countLimits } from "../board/count-limits";
import { limitsTouching, type LoadedLimit } from "../board/covering-limits";
import { projectAsker } from "../condition/asker";
import { askedFor } from "../condition/asked-items";
import type { ProjectAccess } from "../people/access";
import type { Principal } from "../people/viewer";
import type { Entered } from "./errand";
import { remembered } from "../remembered";
import { noteWeight, type LimitBook } from "./limit-book";

/**
 * Holds what a command came to against the limits that it changes something for: whatever it
 * changes, where the item is, whose, how large or of which class. Firm ones are locked first, in the
 * order of their ids, so that nobody else can change their count until the change is stored.
 * @param book what is known of limits from the errands before it
 */
export async function keepItemLimits({
  tx,
  by,
  entered,
  book,
  asked,
}: {
  tx: Transaction;
  by: Principal;
  entered: Entered;
  book: LimitBook;
  asked: Omit<Decided, "after">;
}): Promise<ItemEvent[] | Refusal> {
  const { events, command, transition } = asked;
  const { before, access } = entered;
  if (events.length === 0 || !asksLimits(command)) return [...events];
  const after = events.reduce<ItemSnapshot | null>(applyEvent, before)!;
  if (!mattersForLimits(before, after)) return [...events];
  const limits = await limitsOf(tx, before ? [before, after] : [after], book);
  if (limits.length === 0) return [...events];
  const weights = await weightsOf(tx, entered, { before, after, book }, limits);
  const touched = limits.flatMap((limit, i) =>
    mayBreak(limit, weights[i]) ? [{ limit, ...weights[i] }] : [],
  );
  const mode = limitMode(transition);
  const all = mode !== null && mode !== "ignore";
  const held = await countHeld(
    tx,
    access.project,
    await lockFirm(tx, { touched, all, book }),
    book,
  );
  const mayOverride = by.personId !== null && access.may("override limit");
  const kept = withinLimits({ ...asked, after }, held, mayOverride);
  if (!isRefusal(kept))
    for (const [i, { was, becomes }] of weights.entries())
      noteWeight(book, limits[i].id, becomes - was);
  return kept;
}

/** The limits on where an item is, and of those who have it. */
function limitsOf(
  tx: Transaction,
  both: readonly ItemSnapshot[],
  book: LimitBook,
): Promise<LoadedLimit[]> {
  const states = [...new Set(both.map((one) => one.stateId))];
  const hands = both.flatMap(({ assigneeId, reviewerId }) => [assigneeId, reviewerId]);
  const people = [...new Set(hands.filter((id) => id !== null))];
  return remembered(book.touching, JSON.stringify([states, people]), () =>
    limitsTouching(tx, states, people),
  );
}

/** What counts against limits before a change. */
async function countHeld(
  tx: Transaction,
  project: ProjectAccess["project"],
  touched: readonly Touched[],
  { counts, unstored }: LimitBook,
): Promise<HeldLimit[]> {
  const unknown = touched.flatMap(({ limit }) => (counts.has(limit.id) ? [] : [limit]));
  const now = Date.now();
  for (const [id, { count }] of await countLimits({ reader: tx, project, limits: unknown, now }))
    counts.set(id, count + (unstored.get(id) ?? 0));
  return touched.map((one) => ({ ...one, count: counts.get(one.limit.id)! }));
}

/**
 * Whether a change of what an item counts for can break a limit: one that makes nothing worse can
 * not, and asks for no lock and no count.
 */
const mayBreak = ({ min, max }: LoadedLimit, { was, becomes }: Weights): boolean =>
  (max !== null && becomes > was) || (min !== null && becomes < was);

type Weights = Pick<HeldLimit, "was" | "becomes">;

interface Change {
  before: ItemSnapshot | null;
  after: ItemSnapshot;
}

const LOCK = namedSql<ColumnLimit & { id: string }>(
  "lock limits",
  `select id, min, max, min_firm as "minFirm", max_firm as "maxFirm" from wip_limit
  where id = any($1::uuid[]) and valid_to is null order by id for update`,
);

type Touched = Omit<HeldLimit, "count"> & { limit: LoadedLimit };

/**
 * Locks limits that are firm, or all of them; what they say is read again, since it may have changed
 * while this waited.
 */
async function lockFirm(
  tx: Transaction,
  { touched, all, book }: { touched: readonly Touched[]; all: boolean; book: LimitBook },
): Promise<Touched[]> {
  const { locked } = book;
  const wanted = touched.filter(({ limit }) => all || limit.maxFirm || limit.minFirm);
  const ids = wanted.flatMap(({ limit }) => (locked.has(limit.id) ? [] : [limit.id]));
  if (ids.length > 0) {
    const rows = await LOCK(tx, [ids]);
    for (const id of ids) locked.set(id, rows.find((row) => row.id === id) ?? null);
  }
  return touched.flatMap((one) => {
    if (!wanted.includes(one)) return [one];
    const bounds = locked.get(one.limit.id);
    return bounds ? [{ ...one, limit: { ...one.limit, ...bounds } }] : [];
  });
}

const LEVELS = namedSql<{ id: string; level: number }>(
  "the levels of the types of a project",
  "select id, level from item_type where project_id = $1",
);

async function levelsOf(tx: Transaction, projectId: string): Promise<ReadonlyMap<string, number>> {
  const types = await LEVELS(tx, [projectId]);
  return new Map(types.map(({ id, level }) => [id, level]));
}

/** What an item counts for against some limits before and after a change. */
async function weightsOf(
  tx: Transaction,
  { access }: Entered,
  { before, after, book }: Change & { book: LimitBook },
  limits: readonly LoadedLimit[],
): Promise<Weights[]> {
  const reviewed = await byReviewer(tx, before ? [before, after] : [after], limits);
  const countingIn = async (projectId: string): Promise<CountingBy> => {
    const levels = await remembered(book.levels, projectId, () => levelsOf(tx, projectId));
    const { defaultSize } = access.project;
    return { levelOf: (typeId) => levels.get(typeId), byReviewer: reviewed, defaultSize };
  };
  const becomes = await countingIn(after.projectId);
  const was = before === null ? becomes : await countingIn(before.projectId);
  const inScope = await scopeReader(tx, access.project, { before, after }, limits);
  return limits.map((limit) => ({
    was: before && inScope(limit, "before") ? weightIn(limit, before, was) : 0,
    becomes: inScope(limit, "after") ? weightIn(limit, after, becomes) : 0,
  }));
}

/** Which of the states of an item the reviewer works in; only the limits of people ask that. */
async function byReviewer(
  tx: Transaction,
  items: readonly ItemSnapshot[],
  limits: readonly LoadedLimit[],
): Promise<ReadonlySet<string>> {
  if (!limits.some(({ ownerKind }) => ownerKind === "person")) return new Set();
  const ids = items.map(({ stateId }) => stateId);
  const rows = await tx
    .select({ id: state.id })
    .from(state)
    .where(and(inArray(state.id, ids), state.byReviewer));
  return new Set(rows.map(({ id }) => id));
}

/** Whether an item is in the scope of a limit's board, as it was and as it will be. */
async function scopeReader(
  tx: Transaction,
  project: { id: string; zone: string },
  { before, after }: Change,
  limits: readonly LoadedLimit[],
): Promise<(limit: LoadedLimit, when: "before" | "after") => boolean> {
  if (limits.every(({ scope }) => scope === null)) return () => true;
  const asker = await projectAsker(tx, project, Date.now());
  const scopes = limits.flatMap(({ scope }) => scope ?? []);
  const [asked] = await askedFor(scopes, tx, [before ?? after], asker.ownFields);
  const then = {
    ...asked,
    item: after,
    everIn: [...asked.everIn, after.stateId],
    computed: computedFields(asker.ownFields ?? [], after),
  };
  return ({ scope }, when) =>
    scope === null || holds(scope, when === "before" ? asked : then, asker);
}
