import { execFileSync, spawnSync } from "node:child_process";
import fc from "fast-check";
import { branchName, isBranchName, LONGEST_BRANCH } from "@/core/ship/branch-name";

/*
 * What git itself takes as the name of a branch: `git check-ref-format --branch`, of the git on this
 * machine.
 */
const gitTakes = (name: string): boolean =>
  spawnSync("git", ["check-ref-format", "--branch", name], { cwd: "/" }).status === 0;

test("there is a git to ask", () => {
  expect(execFileSync("git", ["--version"]).toString()).toContain("git version");
});

const ODD = [
  ...["", "@", "a", "-a", "a-", ".a", "a.", "a..b", "a/b", "a//b", "/a", "a/", "a/.b", "a.lock"],
  ...[
    "a.lock/b",
    "a.lockb",
    "a b",
    "a~b",
    "a^b",
    "a:b",
    "a?b",
    "a*b",
    "a[b",
    "a]b",
    "a\\b",
    "a@{b",
  ],
  ...[
    "@a",
    "a@",
    "a\tb",
    "a\u007fb",
    "ä",
    "日本",
    "HEAD",
    "a{b}",
    "<b>",
    "a'b",
    'a"b',
    "a;b",
    "$(a)",
  ],
];

test.each(ODD)("%j is a name of a branch exactly where git says so", (name) => {
  expect(isBranchName(name)).toBe(gitTakes(name));
});

test("any text is judged as git judges it", () => {
  const signs = fc.constantFrom(..."ab/.@{-~^: \\[*?lock");
  fc.assert(
    fc.property(fc.array(signs, { maxLength: 12 }), (letters) => {
      const name = letters.join("");
      expect(isBranchName(name)).toBe(gitTakes(name));
    }),
    { numRuns: 400 },
  );
});

test("whatever an item is called, git takes its branch, and the key stands in it", () => {
  const words = fc.oneof(fc.string({ unit: "grapheme", maxLength: 250 }), fc.lorem());
  const pattern = fc.constantFrom(
    "{initials}/{key}-{title}",
    "{key}",
    "{type}/{key}/{title}",
    "work/{title}.{key}",
    "{number}-{key}-{title}-{initials}",
  );
  fc.assert(
    fc.property(words, words, words, pattern, (title, person, typeName, of) => {
      const name = branchName(of, { person, key: "TIX-606", typeName, title });
      expect(name).toContain("tix-606");
      expect(name.length).toBeLessThanOrEqual(LONGEST_BRANCH);
      expect([name, gitTakes(name)]).toEqual([name, true]);
    }),
    { numRuns: 250 },
  );
});
