import type { Reader } from "@/db/connection";
import { namedItems } from "../../item/list/named";
import type { Viewer } from "../../people/viewer";
import { notFound } from "../../refused";
import { itemsOfCases } from "./case-rows";

/**
 * Of some cases those that somebody may not see: what they say was written for items, and they may see none
 * of these. One that tests no item says nothing of any.
 */
export async function hiddenCases(
  reader: Reader,
  viewer: Viewer,
  caseIds: readonly string[],
): Promise<Set<string>> {
  const tests = await itemsOfCases(reader, caseIds);
  const seen = await namedItems(viewer, [...new Set([...tests.values()].flat())], reader);
  return new Set(
    [...tests].flatMap(([caseId, itemIds]) => (itemIds.some((id) => seen.has(id)) ? [] : [caseId])),
  );
}

/** @throws Refused where somebody may not see a case */
export async function mustSeeCases(
  reader: Reader,
  viewer: Viewer,
  caseIds: readonly string[],
): Promise<void> {
  if ((await hiddenCases(reader, viewer, caseIds)).size > 0) throw notFound("test case");
}

/** Whether somebody may see a run: of an item they may not see they may not. */
export async function seesRun(
  reader: Reader,
  viewer: Viewer,
  { itemId }: { itemId: string | null },
): Promise<boolean> {
  return itemId === null || (await namedItems(viewer, [itemId], reader)).has(itemId);
}
