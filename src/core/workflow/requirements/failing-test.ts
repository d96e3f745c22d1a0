import { showsThatMissing } from "@/core/ship/testing/known-test";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

/** The test is there before the work: it shows that what is to be built is not there yet. */
export const failingTest = requirementKind({
  title: "a test of it fails",
  refused: "no test of it failed",
  parameters: {},
  begins: {},
  editors: {},
  words: () => "a test that fails",
  unmet: (_, { tests = [] }) => {
    if (tests.some(showsThatMissing)) return null;
    if (tests.length === 0)
      return refuse(
        "test missing",
        "No test case says how it is seen to work.",
        "Write one on the item, under Tests, before it is built.",
      );
    const [{ title, lastWithout }] = tests;
    return lastWithout === null
      ? refuse(
          "test missing",
          `Nobody has seen “${title}” fail yet.`,
          "Push the test to a branch of the item: its machine says whether it fails.",
        )
      : refuse(
          "test missing",
          `“${title}” passes without the work.`,
          "Write a test that fails until it is built.",
        );
  },
});
