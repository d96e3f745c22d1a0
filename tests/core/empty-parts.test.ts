import fc from "fast-check";
import { emptyParts } from "@/core/item/empty-parts";
import { BUG_TEMPLATE } from "@/core/item/item-type";

const STORY = "As a … I want … so that …\n\n## Done when\n- [ ] \n";

test("as it begins every part is empty", () => {
  expect(emptyParts(BUG_TEMPLATE, BUG_TEMPLATE)).toEqual([
    "Steps to reproduce",
    "Expected",
    "Actual",
    "Environment",
    "Severity",
    "Workaround",
    "Accepted when",
  ]);
  expect(emptyParts(STORY, STORY)).toEqual(["As a … I want … so that …", "Done when"]);
});

test("a part that says something is not, nor one that was taken out", () => {
  const text = `**Steps to reproduce**
1. Hold it under the gate.

**Expected**

**Environment** (version, device, place)

**Severity** bad, the night crew

**Workaround**:
Open by hand.
`;
  expect(emptyParts(text, BUG_TEMPLATE)).toEqual(["Expected", "Environment"]);
  expect(emptyParts("As a skipper I want …\n\n## Done when\n- [ ] It rings.", STORY)).toEqual([]);
});

test("headings and bold words name the same part; marks of lists alone say nothing", () => {
  expect(emptyParts("### expected:\n1.\n- \n* [ ]\n", "**Expected**\n")).toEqual(["Expected"]);
  expect(emptyParts("### expected\n1. That it opens", "**Expected**\n")).toEqual([]);
});

test("without a starting text nothing is missed, and any text is read to an end", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme" }), fc.string(), (text, template) => {
      expect(emptyParts(text, "")).toEqual([]);
      expect(Array.isArray(emptyParts(text, template))).toBe(true);
    }),
  );
});
