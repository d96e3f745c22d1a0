"use client";
import { FieldGroup } from "@/ui/kit/field";
import { findContract } from "@/core/find/contract";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Combobox } from "@/ui/kit/combobox";
import { queryOf } from "@/ui/kit/request";

export interface PickedItem {
  id: string;
  key: string;
  title: string;
  about?: string;
  typeId?: string;
}

/** One item of a project, or of any: from those proposed, or found by key or words. */
export function ItemPicker({
  projectKey,
  anywhere = false,
  not,
  label,
  proposed,
  chosen,
  openOnly = false,
  onChange,
}: {
  projectKey: string;
  /** Whether items of other projects are found too. */
  anywhere?: boolean;
  /** Id of one that cannot be chosen. */
  not?: string;
  label: string;
  proposed: readonly PickedItem[];
  chosen: PickedItem | null;
  /** Whether what is finished cannot be chosen. */
  openOnly?: boolean;
  onChange: (item: PickedItem) => void;
}) {
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim());
  const { data } = useQuery({
    ...queryOf(
      findContract.items,
      { query: { q: wanted, ...(anywhere ? { at: projectKey } : { project: projectKey }) } },
      { retry: false },
    ),
    enabled: wanted.length > 1,
  });
  const own = (data?.rows ?? [])
    .filter((f) => f.id !== not && !(openOnly && f.finished))
    .map((f) => ({ id: f.id, key: f.key, title: f.title, about: f.stateName, typeId: f.typeId }));
  const shown: readonly PickedItem[] = wanted.length > 1 ? own : proposed;
  const wordsOf = (item: PickedItem) =>
    `${item.key} ${item.title}${item.about ? ` (${item.about})` : ""}`;
  return (
    <FieldGroup label={label}>
      <Combobox
        label={label}
        hint="Search by key or words"
        value={chosen?.id ?? ""}
        chosen={chosen ? wordsOf(chosen) : undefined}
        found={shown.map((item) => ({ value: item.id, label: wordsOf(item) }))}
        onSearch={setText}
        onChange={(id) => onChange(shown.find((item) => item.id === id)!)}
      />
    </FieldGroup>
  );
}
