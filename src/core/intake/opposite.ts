/*
 * Words that tell of opposite faults, as stems: a gate that stays open and one that stays shut are two problems, however alike
 * the rest is told. From memory, no source.
 */
const PAIRS = [
  "open|shut clos",
  "full sold|free half",
  "loud|silent",
  "cold freez frost|hot heat",
  "late|earli",
  "small tini|larg big",
  "dark|light bright",
  "slow long|fast",
  "too mani much|miss less few",
  "adult|child kid",
  "lost|found",
  "cheap|expens high",
];

const SIDES = PAIRS.map((pair) => pair.split("|").map((side) => new Set(side.split(" "))));

/** In how many ways two sets of stems say the opposite of each other. */
export function opposites(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  const has = (stems: ReadonlySet<string>, side: ReadonlySet<string>) => [...side].some((s) => stems.has(s));
  return SIDES.filter(([left, right]) => (has(a, left) && !has(a, right) && has(b, right) && !has(b, left)) || (has(b, left) && !has(b, right) && has(a, right) && !has(a, left))).length;
}
