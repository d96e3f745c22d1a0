import { branchName, branchPatternSchema } from "@/core/ship/branch-name";
import {
  closedBy,
  closingWordsSchema,
  FIRST_CLOSING_WORDS,
  ITEM_KEY,
} from "@/core/ship/closing-words";
import { hashesIn } from "@/core/ship/hashes-in";
import { keysNamed } from "@/core/ship/keys-named";
import { revertedBy } from "@/core/ship/reverted";

const OF = {
  person: "Ines Dahl",
  key: "TIX-606",
  typeName: "Story",
  title: "Show the ticket without a connection",
};

describe("names of branches", () => {
  test.each([
    ["{initials}/{key}-{title}", "id/tix-606-show-the-ticket-without-a-connection"],
    ["{type}/{number}/{key}", "story/606/tix-606"],
    ["{key}", "tix-606"],
  ])("%s", (pattern, name) => {
    expect(branchName(pattern, OF)).toBe(name);
  });

  test("signs of other languages become plain letters; a title of none leaves no gap", () => {
    const named = (title: string) => branchName("{key}-{title}", { ...OF, title });
    expect(named("Fähre für Größe Ø, naïve?")).toBe("tix-606-fahre-fur-grosse-o-naive");
    expect(named("切符")).toBe("tix-606");
    expect(branchName("{title}/{key}", { ...OF, title: "切符" })).toBe("tix-606");
  });

  test("a long title is cut at the end of a word, a long word anywhere", () => {
    const long = branchName("{key}-{title}", { ...OF, title: "quay ".repeat(40) });
    expect(long).toMatch(/^tix-606(-quay)+$/);
    expect(long.length).toBeLessThanOrEqual(80);
    expect(branchName("{key}-{title}", { ...OF, title: "q".repeat(300) })).toHaveLength(80);
  });

  test.each([
    ["", "Say how branches are named."],
    ["{initials}/{title}", "A branch is found again by the key"],
    ["{key}-{team}", "{team} says nothing here"],
    ["my work/{key}", "Git takes no branch of such a name"],
    ["a~b/{key}", "Git takes no branch of such a name"],
    [`{key}${"x".repeat(60)}`, "60 characters at most"],
  ])("the pattern %j is refused in words", (pattern, words) => {
    const read = branchPatternSchema.safeParse(pattern);
    expect(read.error?.issues[0].message).toContain(words);
  });
});

describe("closing words", () => {
  const closed = (message: string, words = FIRST_CLOSING_WORDS) =>
    closedBy(message, { words, key: ITEM_KEY });

  test.each([
    ["Closes TIX-12", ["TIX-12"]],
    ["closes: #TIX-12", ["TIX-12"]],
    ["Fixed TIX-12, TIX-13 and TIX-14", ["TIX-12", "TIX-13", "TIX-14"]],
    ["This resolves TIX-1 and also closes GATE-2.", ["TIX-1", "GATE-2"]],
    ["fixes\n  TIX-12,\n  TIX-13", ["TIX-12", "TIX-13"]],
    ["fixes tix-12", ["tix-12"]],
    ["Closes TIX-12, see TIX-13", ["TIX-12"]],
    ["Closes TIX-12 and closes TIX-12", ["TIX-12"]],
  ])("%j closes %j", (message, keys) => {
    expect(closed(message)).toEqual(keys);
  });

  test.each([
    "TIX-12 is mentioned",
    "Closes the gate of TIX-12",
    "Encloses TIX-12",
    "prefixes TIX-12",
    "This does not fix TIX-12",
    "It doesn't close TIX-12",
    "never closes TIX-12",
    "closes TIX-12-offline",
    "closes",
    "",
  ])("%j closes nothing", (message) => {
    expect(closed(message)).toEqual([]);
  });

  test("a project's own words, and none at all", () => {
    expect(closed("erledigt TIX-3, fixes TIX-4", ["erledigt"])).toEqual(["TIX-3"]);
    expect(closed("fixes TIX-4", [])).toEqual([]);
    expect(closingWordsSchema.parse(["Done", "done", " ships "])).toEqual(["done", "ships"]);
    expect(closingWordsSchema.safeParse(["a|b"]).success).toBe(false);
  });

  // A pattern that tries every way again would not come back from these.
  test("a long message is read to the end that counts", () => {
    expect(closed(`fixes ${"TIX-1, ".repeat(20_000)}`)).toEqual(["TIX-1"]);
    expect(closed("fixes ".repeat(20_000))).toEqual([]);
    expect(closed(`fixes${" ".repeat(20_000)}TIX-1`)).toEqual([]);
  });
});

test("keys stand in branches in small letters, between any signs", () => {
  expect(keysNamed(["id/tix-606-offline", "feature_GATE-7_x", "no key-x"])).toEqual([
    "TIX-606",
    "GATE-7",
  ]);
  expect(keysNamed(["<b>tix-1</b>"])).toEqual(["TIX-1"]);
});

test("what may be a hash: seven signs at least, with a figure and a letter", () => {
  expect(hashesIn("see a41f09c, `b41f09c2` and A41F09C; defaced, 1234567, a41f09")).toEqual([
    "a41f09c",
    "b41f09c2",
  ]);
  expect(hashesIn("xa41f09c a41f09cz")).toEqual([]);
});

test("what git writes when it takes a commit back", () => {
  const hash = "a41f09c3d2e1b0a9f8e7d6c5b4a3928170615243";
  expect(
    revertedBy(
      `Revert "TIX-12: faster"\n\nThis reverts commit ${hash}.\nThis reverts commit a41f09c.`,
    ),
  ).toEqual([hash, "a41f09c"]);
  expect(revertedBy("This reverts nothing")).toEqual([]);
});
