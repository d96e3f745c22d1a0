import { flowPath } from "@/core/across/place";
import { writeLook } from "./address";
import { PLAIN_LOOK, type Look } from "./look";

/**
 * Where the items of a project, or of a place above the projects, are looked at in a way of their own.
 * @param differs what is otherwise than in a plain look
 */
export function lookPath(placeKey: string, differs: Partial<Look>): string {
  const search = new URLSearchParams(writeLook(PLAIN_LOOK, { ...PLAIN_LOOK, ...differs }));
  return `${flowPath(placeKey)}?${search.toString()}`;
}
