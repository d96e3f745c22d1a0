import { factOf, type AskedAt, type AskedItem, type FactName } from "@/core/condition/facts";

/** What the values of one fact come to over some items. Items without a value are left out. */
export type Summary =
  | {
      kind: "number";
      /** How many items have a value. */
      of: number;
      sum: number;
      mean: number | null;
      /** The value in the middle, or half way between the two there. */
      median: number | null;
    }
  | { kind: "date"; of: number; earliest: string | null; latest: string | null };

/** Over some items what one of their facts comes to. */
export function summaryOf(fact: FactName, items: readonly AskedItem[], at: AskedAt): Summary {
  const values = items.map((i) => factOf(fact).of(i, at)).filter((v) => v !== null);
  if (factOf(fact).kind === "date") return dates(values as string[]);
  return numbers(values as number[]);
}

function dates(values: readonly string[]): Summary {
  const sorted = [...values].sort();
  return {
    kind: "date",
    of: sorted.length,
    earliest: sorted[0] ?? null,
    latest: sorted.at(-1) ?? null,
  };
}

function numbers(values: readonly number[]): Summary {
  const sorted = [...values].sort((a, b) => a - b);
  const of = sorted.length;
  const sum = sorted.reduce((total, value) => total + value, 0);
  const middle = sorted.slice(Math.floor((of - 1) / 2), Math.floor(of / 2) + 1);
  return {
    kind: "number",
    of,
    sum,
    mean: of === 0 ? null : sum / of,
    median: of === 0 ? null : middle.reduce((total, value) => total + value, 0) / middle.length,
  };
}
