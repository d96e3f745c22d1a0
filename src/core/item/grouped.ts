/**
 * Rows by what they have in common, in the order in which each comes first.
 * @example grouped([1, 2, 3], (n) => n % 2) // Map { 1 => [1, 3], 0 => [2] }
 */
export function grouped<T, K>(rows: readonly T[], keyOf: (row: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const row of rows) {
    const key = keyOf(row);
    const own = groups.get(key);
    if (own) own.push(row);
    else groups.set(key, [row]);
  }
  return groups;
}
