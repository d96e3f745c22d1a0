import {
  FIRST_SCALES,
  readSize,
  readSteps,
  sizeScaleSchema,
  sizeWords,
  stepsAsText,
} from "@/core/plan/size-scale";
import { spreadOf, type SizingVote } from "@/core/plan/sizing-view";

const { points, letters, hours } = FIRST_SCALES;

describe("the sizes of a project", () => {
  test("each kind begins with a scale that holds, and that is read back as it is written", () => {
    for (const scale of [points, letters, hours]) {
      expect(sizeScaleSchema.safeParse(scale).success).toBe(true);
      expect(readSteps(stepsAsText(scale), scale.kind)).toEqual(scale.steps);
    }
  });

  test("steps are numbers, or letters with their numbers", () => {
    expect(readSteps("0.5, 1; 2", "points")).toEqual([
      { name: "0.5", size: 0.5 },
      { name: "1", size: 1 },
      { name: "2", size: 2 },
    ]);
    expect(readSteps("S=1 M=3", "letters")).toEqual([
      { name: "S", size: 1 },
      { name: "M", size: 3 },
    ]);
    for (const [text, kind] of [
      ["S M", "letters"],
      ["1 2", "letters"],
      ["S=1", "points"],
      ["one two", "hours"],
      ["-1 2", "points"],
    ] as const)
      expect([text, readSteps(text, kind)]).toEqual([text, null]);
  });

  test.each([
    [[{ name: "S", size: 1 }], "two sizes at least"],
    [
      [
        { name: "S", size: 3 },
        { name: "M", size: 3 },
      ],
      "larger than the one before",
    ],
    [
      [
        { name: "S", size: 1 },
        { name: "s", size: 2 },
      ],
      "same name",
    ],
  ])("a scale that does not hold is refused", (steps, words) => {
    const read = sizeScaleSchema.safeParse({ kind: "letters", steps });
    expect(read.error?.issues[0].message).toContain(words);
  });

  test("a size is said as the project says it, off the scale as its number", () => {
    expect([3, 4].map((size) => sizeWords(size, letters))).toEqual(["M", "4"]);
    expect(sizeWords(8, hours)).toBe("8 h");
    expect(sizeWords(13, points)).toBe("13");
  });

  test("what is typed is a name of the scale, else a number", () => {
    expect(readSize(" xl ", letters)).toBe(20);
    expect(readSize("1,5", letters)).toBe(1.5);
    for (const wrong of ["XXL", "-1", "", "1001", "1e3"])
      expect([wrong, readSize(wrong, letters)]).toEqual([wrong, null]);
  });
});

describe("what was said in a round", () => {
  const vote = (name: string, size: number | null | undefined): SizingVote => ({
    personId: name,
    name,
    size,
  });

  test("names who said the least and who the most", () => {
    const votes = [vote("a", 3), vote("b", 8), vote("c", 3), vote("d", null)];
    expect(spreadOf(votes)).toEqual({
      least: [votes[0], votes[2]],
      most: [votes[1]],
    });
  });

  test("is none where all say the same, or only one said a size", () => {
    expect(spreadOf([vote("a", 3), vote("b", 3)])).toBeNull();
    expect(spreadOf([vote("a", 3), vote("b", null), vote("c", undefined)])).toBeNull();
  });
});
