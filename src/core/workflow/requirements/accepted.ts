import {
  ENOUGH_WORDS,
  isEnough,
  SHOWN_TO_NOBODY,
  stillMissing,
} from "@/core/ship/acceptance/enough";
import { ACCEPTED_BY } from "../accepted-by";
import { refuse } from "../refusal";
import { requirementKind } from "./kind";

/** Those whom it was shown to accept it, as it is now. */
export const accepted = requirementKind({
  title: "those it is shown to accept it",
  refused: "it was not accepted",
  ...ACCEPTED_BY,
  words: ({ by }) => `accepted by ${ENOUGH_WORDS[by]}`,
  unmet: ({ by }, { acceptance = SHOWN_TO_NOBODY }) => {
    if (isEnough(by, acceptance)) return null;
    if (acceptance.asked === 0)
      return refuse(
        "acceptance missing",
        "It was shown to nobody yet.",
        "Show it to whoever accepts it, on the item, under Acceptance.",
      );
    const missing = stillMissing(by, acceptance);
    return refuse(
      "acceptance missing",
      missing === 1 ? "One acceptance is missing." : `${missing} acceptances are missing.`,
      "See on the item, under Acceptance, who has not said a word.",
    );
  },
});
