/** Work of one kind that is under way, and what waits for its turn. */
interface Line {
  under: number;
  waiting: (() => void)[];
}

const shared = globalThis as typeof globalThis & { zigzagLines?: Map<string, Line> };
const lines = (): Map<string, Line> => (shared.zigzagLines ??= new Map());

/**
 * Does some work when fewer than so many of the same key are under way; until then it waits, first
 * come, first served.
 */
export async function inTurn<T>(key: string, most: number, work: () => Promise<T>): Promise<T> {
  const line = lines().get(key) ?? { under: 0, waiting: [] };
  lines().set(key, line);
  if (line.under >= most) await new Promise<void>((resolve) => line.waiting.push(resolve));
  else line.under += 1;
  try {
    return await work();
  } finally {
    // Whoever waits longest takes the place over; so nobody comes in between.
    const next = line.waiting.shift();
    if (next) next();
    else {
      line.under -= 1;
      if (line.under === 0) lines().delete(key);
    }
  }
}
