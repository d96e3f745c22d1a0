import { v7 as newId } from "uuid";
import type { BulkAct } from "@/core/item/bulk/act";
import type { ForecastAsked } from "@/core/item/bulk/contract";
import { CHUNK, gatherLeftOut, type BulkForecast } from "@/core/item/bulk/job";
import type { Ask } from "@/core/workflow/refusal";
import { database, type Transaction } from "@/db/connection";
import type { Viewer } from "../../people/viewer";
import { onlyProject } from "../../across/ground";
import { enterList } from "../list/enter";
import { readRows } from "../list/read";
import { actOn, type Went } from "./act-on";
import { itemsMeant } from "./items";
import { lockForBulk } from "./lock";

/** Ends a transaction of which nothing is to stay. */
class NothingStays extends Error {}

/**
 * What an act would do to the first of the items if it were done now: it is done, through the door
 * and under its locks, and taken back before anybody sees it. A forecast, since rules are asked again
 * when it is done.
 */
export async function forecastBulk(
  viewer: Viewer,
  projectKey: string,
  { items, act }: ForecastAsked,
  now = Date.now(),
): Promise<BulkForecast> {
  const entered = await enterList(viewer, projectKey, now);
  const { project } = onlyProject(entered.ground);
  const ids = await itemsMeant(entered, items);
  const tried = ids.slice(0, CHUNK);
  const went = await tryOut(viewer, act, tried);
  const rows = await readRows(entered.seen.reader, { ids: tried });
  const keys = new Map(rows.map(({ id, number }) => [id, `${project.key}-${number}`]));
  const refused = tried.flatMap((id, i) =>
    went[i].outcome === "refused" ? [{ sentence: went[i].sentence!, key: keys.get(id)! }] : [],
  );
  return {
    total: ids.length,
    tried: tried.length,
    goes: went.filter(({ outcome }) => outcome === "done").length,
    same: went.filter(({ outcome }) => outcome === "same").length,
    leftOut: gatherLeftOut(refused),
    asks: eachOnce(went.flatMap(({ asks }) => asks)),
  };
}

async function tryOut(viewer: Viewer, act: BulkAct, ids: readonly string[]): Promise<Went[]> {
  let went: Went[] = [];
  const all = async (tx: Transaction) => {
    await lockForBulk(tx, ids);
    const ones = ids.map((itemId) => ({ itemId, commandId: newId(), undoes: null }));
    went = await actOn(tx, viewer, act, ones);
    throw new NothingStays();
  };
  try {
    await database().transaction(all);
  } catch (error) {
    if (!(error instanceof NothingStays)) throw error;
  }
  return went;
}

/** What can be answered once for all of them: not what each has its own of. */
function eachOnce(asks: readonly Ask[]): Ask[] {
  const known = new Map<string, Ask>();
  for (const ask of asks) if (ask.field !== "ticks") known.set(ask.field, ask);
  return [...known.values()];
}
