/** What a map holds under a key; read where it is not there yet. */
export function remembered<T>(
  map: Map<string, Promise<T>>,
  key: string,
  read: () => Promise<T>,
): Promise<T> {
  const known = map.get(key) ?? read();
  map.set(key, known);
  return known;
}
