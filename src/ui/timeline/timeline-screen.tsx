"use client";
import { PointerSensor, useSensor, useSensors, type DragEndEvent } from "@dnd-kit/core";
import { useRef, useState } from "react";
import { counted } from "@/core/formats/counted";
import { optionsOf } from "@/core/condition/vocabulary";
import { FINISHED_SHOWN, type TimelineItem, type TimelineView } from "@/core/timeline/view";
import type { Look } from "@/core/view/look";
import { Dragging } from "@/ui/kit/dragging";
import { KeysHelp } from "@/ui/kit/keys-help";
import { Note } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { CountedPanel } from "@/ui/view/counted-panel";
import { LookHead } from "@/ui/view/look-head";
import type { LookHandle } from "@/ui/view/use-look";
import { ConflictNotes } from "./conflict-notes";
import { TimelineFile } from "./timeline-file";
import { TimelineGrid } from "./timeline-grid";
import { TimelineWords, ZoomTabs } from "./timeline-words";
import { Undated } from "./undated";
import { useDrawn } from "./use-drawn";
import { useTimeline } from "./use-timeline";

/** What is placed without a forecast takes so many days. */
const USUAL_DAYS = 7;

const KEYS: [string, string][] = [
  ["← →", "Move the bar that has the focus by a day, with Shift by a week"],
  ["Alt ← →", "Move its end"],
  ["Enter", "Keep it there at once; or open the item"],
  ["Esc", "Put it back"],
  ["/", "Filter"],
  ["c", "Show everything again"],
];

/** Items as bars in time: what was, what is planned, and what is foretold. */
export function TimelineScreen({
  handle,
  initial,
  asked,
}: {
  handle: LookHandle;
  initial: TimelineView;
  /** The look that it came for. */
  asked: Look;
}) {
  const { projectKey, look, showAll, views } = handle;
  const timeline = useTimeline(projectKey, look, { initial, asked });
  const { view, forecast, plan } = timeline;
  const { scroller, ...drawn } = useDrawn(look, timeline);
  const [help, setHelp] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  useScreenKeys({
    "/": () => field.current?.focus(),
    c: showAll,
    "?": () => setHelp(true),
  });
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  const people = new Map(
    optionsOf("assigneeId", views.vocabulary).map(({ id, label }) => [id, label] as const),
  );
  const usual = forecast.took ?? USUAL_DAYS;
  const place = (item: TimelineItem, from: number) =>
    void plan([{ item, planned: { plannedFrom: from, plannedTo: from + usual - 1 } }]);
  const placeForetold = (item: TimelineItem) => {
    const sure = forecast.until[item.id]?.sure;
    if (sure == null) return place(item, view.today);
    const to = view.today + sure;
    place(item, Math.max(view.today, to - usual + 1));
  };
  /** A row dropped onto a day is planned from that day on. */
  const dropped = ({ active, activatorEvent, delta }: DragEndEvent) => {
    const item = active.data.current?.item as TimelineItem | undefined;
    const grid = scroller.current;
    if (!item || !grid || !(activatorEvent instanceof PointerEvent)) return;
    const box = grid.getBoundingClientRect();
    const [x, y] = [activatorEvent.clientX + delta.x, activatorEvent.clientY + delta.y];
    if (y < box.top || y > box.bottom || x < box.left + drawn.names || x > box.right) return;
    const along = x - box.left - drawn.names + grid.scrollLeft;
    place(item, drawn.range.first + Math.floor(along / drawn.day));
  };
  const total = view.items.length + view.left.finished + view.left.more;
  return (
    <div className="flex h-full flex-col">
      <LookHead
        handle={handle}
        shown={total}
        total={view.of}
        busy={timeline.waiting}
        filterField={field}
        words={<TimelineWords handle={handle} />}
      >
        <ZoomTabs handle={handle} />
        <TimelineFile handle={handle} view={view} drawn={drawn} />
      </LookHead>
      {timeline.error && (
        <Note kind="problem">
          {problemOf(timeline.error).sentence} {problemOf(timeline.error).help}
        </Note>
      )}
      <Dragging id="timeline" sensors={sensors} onDragEnd={dropped}>
        <div className="flex min-h-0 flex-1">
          <CountedPanel handle={handle} />
          <div className="flex min-w-0 flex-1 flex-col">
            {drawn.rows.length === 0 ? (
              <p className="flex-1 py-12 text-center text-ink-soft">
                {view.items.length === 0
                  ? "Nothing here passes the filter."
                  : "Nothing here has days yet. Place what stands below."}
              </p>
            ) : (
              <TimelineGrid
                timeline={timeline}
                scroller={scroller}
                drawn={drawn}
                nameOf={(id) => people.get(id) ?? null}
              />
            )}
            <div className="tl-foot">
              <div className="flex flex-wrap items-start gap-x-4">
                <ConflictNotes view={view} drawn={drawn} onPlan={(all) => void plan(all)} />
                <p className="tl-legend">
                  <i data-kind="done" /> done <i data-kind="worked" /> worked on{" "}
                  <i data-kind="blocked" /> blocked <i data-kind="planned" /> planned{" "}
                  <i data-kind="fade" /> fading to 85 % sure
                </p>
              </div>
              <LeftOut view={view} />
              <Undated
                items={drawn.undated}
                until={forecast.until}
                mayEdit={view.mayEdit}
                onPlace={placeForetold}
              />
            </div>
          </div>
        </div>
      </Dragging>
      <KeysHelp
        open={help}
        onClose={() => setHelp(false)}
        title="Keys of the timeline"
        keys={KEYS}
      />
    </div>
  );
}

function LeftOut({ view: { left, items } }: { view: TimelineView }) {
  if (left.finished + left.more === 0) return null;
  return (
    <p className="text-[12.5px] text-ink-soft">
      {left.finished > 0 &&
        `${counted(left.finished, "item")} that finished more than ${FINISHED_SHOWN} days ago, under nothing open, ${left.finished === 1 ? "is" : "are"} not drawn. `}
      {left.more > 0 &&
        `Only the first ${items.length.toLocaleString("en")} by rank are drawn, ${left.more.toLocaleString("en")} more are not: filter for what you look for.`}
    </p>
  );
}
