import type { MatchingAsked, MatchingView } from "@/core/item/list/table";
import { MOST_MATCHING } from "@/core/item/list/table";
import { item } from "@/db/schema";
import type { Viewer } from "../../people/viewer";
import { enterList, narrowed } from "./enter";

/** Which of the items that a person sees on a board a condition is true of. */
export async function readMatching(
  viewer: Viewer,
  projectKey: string,
  { board, condition }: MatchingAsked,
  now = Date.now(),
): Promise<MatchingView> {
  const entered = await enterList(viewer, projectKey, now);
  const { reader, where } = await narrowed(entered, condition, board);
  const rows = await reader.select({ id: item.id }).from(item).where(where).limit(MOST_MATCHING);
  return { ids: rows.map((row) => row.id) };
}
