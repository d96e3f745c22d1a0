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
import type { Refusal } from "@/core/workflow/refusal";
import type { Transaction } from "@/db/connection";
import { state } from "@/db/schema";
import { namedSql } from "@/db/statement";
import { countLimits } from "../board/count-limits";
import { limitsTouching, type LoadedLimit } from "../board/covering-limits";
import { projectAsker } from "../condition/asker";
import { askedItem } from "../condition/asked-items";
import type { Principal } from "../people/viewer";
import type { Entered } from "./errand";

/**
 * Holds what a command came to against the limits that it changes something for: whatever it
 * changes, where the item is, whose, how large or of which class. Firm ones are locked first, in the
 * order of their ids, so that nobody else can change their count until the change is stored.
 */
export async function keepItemLimits(
  tx: Transaction,
  by: Principal,
  entered: Entered,
  asked: Omit<Decided, "after">,
): Promise<ItemEvent[] | Refusal> {
  const { events, command, transition } = asked;
  const { before, access } = entered;
  if (events.length === 0 || !asksLimits(command)) return [...events];
  const after = events.reduce<ItemSnapshot | null>(applyEvent, before)!;
  if (!mattersForLimits(before, after)) return [...events];
  const both = before ? [before, after] : [after];
  const limits = await limitsTouching(
    tx,
    [...new Set(both.map((one) => one.stateId))],
    [...new Set(both.flatMap(({ assigneeId, reviewerId }) => [assigneeId, reviewerId]))].filter(
      (id) => id !== null,
    ),
  );
  if (limits.length === 0) return [...events];
  const weights = await weightsOf(tx, entered, { before, after }, limits);
  const touched = limits.flatMap((limit, i) =>
    mayBreak(limit, weights[i]) ? [{ limit, ...weights[i] }] : [],
  );
  if (touched.length === 0) return [...events];
  const mode = limitMode(transition);
  const locked = await lockFirm(tx, touched, mode !== null && mode !== "ignore");
  const counts = await countLimits({
    reader: tx,
    project: access.project,
    limits: locked.map(({ limit }) => limit),
    now: Date.now(),
  });
  const held = locked.map((one): HeldLimit => ({
    ...one,
    count: counts.get(one.limit.id)?.count ?? 0,
  }));
  const mayOverride = by.personId !== null && access.may("override limit");
  return withinLimits({ ...asked, after }, held, mayOverride);
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
  touched: readonly Touched[],
  all: boolean,
): Promise<Touched[]> {
  const wanted = touched.filter(({ limit }) => all || limit.maxFirm || limit.minFirm);
  if (wanted.length === 0) return [...touched];
  const ids = wanted.map(({ limit }) => limit.id);
  const rows = await LOCK(tx, [ids]);
  const now = new Map(rows.map((row) => [row.id, row]));
  return touched.flatMap((one) => {
    if (!wanted.includes(one)) return [one];
    const bounds = now.get(one.limit.id);
    return bounds ? [{ ...one, limit: { ...one.limit, ...bounds } }] : [];
  });
}

const LEVELS = namedSql<{ id: string; level: number }>(
  "the levels of the types of a project",
  "select id, level from item_type where project_id = $1",
);

/** What an item counts for against some limits before and after a change. */
async function weightsOf(
  tx: Transaction,
  { access }: Entered,
  { before, after }: Change,
  limits: readonly LoadedLimit[],
): Promise<Weights[]> {
  const types = await LEVELS(tx, [access.project.id]);
  const levels = new Map(types.map(({ id, level }) => [id, level]));
  const by: CountingBy = {
    levelOf: (typeId) => levels.get(typeId),
    byReviewer: await byReviewer(tx, before ? [before, after] : [after], limits),
    defaultSize: access.project.defaultSize,
  };
  const inScope = await scopeReader(tx, access.project, { before, after }, limits);
  return limits.map((limit) => ({
    was: before && inScope(limit, "before") ? weightIn(limit, before, by) : 0,
    becomes: inScope(limit, "after") ? weightIn(limit, after, by) : 0,
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
  const asked = await askedItem(tx, before ?? after, asker.ownFields);
  const then = {
    ...asked,
    item: after,
    everIn: [...asked.everIn, after.stateId],
    computed: computedFields(asker.ownFields ?? [], after),
  };
  return ({ scope }, when) =>
    scope === null || holds(scope, when === "before" ? asked : then, asker);
}
