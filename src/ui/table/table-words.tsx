"use client";
import { ArrowDown, ArrowUp } from "lucide-react";
import { factsOffered, factLabel } from "@/core/condition/vocabulary";
import { isGroupable, isSortable } from "@/core/item/list/query";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { AddingUp } from "@/ui/view/adding-up";
import type { LookHandle } from "@/ui/view/use-look";
import { TableColumns } from "./column-chooser";

/** How a table is arranged, as the rest of a sentence. */
export function TableWords({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary } = views;
  const offered = (fits: typeof isSortable) =>
    factsOffered(vocabulary)
      .filter(fits)
      .map((fact) => ({ value: fact as string, label: factLabel(fact, vocabulary) }));
  const [first] = look.sort;
  return (
    <>
      <span>in groups by</span>
      <Select
        label="In groups by"
        words
        value={look.group ?? ""}
        options={[{ value: "", label: "nothing" }, ...offered(isGroupable)]}
        onChange={(group) => change({ group: (group || null) as typeof look.group })}
      />
      <AddingUp handle={handle} />
      <span>sorted by</span>
      <Select
        label="Sorted by"
        words
        value={first?.fact ?? ""}
        options={[{ value: "", label: "rank" }, ...offered(isSortable)]}
        onChange={(fact) =>
          change({
            sort: fact === "" ? [] : [{ fact: fact as typeof first.fact, descending: false }],
          })
        }
      />
      {first && (
        <Button
          look="quiet"
          small
          className="!px-1"
          aria-label="Turn the order round"
          aria-pressed={first.descending}
          onClick={() =>
            change({ sort: look.sort.with(0, { ...first, descending: !first.descending }) })
          }
        >
          {first.descending ? (
            <ArrowDown size={13} aria-hidden="true" />
          ) : (
            <ArrowUp size={13} aria-hidden="true" />
          )}
        </Button>
      )}
      {look.sort.length > 1 && (
        <span>
          then by{" "}
          {look.sort
            .slice(1)
            .map(({ fact }) => factLabel(fact, vocabulary))
            .join(", ")}
        </span>
      )}
      <span>with</span>
      <TableColumns handle={handle} />
    </>
  );
}
