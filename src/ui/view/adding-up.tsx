"use client";
import type { FactName } from "@/core/condition/facts";
import { factLabel } from "@/core/condition/vocabulary";
import { amountsOver } from "@/core/item/amount";
import { Select } from "@/ui/kit/select";
import type { LookHandle } from "./use-look";

/** Which number is added up beside every count, in the sentence that says what is shown. */
export function AddingUp({ handle: { look, views, change } }: { handle: LookHandle }) {
  const { vocabulary } = views;
  const amounts = amountsOver(vocabulary);
  return (
    <>
      <span>adding up</span>
      <Select
        label="Adding up"
        words
        placeholder="a field that is gone"
        value={look.sum ?? ""}
        options={[
          ...amounts.map((fact) => ({ value: fact as string, label: factLabel(fact, vocabulary) })),
          { value: "", label: "nothing" },
        ]}
        onChange={(sum) => change({ sum: sum === "" ? null : (sum as FactName) })}
      />
    </>
  );
}
