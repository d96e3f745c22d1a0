/** So many cases are tried when the code itself is being changed to see whether a test notices (bin/mutate). */
const WHEN_MUTATED = 25;

/** How many cases a property is tried with: as asked, or few where every test runs thousands of times. */
export const runs = (asked: number): number =>
  process.env.MUTATED ? Math.min(asked, WHEN_MUTATED) : asked;
