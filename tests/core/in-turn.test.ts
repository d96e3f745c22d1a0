import { inTurn } from "@/core/contract/in-turn";

/** Work that ends when it is told to. */
function task(log: string[], name: string) {
  let end!: () => void;
  const ended = new Promise<void>((resolve) => (end = resolve));
  return { end, work: async () => (log.push(`+${name}`), await ended, log.push(`-${name}`), name) };
}
const soon = () => new Promise((resolve) => setImmediate(resolve));

test("so many at once, the others in the order they came; each its own answer", async () => {
  const log: string[] = [];
  const tasks = ["a", "b", "c", "d"].map((n) => task(log, n));
  const answers = tasks.map((t) => inTurn("somebody", 2, t.work));
  await soon();
  expect(log).toEqual(["+a", "+b"]);
  tasks[1].end();
  await soon();
  expect(log).toEqual(["+a", "+b", "-b", "+c"]);
  tasks.forEach((t) => t.end());
  expect(await Promise.all(answers)).toEqual(["a", "b", "c", "d"]);
});

test("what fails gives its place free, and another's line is another", async () => {
  const log: string[] = [];
  const slow = task(log, "slow");
  const first = inTurn("one", 1, slow.work);
  const failing = inTurn("one", 1, async () => {
    throw new Error("no");
  });
  const after = inTurn("one", 1, async () => "after");
  expect(await inTurn("another", 1, async () => "at once")).toBe("at once");
  slow.end();
  await expect(failing).rejects.toThrow("no");
  expect([await first, await after]).toEqual(["slow", "after"]);
});
