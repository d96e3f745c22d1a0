import type { MatchingAsked, MatchingView } from "@/core/item/list/table";
import { MOST_MATCHING } from "@/core/item/list/table";
import type { Viewer } from "../../people/viewer";
import { enterList, narrowed } from "./enter";
import { readIds } from "./read";

/** Which of the items that a person sees on a board a condition is true of. */
export async function readMatching(
  viewer: Viewer,
  projectKey: string,
  { board, condition }: MatchingAsked,
  now = Date.now(),
): Promise<MatchingView> {
  const entered = await enterList(viewer, projectKey, now);
  return { ids: await readIds(await narrowed(entered, condition, board), MOST_MATCHING) };
}
