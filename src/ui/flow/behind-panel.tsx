"use client";
import { Button } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import { usePanel, type Behind } from "@/ui/kit/panel-context";
import { problemOf, queryOf } from "@/ui/kit/request";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { itemContract } from "@/core/item/contract";

/** The items behind a figure, docked at the right. */
export function BehindPanel({ projectKey, behind }: { projectKey: string; behind: Behind }) {
  const { close, openItem } = usePanel();
  const ids = behind.ids.filter((id) => id !== OUTSIDE_VIEW);
  const unseen = behind.ids.length - ids.length + (behind.unseen ?? 0);
  const all = ids.length + unseen;
  const { data, error } = useQuery({
    ...queryOf(itemContract.behind, { params: { key: projectKey }, body: { ids } }),
  });
  return (
    <aside
      aria-label={behind.title}
      className="flex w-[380px] shrink-0 flex-col border-l border-line-strong bg-sheet"
    >
      <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line px-4">
        <h2 className="flex-1 truncate text-[14px]">{behind.title}</h2>
        <span className="text-ink-soft">{counted(all, "item")}</span>
        <Button look="quiet" small aria-label="Close the list" onClick={close}>
          <X size={16} aria-hidden="true" />
        </Button>
      </div>
      <ul className="flex-1 overflow-y-auto p-1">
        {error && (
          <li role="alert" className="p-3">
            {problemOf(error).sentence} {problemOf(error).help}
          </li>
        )}
        {!data && !error && <li className="p-3 text-ink-soft">Looking them up…</li>}
        {data?.length === 0 && unseen === 0 && (
          <li className="p-3 text-ink-soft">There is none just now.</li>
        )}
        {data?.map((row) => (
          <li key={row.id}>
            <button
              type="button"
              onClick={() => openItem(row.key)}
              className="flex w-full items-center gap-2 rounded-[3px] px-3 py-1.5 text-left hover:bg-accent-soft"
            >
              <TypeGlyph typeId={row.typeId} />
              <span className="key w-[70px]">{row.key}</span>
              <span className="flex-1 truncate">{row.title}</span>
              <span className="text-[12.5px] text-ink-soft">{row.stateName}</span>
            </button>
          </li>
        ))}
        {unseen > 0 && (
          <li className="px-3 py-2 text-[13px] text-ink-soft">
            {unseen === 1 ? "1 more item counts" : `${unseen} more items count`} that you may not
            see.
          </li>
        )}
      </ul>
    </aside>
  );
}
