import fc from "fast-check";
import { againstOf, byGravity, isReady, type ReleaseFacts } from "@/core/ship/release/readiness";
import {
  noteSections,
  notesMarkdown,
  noteWords,
  type ReleaseNote,
} from "@/core/ship/release/release-notes";

const DONE: ReleaseFacts = {
  ...{ stateKind: "finished", stateName: "Live", days: 3, ofReview: false, assigned: true },
  ...{ blocked: null, openChanges: 0, merged: true, onAcceptance: true, acceptance: "acceptance" },
  ...{ tested: "passed", failed: "", hasWords: true },
  ...{ shown: { asked: 0, given: 0 }, missing: false },
};
const BUILT: ReleaseFacts = { ...DONE, stateKind: "working", stateName: "Building", days: 4 };

describe("what stands against an item going out", () => {
  test.each<[Partial<ReleaseFacts>, ReleaseFacts, string[]]>([
    [{}, DONE, []],
    [{ hasWords: false }, DONE, ["its notes are only its title"]],
    // Finished work is asked nothing more but whether it fails, or was changed since.
    [{ tested: "no case", onAcceptance: false, assigned: false }, DONE, []],
    [{ tested: "failed", failed: "step 4" }, DONE, ["failed step 4"]],
    [{ tested: "stale" }, DONE, ["changed since it was tested"]],
    [{}, BUILT, ["Building, day 4"]],
    [{ ofReview: true }, BUILT, ["Building, day 4"]],
    [
      { stateKind: "unstarted", assigned: false, tested: "no case" },
      BUILT,
      ["not begun", "nobody has it"],
    ],
    [
      { blocked: "the feed", openChanges: 2, onAcceptance: false, tested: "not tried" },
      BUILT,
      [
        ...["blocked: the feed", "Building, day 4", "2 changes not merged"],
        ...["not all of it on acceptance", "not tested yet"],
      ],
    ],
    [{ shown: { asked: 2, given: 1 } }, BUILT, ["Building, day 4", "accepted by 1 of 2"]],
    [{ shown: { asked: 2, given: 2 } }, BUILT, ["Building, day 4"]],
    // What somebody misses counts of what is finished too; that not all said their word does not.
    [
      { shown: { asked: 2, given: 0 }, missing: true },
      DONE,
      ["somebody it was shown to misses something"],
    ],
    // Nothing is merged: where it is not is no news.
    [{ merged: false, onAcceptance: false }, BUILT, ["Building, day 4"]],
    [{ onAcceptance: null }, BUILT, ["Building, day 4"]],
  ])("%j", (more, of, words) =>
    expect(againstOf({ ...of, ...more }).map((one) => one.words)).toEqual(words),
  );

  test("the gravest comes first, and what can go out is finished and has not failed", () => {
    const failed = againstOf({ ...BUILT, tested: "failed" });
    const open = againstOf(BUILT);
    expect([open, failed, []].toSorted(byGravity)).toEqual([failed, open, []]);
    expect(isReady(DONE, againstOf({ ...DONE, hasWords: false }))).toBe(true);
    expect(isReady(DONE, againstOf({ ...DONE, tested: "failed" }))).toBe(false);
    expect(isReady(BUILT, [])).toBe(false);
  });
});

describe("the notes", () => {
  const note = (title: string, more: Partial<ReleaseNote> = {}): ReleaseNote => ({
    ...{ itemId: title, key: "TIX-1", title, typeId: "story", words: "", internal: false },
    ...{ finished: true, ...more },
  });

  test("stand by what they are, in the words that were written, without what is internal", () => {
    const notes = [
      note("Push comes twice", { typeId: "bug" }),
      note("Vouchers", { words: "Voucher codes\nfor schools." }),
      note("Secret", { internal: true }),
    ];
    expect(
      noteSections(notes).map(({ section, notes: own }) => [section, own.map(noteWords)]),
    ).toEqual([
      ["New", ["Voucher codes\nfor schools."]],
      ["Mended", ["Push comes twice"]],
    ]);
    expect(notesMarkdown("Crossing 20", notes)).toBe(
      "# Crossing 20\n\n## New\n\n- Voucher codes for schools.\n\n## Mended\n\n- Push comes twice\n",
    );
    expect(notesMarkdown("Empty", [])).toBe("# Empty\n");
  });

  test("each note is one line, and a title is read as it is written, whatever it holds", () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (title, words) => {
        const markdown = notesMarkdown("R", [note(title.replaceAll("\n", " "), { words })]);
        const lines = markdown.split("\n").filter((line) => line.startsWith("- "));
        expect(lines).toHaveLength(1);
      }),
    );
    expect(notesMarkdown("R", [note("<b>*x*</b>")])).toContain("- \\<b\\>\\*x\\*\\</b\\>");
  });
});
