"use client";
import { useQuery } from "@tanstack/react-query";
import { counted } from "@/core/formats/counted";
import { planContract } from "@/core/plan/contract";
import type { AlikeSized } from "@/core/plan/sizing-view";
import { usePanel } from "@/ui/kit/panel-context";
import { problemOf, queryOf } from "@/ui/kit/request";
import { Size } from "@/ui/kit/sizes";

/** Finished items that are much like one, with how large they were and how long they took. */
export function AlikeItems({
  projectKey,
  itemId,
  initial,
}: {
  projectKey: string;
  itemId: string;
  /** Where the page came with them. */
  initial?: AlikeSized[];
}) {
  const { openItem } = usePanel();
  const { data, error } = useQuery({
    ...queryOf(planContract.alike, { params: { key: projectKey }, query: { item: itemId } }),
    initialData: initial && { alike: initial },
  });
  if (error) return <p className="text-[13px] text-alarm">{problemOf(error).sentence}</p>;
  if (!data) return <p className="text-[13px] text-ink-soft">Looking for what is like it …</p>;
  if (data.alike.length === 0)
    return (
      <p className="mt-2 text-[13px] text-ink-soft">Nothing finished and sized is much like it.</p>
    );
  return (
    <section aria-label="Finished and alike" className="mt-3">
      <h3 className="text-[13px] font-semibold">Finished, and much like it</h3>
      <ul className="alike-items">
        {data.alike.map(({ id, key, title, size, days }) => (
          <li key={id}>
            <b>
              <Size of={size} />
            </b>
            <button
              type="button"
              className="flex min-h-6 min-w-0 items-center gap-1.5 text-left hover:underline"
              onClick={() => openItem(key)}
            >
              <span className="key text-[11.5px]">{key}</span>
              <span className="truncate">{title}</span>
            </button>
            <span className="whitespace-nowrap text-ink-soft">took {counted(days, "day")}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
