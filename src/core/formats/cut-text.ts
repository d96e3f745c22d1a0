/**
 * The beginning of a text, never with half a letter at its end: letters outside the basic plane
 * take two code units.
 * @param most code units, as `length` counts them
 * @example cutText("a🚢", 2) === "a"
 */
export function cutText(text: string, most: number): string {
  if (text.length <= most) return text;
  const last = text.charCodeAt(most - 1);
  const splitsPair = last >= 0xd800 && last <= 0xdbff;
  return text.slice(0, splitsPair ? most - 1 : most);
}

/** The same, with a sign that there was more; the sign counts. */
export function shorten(text: string, most: number): string {
  return text.length <= most ? text : `${cutText(text, most - 1).trimEnd()}…`;
}
