/** So many rows go into one statement. */
const CHUNK = 400;

/** Stores many rows, some at once. */
export async function inChunks<T>(
  rows: readonly T[],
  insert: (chunk: T[]) => Promise<unknown>,
): Promise<void> {
  for (let i = 0; i < rows.length; i += CHUNK) await insert(rows.slice(i, i + CHUNK));
}
