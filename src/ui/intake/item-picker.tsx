"use client";
import { itemContract } from "@/core/item/contract";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { queryOf } from "@/ui/kit/request";

export interface PickedItem {
  id: string;
  key: string;
  title: string;
  about?: string;
}

/** One item of a project: from those proposed, or found by key or words. */
export function ItemPicker({
  projectKey,
  label,
  proposed,
  value,
  onChange,
}: {
  projectKey: string;
  label: string;
  proposed: readonly PickedItem[];
  value: string;
  onChange: (id: string) => void;
}) {
  const [text, setText] = useState("");
  const wanted = useDeferredValue(text.trim());
  const { data: found = [] } = useQuery({
    ...queryOf(itemContract.search, { query: { q: wanted } }, { retry: false }),
    enabled: wanted.length > 1,
  });
  const own = found
    .filter((f) => f.key.startsWith(`${projectKey}-`))
    .map((f) => ({ id: f.id, key: f.key, title: f.title, about: f.stateName }));
  const shown: readonly PickedItem[] = wanted.length > 1 ? own : proposed;
  const kept = shown.some((s) => s.id === value)
    ? null
    : [...proposed, ...own].find((s) => s.id === value);
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_200px] gap-2">
      <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
        {label}
        <select className="field" required value={value} onChange={(e) => onChange(e.target.value)}>
          <option value="" disabled>
            {shown.length === 0 ? "nothing found" : "choose one"}
          </option>
          {[...(kept ? [kept] : []), ...shown].map((s) => (
            <option key={s.id} value={s.id}>
              {s.key} {s.title}
              {s.about && ` (${s.about})`}
            </option>
          ))}
        </select>
      </label>
      <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
        Another, by key or words
        <input
          className="field"
          type="search"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
    </div>
  );
}
