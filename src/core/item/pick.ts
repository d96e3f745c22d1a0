/** Some properties of an object, and no others. */
export function pick<T extends object, K extends keyof T>(
  from: T,
  properties: readonly K[],
): Pick<T, K> {
  // Set one by one: thousands of cards are made so, and a list of entries for each is slow.
  const picked = {} as Pick<T, K>;
  for (const property of properties) picked[property] = from[property];
  return picked;
}
