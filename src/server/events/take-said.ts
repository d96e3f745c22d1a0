import { v7 as newId } from "uuid";
import type { Instant } from "@/core/calendar/instant";
import type { DeliveryNews } from "@/core/formats/delivery-event";
import { grouped } from "@/core/item/grouped";
import type { ChangeChecks, OutsideFact } from "@/core/item/outside";
import type { CodeNews } from "@/core/ship/code-event";
import type { PipelineNews } from "@/core/ship/pipeline-event";
import type { TestNews } from "@/core/ship/test-event";
import { waitsFor } from "@/core/workflow/occurrence";
import { isUnreachable, transact, type Transaction } from "@/db/connection";
import { lockForBulk } from "../item/bulk/lock";
import { closeDoor, openDoor, passThrough, throughDoor } from "../item/door";
import { enterItem, entriesOf, type EnteredItem } from "../item/enter";
import type { Errand } from "../item/errand";
import { itemsNamed, itemsOfChanges, keysOfItems } from "../item/items-named";
import { log, traced } from "../log";
import { AUTOMATION } from "../people/viewer";
import { Refused } from "../refused";
import type { Told } from "../ship/item-code";
import { lockRepositories } from "../ship/repository";
import { announceCode, keepChecks, takeCode } from "../ship/take-code";
import { takePipeline } from "../ship/take-pipeline";
import { openPost, type Post } from "../ship/taking";
import { takeTests } from "../ship/testing/take-tests";
import { freshAmong } from "./fresh";
import type { Speaker } from "./speakers";

/** What an event says: of a code host's doing, of a pipeline's, of what machines tried, of items. */
export interface Said {
  code: CodeNews | null;
  pipeline: PipelineNews | null;
  tests: TestNews | null;
  news: DeliveryNews | null;
  at: Instant;
}

/** An event, by what makes it the same one. */
export interface SaidEvent {
  id: string;
  said: Said;
}

type Source = Speaker & { name: string };

/**
 * Takes in what events say, each once, in their order. They are taken together; where something goes
 * wrong with them, each by itself, so that those before the one that is to blame are kept.
 * @returns for each event the keys of the items that something was learnt about
 */
export async function takeAllSaid(
  source: Source,
  events: readonly SaidEvent[],
  now: Instant,
): Promise<string[][]> {
  if (events.length === 0) return [];
  try {
    return await transact((tx) => takeTogether(tx, source, events, now));
  } catch (error) {
    if (events.length === 1 || isUnreachable(error)) throw error;
    log.error({ source: source.id, ...traced(error) }, "a post is taken in event by event");
  }
  const keys: string[][] = [];
  for (const one of events)
    keys.push(...(await transact((tx) => takeTogether(tx, source, [one], now))));
  return keys;
}

async function takeTogether(
  tx: Transaction,
  source: Source,
  events: readonly SaidEvent[],
  now: Instant,
): Promise<string[][]> {
  const post = openPost(tx, source, now);
  await lockRepositories(post, repositoriesOf(events));
  const fresh = await freshAmong(
    tx,
    source.id,
    events.map(({ id }) => id),
    now,
  );
  const learnt: string[][] = [];
  for (const { id, said } of events) {
    // The same event may stand in a post twice.
    const told = fresh.delete(id) ? await learn(post, said) : [];
    post.told.push(...told);
    learnt.push([...new Set(told.map(({ itemId }) => itemId))]);
  }
  const heard = await tellItems(tx, source, post.told);
  await announceCode(post);
  const keys = await keysOfItems(tx, heard);
  return learnt.map((ids) => [...keys].flatMap(([id, key]) => (ids.includes(id) ? [key] : [])));
}

const repositoriesOf = (events: readonly SaidEvent[]): string[] => [
  ...new Set(
    events.flatMap(({ said: { code, pipeline, tests } }) =>
      [code, pipeline, tests].flatMap((one) => one?.repository ?? []),
    ),
  ),
];

/** What items are to be told. What a code host says of its own names them by itself. */
async function learn(post: Post, said: Said): Promise<Told[]> {
  if (said.code) return takeCode(post, said.code);
  if (said.tests) await takeTests(post, said.tests);
  const known = said.pipeline ? await takePipeline(post, said.pipeline) : [];
  const told = [...known, ...(await meant(post, said))];
  // Who is named, and is found by its commits too, is told once.
  return [...new Map(told.map((one) => [JSON.stringify(one), one])).values()];
}

const OUTSIDE = { made: { cause: "outside" }, ifRefused: "leave" } as const;

/**
 * Stores with items what happened outside; what follows from it the worker does.
 * @returns the items that hear of it: not those of a project that was put away
 */
async function tellItems(
  tx: Transaction,
  source: Source,
  told: readonly Told[],
): Promise<string[]> {
  const byItem = grouped(told, ({ itemId }) => itemId);
  const entered = await enterAll(tx, [...byItem.keys()]);
  const errands = entered.map((on): Errand => {
    const facts = byItem.get(on.itemId)!.map(({ fact }) => fact);
    const command = { kind: "report" as const, facts, source: source.name };
    return { on, commandId: newId(), ask: { kind: "prepared", command }, ...OUTSIDE };
  });
  const door = openDoor(tx, AUTOMATION);
  for (const errand of errands) await passThrough(door, errand);
  await closeDoor(door);
  for (const { itemId, workflow } of entered) {
    const isDone = byItem.get(itemId)!.some(({ fact }) => fact.kind === "commit says done");
    if (!isDone || waitsFor(workflow, "commit says done")) continue;
    // The process names no move for it: the work in its state is done, and the next may pull it.
    await throughDoor(tx, AUTOMATION, {
      on: await enterItem(tx, AUTOMATION, itemId, "edit item"),
      commandId: newId(),
      ask: { kind: "prepared", command: { kind: "ready", on: true } },
      ...OUTSIDE,
    });
  }
  return entered.map(({ itemId }) => itemId);
}

/** Enters items in the order of their ids, so that nobody waits in a circle. */
async function enterAll(tx: Transaction, itemIds: readonly string[]): Promise<EnteredItem[]> {
  if (itemIds.length === 0) return [];
  if (itemIds.length === 1)
    return unlessAway(() => enterItem(tx, AUTOMATION, itemIds[0], "edit item"));
  await lockForBulk(tx, itemIds);
  const entries = await entriesOf(tx, AUTOMATION, itemIds);
  const entered: EnteredItem[] = [];
  for (const id of itemIds.toSorted()) {
    const enter = entries.get(id);
    if (enter) entered.push(...(await unlessAway(() => enter("edit item"))));
  }
  return entered;
}

/** Nothing happens any more in a project that was put away; whoever speaks of others is heard there. */
async function unlessAway(enter: () => Promise<EnteredItem>): Promise<EnteredItem[]> {
  try {
    return [await enter()];
  } catch (error) {
    if (error instanceof Refused && error.refusal.code === "put away") return [];
    throw error;
  }
}

const CHECKS: Partial<Record<OutsideFact["kind"], ChangeChecks>> = {
  "checks started": "running",
  "checks passed": "passed",
  "checks failed": "failed",
};

/**
 * Items that are named by their key, or that belong to a change that is meant, with what they are told.
 * What a pipeline says of commits that a change has left behind is not told.
 */
async function meant(post: Post, { news, at }: Said): Promise<Told[]> {
  if (news === null) return [];
  const { tx, source } = post;
  const { fact, itemKeys, changes, commit } = news;
  if ("change" in fact) {
    const { change } = fact;
    const checks = CHECKS[fact.kind];
    if (checks && !(await keepChecks(post, { change, checks, commit, at }))) return [];
  }
  const named = await itemsNamed(tx, source.projectIds, itemKeys);
  const ofChanges = await itemsOfChanges(tx, source.projectIds, changes);
  const itemIds = new Set([...named.values(), ...ofChanges, ...itemsTold(post, changes)]);
  return [...itemIds].map((itemId) => ({ itemId, fact }));
}

/** The items that hear of changes by the same post. */
const itemsTold = ({ told }: Post, changes: readonly string[]): string[] =>
  told.flatMap(({ itemId, fact }) =>
    "change" in fact && changes.includes(fact.change) ? [itemId] : [],
  );
