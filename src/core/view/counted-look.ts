import type { CountedAsked } from "@/core/item/list/counted-values";
import { shownBy, type Look } from "./look";
import { withoutNarrowing } from "./narrow";
import type { NamedCondition } from "./filter-words";

/** Over what the values of a field are counted: what a look shows, as if it were not narrowed by it. */
export const countedOver = (
  look: Pick<Look, "scope" | "filter">,
  fact: CountedAsked["fields"][number]["fact"],
): CountedAsked["fields"][number] => ({
  fact,
  condition: shownBy({ ...look, filter: withoutNarrowing(look.filter, fact) }),
});

/** What is asked to count the values that a look has beside its items. */
export const countedAsked = (look: Look, named: readonly NamedCondition[]): CountedAsked => ({
  board: look.board,
  standing: look.arrangement === "board",
  condition: shownBy(look),
  fields: look.counts.map((fact) => countedOver(look, fact)),
  named: named.map((one) => one.condition),
  sum: look.sum,
});
