import { z } from "zod";
import { refuse, type Ask } from "../refusal";
import { requirementKind } from "./kind";

/** Nobody reviews their own work. */
export const differentPeople = requirementKind({
  title: "the reviewer is not the assignee",
  refused: "no reviewer beside the assignee was set",
  parameters: { first: z.literal("reviewerId"), second: z.literal("assigneeId") },
  begins: { first: "reviewerId", second: "assigneeId" },
  editors: {},
  words: () => "the reviewer is not the assignee",
  unmet: ({ first, second }, { after, nameOf }) => {
    const person = after[first];
    const asks: Ask[] = [{ field: "reviewerId", label: "Reviewer", not: after[second] }];
    if (person === null)
      return refuse(
        "field missing",
        "It has no reviewer.",
        "Set one: somebody else reads it.",
        asks,
      );
    if (person !== after[second]) return null;
    return refuse(
      "same person",
      "Review needs a second person.",
      `Ask someone other than ${nameOf(person)}.`,
      asks,
    );
  },
});
