import { shortDate } from "@/core/calendar/day-words";
import { factOf, type FactName, type FactValue } from "@/core/condition/facts";
import { factUnit, labelOf, type Vocabulary } from "@/core/condition/vocabulary";

/** What is said where a fact has no value: nobody has it, or it has none. */
export const noneWords = (fact: FactName): string =>
  ["people", "teams"].includes(factOf(fact).options as string) ? "nobody" : "none";

/** What a fact says of an item, short, as a list shows it: "high", "3.5 days", "3 Dec". */
export function valueWords(fact: FactName, value: FactValue, vocabulary: Vocabulary): string {
  const { kind, options } = factOf(fact);
  if (value === null) return noneWords(fact);
  if (kind === "flag") return value === true ? "yes" : "no";
  if (kind === "choice" || (kind === "set" && options !== null))
    return labelOf(fact, value as string, vocabulary);
  if (kind === "date") return shortDate(value as string);
  if (kind !== "number") return String(value);
  const number = (value as number).toLocaleString("en", { maximumFractionDigits: 1 });
  const unit = factUnit(fact, vocabulary);
  return [number, number === "1" ? unit.replace(/s$/, "") : unit].filter(Boolean).join(" ");
}
