"use client";
import { useDraggable } from "@dnd-kit/core";
import { useState } from "react";
import { addDays } from "@/core/calendar/month";
import { counted } from "@/core/formats/counted";
import type { TreePiece, TreeStory } from "@/core/plan/piece-view";
import { SIZE_UNITS, type SizeUnit } from "@/core/plan/sprint-ledger";
import { ChoiceTabs } from "@/ui/kit/choice-tabs";
import { usePanel } from "@/ui/kit/panel-context";
import { problemOf } from "@/ui/kit/request";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { BurnUp } from "./burn-up";
import { ProgressBar } from "./progress-bar";
import { usePiece, type PiecesHandle } from "./use-pieces";

/** A large piece beside the tree: how it got on, and what stands directly under it. */
export function PieceAside({
  piece,
  handle: { view },
}: {
  piece: TreePiece;
  handle: PiecesHandle;
}) {
  const { openItem } = usePanel();
  const { data, error } = usePiece(view.project.key, piece.id);
  const [unit, setUnit] = useState<SizeUnit>("items");
  const { items, done, doing, unsized } = piece.progress;
  return (
    <aside aria-label={piece.title} className="piece-aside">
      <button
        type="button"
        className="text-left text-[15px] font-bold hover:underline"
        onClick={() => openItem(piece.key)}
      >
        {piece.title}
      </button>
      <ProgressBar progress={piece.progress} />
      <p className="text-[13px]">
        <b>{done}</b> done, <b>{doing}</b> in progress, <b>{items - done - doing}</b> not begun
        {unsized > 0 && (
          <span className="text-signal-ink">, no size on {counted(unsized, "one", "of them")}</span>
        )}
      </p>
      <p className="text-[13px] text-ink-soft">{forecastWords(piece, view.today)}</p>
      {error && <p className="text-[13px] text-alarm">{problemOf(error).sentence}</p>}
      {data && data.days.length > 1 && (
        <section aria-label="How it got on" className="mt-2">
          <div className="flex items-baseline gap-2">
            <h2 className="flex-1 text-[14px]">How it got on</h2>
            <ChoiceTabs label="Counted in" values={SIZE_UNITS} chosen={unit} onChoose={setUnit} />
          </div>
          <BurnUp of={{ days: data.days, dueOn: piece.dueOn, until: piece.until }} unit={unit} />
          <p className="text-[12px] text-ink-soft">
            what is under it now, from when it came under it
            {data.unseen > 0 && `; counts also ${data.unseen} you do not see`}
          </p>
        </section>
      )}
      {data && (
        <section aria-label="Directly under it" className="mt-3">
          <h2 className="text-[14px]">Directly under it</h2>
          {data.stories.length === 0 && (
            <p className="text-[13px] text-ink-soft">
              No story of its own. Drag one onto its row, or say on a story what it stands under.
            </p>
          )}
          <ul>
            {data.stories.map((story) => (
              <Story key={story.id} story={story} movable={view.rights.edit} />
            ))}
          </ul>
        </section>
      )}
    </aside>
  );
}

function forecastWords({ until, dueOn, stateKind, progress }: TreePiece, today: string): string {
  const due = dueOn === null ? "no day is promised" : `due ${shortDate(dueOn)}`;
  if (stateKind === "finished") return `finished; ${due}`;
  if (progress.items === progress.done && progress.items > 0)
    return `all under it is done, and it stands open; ${due}`;
  if (!until) return `when is not foretold; ${due}`;
  const day = (days: number | null) =>
    days === null ? "not within a year" : `by ${shortDate(addDays(today, days))}`;
  return `probably (85 %) ${day(until.sure)}, even chance ${day(until.even)}; ${due}`;
}

/** A story under a large piece; dragged onto another one it stands under that. */
function Story({ story, movable }: { story: TreeStory; movable: boolean }) {
  const { openItem } = usePanel();
  const { setNodeRef, listeners, transform } = useDraggable({
    id: story.id,
    disabled: !movable,
    data: { story },
  });
  return (
    <li
      ref={setNodeRef}
      className="piece-story"
      data-key={story.key}
      data-finished={story.stateKind === "finished" || undefined}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 5 }
          : undefined
      }
      {...listeners}
    >
      <TypeGlyph typeId={story.typeId} />
      <button
        type="button"
        className="flex min-h-6 min-w-0 flex-1 items-center gap-1.5 text-left hover:underline"
        onClick={() => openItem(story.key)}
      >
        <span className="key text-[11.5px]">{story.key}</span>
        <span className="truncate">{story.title}</span>
      </button>
      <span className="truncate text-[12px] text-ink-soft">{story.stateName}</span>
      <b className="min-w-4 text-right tabular-nums">{story.points ?? "–"}</b>
    </li>
  );
}
