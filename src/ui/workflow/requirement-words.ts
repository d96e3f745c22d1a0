import { FIELD_WORDS } from "@/core/item/fields";
import type { Requirement } from "@/core/workflow/workflow";

/** What a transition demands, as people read it. */
export function requirementWords(requirement: Requirement): string {
  switch (requirement.kind) {
    case "filled":
      return `needs ${requirement.field === "howToTest" ? "a note on how to test" : `a ${FIELD_WORDS[requirement.field]}`.replace("a assignee", "an assignee").replace("a estimate", "an estimate")}`;
    case "different people":
      return "the reviewer is not the assignee";
    case "reason":
      return "says why";
    case "outcome":
      return `names an outcome (${requirement.allowed.join(", ")})`;
  }
}
