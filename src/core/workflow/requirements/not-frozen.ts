import { shortDate } from "@/core/calendar/day-words";
import { environmentKey } from "@/core/ship/environment";
import { wordsOf } from "../parameter";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

/** Nothing goes to an environment on the days on which it is frozen. */
export const notFrozen = requirementKind({
  title: "an environment is not frozen",
  refused: "an environment was frozen",
  parameters: { environment: wordsOf(60) },
  begins: { environment: "live" },
  editors: { environment: { kind: "text", label: "Environment", most: 60 } },
  words: ({ environment }) => `${environment} not to be frozen`,
  unmet: ({ environment }, { frozen = [] }) => {
    const found = frozen.find((one) => environmentKey(one.name) === environmentKey(environment));
    if (!found) return null;
    const why = found.why === "" ? "" : `: ${found.why}`;
    return refuse(
      "frozen",
      `${found.name} is frozen until ${shortDate(found.until)}${why}.`,
      "Wait until then; a lead can change the frozen days.",
    );
  },
});
