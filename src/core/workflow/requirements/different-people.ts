import { z } from "zod";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

/** Nobody reviews their own work. */
export const differentPeople = requirementKind({
  title: "the reviewer is not the assignee",
  refused: "the reviewer was the assignee",
  parameters: { first: z.literal("reviewerId"), second: z.literal("assigneeId") },
  begins: { first: "reviewerId", second: "assigneeId" },
  editors: {},
  words: () => "the reviewer is not the assignee",
  unmet: ({ first, second }, { after, nameOf }) => {
    const person = after[first];
    if (person === null || person !== after[second]) return null;
    return refuse(
      "same person",
      "Review needs a second person.",
      `Ask someone other than ${nameOf(person)}.`,
      [{ field: "reviewerId", label: "Reviewer", not: after[second] }],
    );
  },
});
