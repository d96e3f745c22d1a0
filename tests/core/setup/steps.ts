import { Session, type Profiler } from "node:inspector";

/*
 * Counts what a function does in steps, not in seconds: how often the blocks of JavaScript ran, as
 * the engine's own coverage counts it, packages included. The same input gives the same number on
 * every machine. What regular expressions do inside is not in it; the linter forbids those that can
 * take longer than one pass (eslint.config.mjs).
 */

const session = new Session();
session.connect();

function ask<T>(method: string, params: object = {}): T {
  let answer: T | undefined;
  let failed: Error | null = null;
  session.post(method, params, (error, result) => {
    failed = error;
    answer = result as T;
  });
  if (failed) throw failed;
  return answer!;
}

// Only what is compiled from now on is counted block by block. So this file is imported first.
ask("Profiler.enable");
ask("Profiler.startPreciseCoverage", { callCount: true, detailed: true });
// What is counted is not optimized: the files that come afterwards in this process would be slow.
afterAll(() => {
  ask("Profiler.stopPreciseCoverage");
  ask("Profiler.disable");
  session.disconnect();
});

/**
 * The steps since it was last asked: of each function how often its busiest block ran. Not the sum
 * of its blocks, because the engine leaves out those that ran as often as the one around them.
 */
function takeSteps(): number {
  const { result } = ask<Profiler.TakePreciseCoverageReturnType>("Profiler.takePreciseCoverage");
  const busiest = result.flatMap(({ functions }) =>
    functions.map(({ ranges }) => Math.max(...ranges.map((r) => r.count))),
  );
  return busiest.reduce((sum, count) => sum + count, 0);
}

/** Does a work; an error is an end too. */
export function toItsEnd(work: () => unknown): void {
  try {
    work();
  } catch {
    // Refusing is an answer.
  }
}

/**
 * How many steps each of some works takes, one after the other; an error that one throws counts as
 * its end.
 */
function stepsOfEach(works: readonly (() => unknown)[]): number[] {
  takeSteps();
  return works.map((work) => {
    toItsEnd(work);
    return takeSteps();
  });
}

export const stepsOf = (work: () => unknown): number => stepsOfEach([work])[0];

/**
 * So much more than twice the steps may twice the input take: what is done once a text, and
 * rounding.
 */
const SLACK = 1.3;
const FIXED = 3_000;

/** How the steps grow where an input is doubled; fails the test where they more than double. */
export function expectLinear(
  name: string,
  make: (times: number) => string,
  read: (text: string) => unknown,
  times = 1_500,
): void {
  expectAllLinear([{ name, make }], read, times);
}

/** The same of several inputs, counted together: to count costs more than most of the works. */
export function expectAllLinear(
  inputs: readonly { name: string; make: (times: number) => string }[],
  read: (text: string) => unknown,
  times = 1_500,
): void {
  const readAll = (n: number) => {
    const texts = inputs.map(({ make }) => make(n));
    return () => {
      for (const text of texts) toItsEnd(() => read(text));
    };
  };
  const [once, twice] = stepsOfEach([readAll(times), readAll(times * 2)]);
  if (twice <= once * 2 * SLACK + FIXED) return;
  const names = inputs.map(({ name }) => name).join(", ");
  throw new Error(`${names}: ${times} times take ${once} steps, ${times * 2} times ${twice}`);
}
