"use client";
import { X } from "lucide-react";
import { counted } from "@/core/formats/counted";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import type { BehindGroup, BehindRow } from "@/core/item/list/behind";
import { Button } from "@/ui/kit/button";
import { MoreRows } from "@/ui/kit/more-rows";
import { usePanel, type Behind } from "@/ui/kit/panel-context";
import { problemOf } from "@/ui/kit/request";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { BehindOrder } from "./behind-order";
import { useBehind } from "./use-behind";

/** The items behind a figure, docked at the right. */
export function BehindPanel({ projectKey, behind }: { projectKey: string; behind: Behind }) {
  const { close } = usePanel();
  const ids = behind.ids.filter((id) => id !== OUTSIDE_VIEW);
  const unseen = behind.ids.length - ids.length + (behind.unseen ?? 0);
  const list = useBehind(projectKey, ids);
  const { head, rows, error } = list;
  return (
    <aside
      aria-label={behind.title}
      className="flex w-[380px] shrink-0 flex-col border-l border-line-strong bg-sheet"
    >
      <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line px-4">
        <h2 className="flex-1 truncate text-[14px]">{behind.title}</h2>
        <span className="text-ink-soft">{counted(ids.length + unseen, "item")}</span>
        <Button look="quiet" small aria-label="Close the list" onClick={close}>
          <X size={16} aria-hidden="true" />
        </Button>
      </div>
      {head && ids.length > 1 && (
        <BehindOrder head={head} order={list.order} onOrder={list.setOrder} />
      )}
      <div className="flex-1 overflow-y-auto p-1">
        {error && (
          <p role="alert" className="p-3">
            {problemOf(error).sentence} {problemOf(error).help}
          </p>
        )}
        {!head && !error && <p className="p-3 text-ink-soft">Looking them up…</p>}
        {head && rows.length === 0 && unseen === 0 && (
          <p className="p-3 text-ink-soft">There is none just now.</p>
        )}
        {head && <Groups groups={head.groups} rows={rows} />}
        {list.rest > 0 && <MoreRows key={rows.length} rest={list.rest} onMore={list.more} />}
        {unseen > 0 && (
          <p className="px-3 py-2 text-[13px] text-ink-soft">
            {unseen === 1 ? "1 more item counts" : `${unseen} more items count`} that you may not
            see.
          </p>
        )}
      </div>
    </aside>
  );
}

/** The rows under the heads of their groups, as many of them as are there. */
function Groups({ groups, rows }: { groups: readonly BehindGroup[]; rows: readonly BehindRow[] }) {
  const before = groups.map((_, i) =>
    groups.slice(0, i).reduce((sum, group) => sum + group.count, 0),
  );
  return groups.map((group, i) => {
    const members = rows.slice(before[i], before[i] + group.count);
    if (members.length === 0) return null;
    return (
      <section key={`${group.label} ${i}`} aria-label={group.label || undefined}>
        <GroupHead group={group} alone={groups.length === 1 && group.label === ""} />
        <ul>
          {members.map((row) => (
            <Row key={row.id} row={row} />
          ))}
        </ul>
      </section>
    );
  });
}

/** What a group is, how many it has and what they come to. */
function GroupHead({ group, alone }: { group: BehindGroup; alone: boolean }) {
  const [estimate] = group.sums;
  const size =
    estimate?.kind === "number" && estimate.of > 0
      ? `estimate ${estimate.sum}${estimate.of < group.count ? `, ${estimate.of} of ${group.count} have one` : ""}`
      : null;
  if (alone && size === null) return null;
  return (
    <h3 className="flex items-baseline gap-2 border-b border-line px-3 pt-2 pb-1 text-[13px]">
      {!alone && (
        <>
          <span>{group.label}</span>
          <span className="font-normal text-ink-soft">{group.count}</span>
        </>
      )}
      {size && <span className="ml-auto font-normal text-ink-soft">{size}</span>}
    </h3>
  );
}

function Row({ row }: { row: BehindRow }) {
  const { openItem } = usePanel();
  return (
    <li>
      <button
        type="button"
        onClick={() => openItem(row.key)}
        className="flex w-full items-center gap-2 rounded-[3px] px-3 py-1.5 text-left hover:bg-accent-soft"
      >
        <TypeGlyph typeId={row.typeId} />
        <span className="key w-[70px] shrink-0">{row.key}</span>
        <span className="min-w-0 flex-1 truncate">{row.title}</span>
        <span className="max-w-[120px] shrink-0 truncate text-[12.5px] text-ink-soft">
          {row.sortedBy ?? row.stateName}
        </span>
      </button>
    </li>
  );
}
