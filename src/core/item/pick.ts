/** Some properties of an object, and no others. */
export function pick<T extends object, K extends keyof T>(
  from: T,
  properties: readonly K[],
): Pick<T, K> {
  return Object.fromEntries(properties.map((p) => [p, from[p]])) as Pick<T, K>;
}
