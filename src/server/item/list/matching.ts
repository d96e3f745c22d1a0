import type { MatchingAsked, MatchingView } from "@/core/item/list/table";
import { MOST_MATCHING } from "@/core/item/list/table";
import type { Viewer } from "../../people/viewer";
import { enterList, namedOf, narrowed } from "./enter";
import { readIds } from "./read";

/** Which of the items that a person sees on a board a condition is true of. */
export async function readMatching(
  viewer: Viewer,
  projectKey: string,
  { board, condition, of = null }: MatchingAsked,
  now = Date.now(),
): Promise<MatchingView> {
  const entered = await enterList(viewer, projectKey, now);
  const asked = of === null ? entered : { ...entered, seen: namedOf(entered, of) };
  return { ids: await readIds(await narrowed(asked, condition, { board }), MOST_MATCHING) };
}
