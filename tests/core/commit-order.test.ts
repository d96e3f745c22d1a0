import fc from "fast-check";
import { readGitLog } from "@/core/formats/git-log";
import { latestFirst } from "@/core/ship/commit-order";

const commit = (hash: string, authoredAt: number, ...parents: string[]) => ({
  ...{ hash, authoredAt, parents },
});
const order = (...commits: ReturnType<typeof commit>[]) =>
  latestFirst(commits).map(({ hash }) => hash);

test("within one second what came from another commit stands before it", () => {
  expect(order(commit("a", 5), commit("b", 5, "a"), commit("c", 5, "b"))).toEqual(["c", "b", "a"]);
});

test("a commit with a clock that runs late stands before its parents all the same", () => {
  expect(order(commit("a", 9), commit("b", 3, "a"), commit("other", 6))).toEqual([
    "other",
    "b",
    "a",
  ]);
});

test("every commit stands there once, before all of its parents, whatever its time", () => {
  const graph = fc.integer({ min: 1, max: 25 }).chain((n) =>
    fc.tuple(
      ...Array.from({ length: n }, (_, i) =>
        fc.record({
          authoredAt: fc.integer({ min: 0, max: 5 }),
          parents: fc.subarray(Array.from({ length: i }, (_unused, j) => `c${j}`)),
        }),
      ),
    ),
  );
  fc.assert(
    fc.property(graph, (made) => {
      const commits = made.map((of, i) => ({ hash: `c${i}`, ...of }));
      const ordered = latestFirst(commits).map(({ hash }) => hash);
      expect(ordered.toSorted()).toEqual(commits.map(({ hash }) => hash).toSorted());
      for (const { hash, parents } of commits)
        for (const parent of parents)
          expect(ordered.indexOf(hash)).toBeLessThan(ordered.indexOf(parent));
    }),
  );
});

test("what git tells is read though a message holds any sign", () => {
  const told =
    "\0aaa\0\0Ines \u001e Dahl\0i@b.example\x001700000000\0One\n\n\u001f two\n\0\n\n3\t1\ta.txt\n-\t-\tb.bin\n" +
    "\0bbb\0aaa ccc\0N\0n@b.example\x001700000001\0Merge\n\0\n";
  expect(readGitLog(told)).toEqual([
    {
      ...{ hash: "aaa", parents: [], name: "Ines \u001e Dahl", mail: "i@b.example" },
      ...{ authoredAt: 1_700_000_000_000, message: "One\n\n\u001f two" },
      ...{ files: 2, insertions: 3, deletions: 1 },
    },
    {
      ...{ hash: "bbb", parents: ["aaa", "ccc"], name: "N", mail: "n@b.example" },
      ...{ authoredAt: 1_700_000_001_000, message: "Merge", files: 0, insertions: 0, deletions: 0 },
    },
  ]);
});
