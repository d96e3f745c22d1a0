"use client";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { isGroupable } from "@/core/item/list/query";
import { ZOOMS } from "@/core/timeline/scale";
import { ChoiceTabs } from "@/ui/kit/choice-tabs";
import { Select } from "@/ui/kit/select";
import type { LookHandle } from "@/ui/view/use-look";

/** What the rows of a timeline are, as the rest of a sentence. */
export function TimelineWords({ handle }: { handle: LookHandle }) {
  const { look, change, views } = handle;
  const { vocabulary } = views;
  return (
    <>
      <span>rows by</span>
      <Select
        label="Rows by"
        words
        value={look.group ?? ""}
        options={[
          { value: "", label: "large piece" },
          ...factsOffered(vocabulary)
            .filter(isGroupable)
            .map((fact) => ({ value: fact as string, label: factLabel(fact, vocabulary) })),
        ]}
        onChange={(group) => change({ group: (group || null) as typeof look.group })}
      />
    </>
  );
}

/** How close it is looked at. */
export function ZoomTabs({ handle }: { handle: LookHandle }) {
  const { look, change } = handle;
  return (
    <ChoiceTabs
      label="How close"
      values={ZOOMS}
      chosen={look.zoom}
      onChoose={(zoom) => change({ zoom })}
    />
  );
}
