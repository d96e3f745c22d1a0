import { differences, type LookNames } from "./differences";
import { sameIn, type Look, type LookPart } from "./look";

/** What makes two looks different ways of looking, not just two arrangements of the same columns. */
const MATTERS: readonly LookPart[] = ["arrangement", "board", "scope", "filter", "group", "lanes"];
/** Looks that differ in so many of these are two. */
const APART = 2;

/** How two views differ that show nearly the same; null where they are different ways of looking. */
export function nearlyAlike(a: Look, b: Look, names: LookNames): string[] | null {
  const apart = MATTERS.filter((part) => !sameIn(part, a, b));
  const conditions = apart.includes("scope") || apart.includes("filter");
  return conditions || apart.length >= APART ? null : differences(a, b, names);
}
