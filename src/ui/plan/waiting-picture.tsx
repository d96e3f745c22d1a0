"use client";
import { useMemo } from "react";
import { waitingLayout } from "@/core/plan/waiting-layout";
import { usePanel } from "@/ui/kit/panel-context";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { PlacedItem, WaitingHandle } from "./use-waiting";

/** Measures of the picture, in pixels. */
const COLUMN = 194;
const GAP = 50;
const ROW = 40;
const EDGE = 22;

/** Items in their sprints, with a line from what is waited for to what waits. */
export function WaitingPicture({ handle }: { handle: WaitingHandle }) {
  const { view, items, conflicts, chain } = handle;
  const columns = [
    ...view.sprints.map(({ name, startsOn, endsOn, running }) => ({
      name,
      aside: `${running ? "until" : `${shortDate(startsOn)} –`} ${shortDate(endsOn)}`,
      running,
    })),
    { name: "In no sprint", aside: "", running: false },
  ];
  const { spots, rows } = useMemo(
    () =>
      waitingLayout(
        items.map(({ id, place }) => ({ id, column: place ?? view.sprints.length })),
        view.waits,
      ),
    [items, view],
  );
  const at = new Map(
    spots.map(({ id, column, row }) => [
      id,
      { x: EDGE + column * (COLUMN + GAP), y: row * ROW, column },
    ]),
  );
  const byId = new Map(items.map((item) => [item.id, item]));
  const wrong = new Map(conflicts.map((one) => [`${one.item.id} ${one.waitsFor.id}`, one.kind]));
  const inChain = (id: string, forId: string) => {
    const i = chain.indexOf(forId);
    return i >= 0 && chain[i + 1] === id;
  };
  const width = EDGE * 2 + columns.length * (COLUMN + GAP) - GAP;
  return (
    <div className="wait-picture">
      <div className="wait-head" style={{ width }}>
        {columns.map(({ name, aside, running }, i) => (
          <p
            key={name}
            data-running={running || undefined}
            style={{ left: EDGE + i * (COLUMN + GAP), width: COLUMN }}
          >
            <b>{name}</b> <span>{aside}</span>
          </p>
        ))}
      </div>
      <div className="relative" style={{ width, height: rows * ROW + 12 }}>
        {columns.map(({ name, running }, i) => (
          <i
            key={name}
            className="wait-column"
            data-running={running || undefined}
            style={{ left: EDGE + i * (COLUMN + GAP) - 10, width: COLUMN + 20 }}
          />
        ))}
        <svg className="wait-lines" width={width} height={rows * ROW + 12} aria-hidden="true">
          {view.waits.map(({ id, forId }) => {
            const [to, from] = [at.get(id), at.get(forId)];
            if (!to || !from) return null;
            return (
              <g
                key={`${id} ${forId}`}
                data-wrong={wrong.get(`${id} ${forId}`)}
                data-chain={inChain(id, forId) || undefined}
              >
                <path d={lineOf(from, to)} />
                <path className="wait-arrow" d={arrowAt(from, to)} />
              </g>
            );
          })}
        </svg>
        <ul aria-label="Items that wait or are waited for">
          {spots.map(({ id }) => (
            <WaitingDot key={id} item={byId.get(id)!} handle={handle} at={at.get(id)!} />
          ))}
        </ul>
      </div>
    </div>
  );
}

interface At {
  x: number;
  y: number;
  column: number;
}

/**
 * From the end of what is waited for to the dot of what waits; back from its dot to the end of what
 * waits where that comes first; beside them where both share a column.
 */
function lineOf(from: At, to: At): string {
  const [y1, y2] = [from.y + ROW / 2, to.y + ROW / 2];
  if (from.column === to.column) {
    const end = to.x - 5;
    const out = from.x - Math.min(GAP - 8, 12 + (4 * Math.abs(y2 - y1)) / ROW);
    return `M${from.x} ${y1}C${out} ${y1} ${out} ${y2} ${end} ${y2}`;
  }
  const back = from.column > to.column;
  const [start, end] = back ? [from.x - 4, to.x + COLUMN + 5] : [from.x + COLUMN, to.x - 5];
  const bend = (back ? -1 : 1) * Math.max(24, Math.abs(end - start) / 2);
  return `M${start} ${y1}C${start + bend} ${y1} ${end - bend} ${y2} ${end} ${y2}`;
}

/** At what waits, from where its line comes. */
function arrowAt(from: At, to: At): string {
  const middle = to.y + ROW / 2;
  const [x, by] = from.column > to.column ? [to.x + COLUMN, 7] : [to.x - 2, -7];
  return `M${x + by} ${middle - 4}L${x} ${middle}L${x + by} ${middle + 4}z`;
}

function WaitingDot({
  item,
  handle: { conflicts },
  at,
}: {
  item: PlacedItem;
  handle: WaitingHandle;
  at: At;
}) {
  const { openItem } = usePanel();
  const { seen } = item;
  const wrong = conflicts.find((one) => one.item.id === item.id)?.kind;
  return (
    <li
      className="wait-item"
      data-key={item.key}
      data-kind={item.stateKind}
      data-wrong={wrong}
      style={{ left: at.x, top: at.y, width: COLUMN, height: ROW }}
    >
      <i aria-hidden="true" />
      {seen ? (
        <button
          type="button"
          title={[seen.key, seen.title, seen.team, seen.assignee].filter(Boolean).join(" · ")}
          onClick={() => openItem(seen.key)}
        >
          <span className="flex items-center gap-1.5">
            <TypeGlyph typeId={seen.typeId} />
            <span className="key text-[11.5px]">{seen.key}</span>
            <span className="truncate text-[12px] text-ink-soft">{seen.team}</span>
          </span>
          <span className="block truncate">{seen.title}</span>
        </button>
      ) : (
        <span className="text-[12.5px] italic text-ink-soft">{item.key}</span>
      )}
    </li>
  );
}
