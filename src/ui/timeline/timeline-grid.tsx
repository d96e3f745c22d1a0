"use client";
import { ChevronDown, ChevronRight } from "lucide-react";
import type { CSSProperties, RefObject } from "react";
import { counted } from "@/core/formats/counted";
import type { TimelineRow } from "@/core/timeline/rows";
import type { TimelineItem } from "@/core/timeline/view";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { usePanel } from "@/ui/kit/panel-context";
import { TimelineAxis, TimelineFlags, TimelineLines } from "./timeline-axis";
import { TimelineBar } from "./timeline-bar";
import { TimelineLinks } from "./timeline-links";
import { useBarMoves, type BarMoves } from "./use-bar-moves";
import type { Drawn } from "./use-drawn";
import type { TimelineHandle } from "./use-timeline";

/** Names beside bars, drawn as they come into sight. */
export function TimelineGrid({
  timeline,
  scroller,
  drawn,
  nameOf,
}: {
  timeline: TimelineHandle;
  scroller: RefObject<HTMLDivElement | null>;
  drawn: Drawn;
  nameOf: (personId: string) => string | null;
}) {
  const { view, plan, waiting } = timeline;
  const { openItem } = usePanel();
  const moves = useBarMoves({
    day: drawn.day,
    today: view.today,
    onPlan: (item, planned) => void plan([{ item, planned }]),
  });
  const width = drawn.names + drawn.at(drawn.range.last + 1);
  const inConflict = new Set(drawn.conflicts.map(({ id }) => id));
  return (
    <div
      ref={scroller}
      className="tl-grid"
      role="region"
      aria-label="Timeline"
      aria-busy={waiting}
      style={{ "--names": `${drawn.names}px` } as CSSProperties}
      tabIndex={0}
    >
      <div className="tl-head" style={{ width }}>
        <div className="tl-corner" />
        <div className="tl-axis">
          <TimelineAxis view={view} drawn={drawn} />
        </div>
      </div>
      <div className="tl-body" style={{ width, height: drawn.whole }} role="list">
        <div className="tl-under" style={{ left: drawn.names }}>
          <TimelineLines view={view} drawn={drawn} />
          <TimelineLinks view={view} drawn={drawn} />
        </div>
        {drawn.drawn.map(({ index, start }) => {
          const row = drawn.rows[index];
          return (
            <div
              key={row.kind === "item" ? row.item.id : `group ${row.key}`}
              role="listitem"
              className="tl-row"
              data-kind={row.kind}
              data-item={row.kind === "item" ? row.item.key : undefined}
              style={{ transform: `translateY(${start}px)`, height: drawn.height, width }}
            >
              {row.kind === "item" ? (
                <ItemLine
                  row={row}
                  drawn={drawn}
                  today={view.today}
                  conflict={inConflict.has(row.item.id)}
                  moves={moves}
                  nameOf={nameOf}
                  onOpen={() => openItem(row.item.key)}
                />
              ) : (
                <button
                  type="button"
                  className="tl-name tl-group"
                  aria-expanded={row.open}
                  onClick={() => drawn.turn(`group ${row.key}`)}
                >
                  <Fold open={row.open} />
                  <b>{row.label}</b>
                  <span className="text-ink-soft">{row.count}</span>
                </button>
              )}
            </div>
          );
        })}
      </div>
      <div className="tl-feet" style={{ width }}>
        <div className="tl-corner" />
        <div className="tl-axis">
          <TimelineFlags view={view} drawn={drawn} />
        </div>
      </div>
    </div>
  );
}

const Fold = ({ open }: { open: boolean }) =>
  open ? (
    <ChevronDown size={14} aria-hidden="true" />
  ) : (
    <ChevronRight size={14} aria-hidden="true" />
  );

function ItemLine({
  row: { item, bar, depth, open },
  drawn,
  today,
  conflict,
  moves,
  nameOf,
  onOpen,
}: {
  row: Extract<TimelineRow, { kind: "item" }>;
  drawn: Drawn;
  today: number;
  conflict: boolean;
  moves: BarMoves;
  nameOf: (personId: string) => string | null;
  onOpen: () => void;
}) {
  return (
    <>
      <div className="tl-name" style={{ paddingLeft: 6 + depth * 18 }}>
        {open === null ? (
          <span className="w-6 shrink-0" />
        ) : (
          <button
            type="button"
            className="tl-fold"
            aria-expanded={open}
            aria-label={`What is under ${item.key}`}
            onClick={() => drawn.turn(item.id)}
          >
            <Fold open={open} />
          </button>
        )}
        <TypeGlyph typeId={item.typeId} />
        <button type="button" className="tl-title" title={item.title} onClick={onOpen}>
          {item.below ? (
            <b>{item.title}</b>
          ) : (
            <>
              <span className="key">{item.key}</span> {item.title}
            </>
          )}
        </button>
        <span className="tl-more">{besideName(item, nameOf)}</span>
      </div>
      <div className="tl-lane">
        <TimelineBar
          item={item}
          bar={bar}
          at={drawn.at}
          today={today}
          conflict={conflict}
          moves={moves}
          onOpen={onOpen}
        />
      </div>
    </>
  );
}

/** Of a large piece how far it is; of an item who has it. */
function besideName(
  { below, assigneeId }: TimelineItem,
  nameOf: (personId: string) => string | null,
): string {
  if (below && below.items > 0) return `${below.done} of ${below.items}`;
  if (below) return counted(0, "item");
  return assigneeId === null ? "" : (nameOf(assigneeId)?.split(" ")[0] ?? "");
}
