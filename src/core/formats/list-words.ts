/** "a, b and c". */
export function listWords(words: readonly string[], conjunction: "and" | "or" = "or"): string {
  if (words.length < 2) return words.join("");
  return `${words.slice(0, -1).join(", ")} ${conjunction} ${words.at(-1)}`;
}
