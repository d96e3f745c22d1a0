import { stem } from "./stem";

/*
 * Words that tell of opposite faults: a gate that stays open and one that stays shut are two
 * problems, however alike the rest is told. From memory, no source.
 */
export const OPPOSITES = [
  "open|shut close",
  "full sold|free half",
  "loud|silent",
  "cold freeze frost|hot heat",
  "late|early",
  "small tiny|large big",
  "dark|light bright",
  "slow long|fast",
  "too many much|miss less few",
  "adult|child children kid",
  "lost|found",
  "cheap|expensive high",
];

const SIDES = OPPOSITES.map((pair) =>
  pair.split("|").map((side) => new Set(side.split(" ").map(stem))),
);

/** In how many ways two sets of stems say the opposite of each other. */
export function opposites(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  const has = (stems: ReadonlySet<string>, side: ReadonlySet<string>) =>
    [...side].some((s) => stems.has(s));
  return SIDES.filter(
    ([left, right]) =>
      (has(a, left) && !has(a, right) && has(b, right) && !has(b, left)) ||
      (has(b, left) && !has(b, right) && has(a, right) && !has(a, left)),
  ).length;
}
