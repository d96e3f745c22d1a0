import type { Tally } from "@/core/board/tally";
import type { FactName } from "@/core/condition/facts";
import { factLabel, factUnit, type Vocabulary } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";

/** What is added up on a board, in words. */
export interface AmountWords {
  /** Beside the count of a column; null where there is nothing to say. */
  column: (tally: Tally | undefined, narrowed: boolean) => string | null;
  /** Beside the name of a lane. */
  lane: (tally: Tally | undefined) => string;
}

/** @param sum what is added up; null: nothing */
export function amountWords(sum: FactName | null, vocabulary: Vocabulary): AmountWords {
  const unit = sum === null ? "" : factUnit(sum, vocabulary);
  const amount = (n: number): string[] =>
    sum === null || n === 0
      ? []
      : [
          `${factLabel(sum, vocabulary)} ${n.toLocaleString("en", { maximumFractionDigits: 1 })}${unit ? ` ${unit}` : ""}`,
        ];
  return {
    column: (tally, narrowed) => {
      const { items, amount: n } = tally ?? { items: 0, amount: 0 };
      const words = [...(narrowed ? [`${items} shown`] : []), ...amount(n)];
      return words.length === 0 ? null : words.join(", ");
    },
    lane: (tally) => {
      const { items, amount: n } = tally ?? { items: 0, amount: 0 };
      return [counted(items, "item"), ...amount(n)].join(", ");
    },
  };
}
