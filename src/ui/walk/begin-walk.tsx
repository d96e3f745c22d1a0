"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { BoardView } from "@/core/board/board-view";
import { MINUTE } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import type { WalkSection } from "@/core/walk/sections";
import {
  USUAL_MINUTES,
  WALK_ORDERS,
  type Walk,
  type WalkOrder,
  type WalkView,
} from "@/core/walk/walk";
import { Button, ButtonLink } from "@/ui/kit/button";
import { CommitNumber } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { usePanel } from "@/ui/kit/panel-context";
import { Select, wordOptions } from "@/ui/kit/select";
import { exact } from "@/ui/kit/time";
import type { WalkSend } from "./use-walk";
import { WalkNotes } from "./walk-notes";

/** Begins a walk, and shows what became of those before. */
export function BeginWalk({
  view,
  walks: { past, left },
  sections,
  send,
}: {
  view: BoardView;
  walks: WalkView;
  sections: readonly WalkSection[];
  send: WalkSend;
}) {
  const [order, setOrder] = useState<WalkOrder>("from the end");
  const [minutes, setMinutes] = useState(USUAL_MINUTES);
  const { project, board, rights } = view;
  const items = sections.reduce((sum, section) => sum + section.items.length, 0);
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-6 py-6">
        <h1 className="text-[22px]">Walk the board “{board.name}”</h1>
        <p className="mt-1 text-ink-soft">
          Together, one item after another: what holds it, and what it needs next. Everybody who
          opens this page looks at the same item; one of you leads.
        </p>
        {rights.edit ? (
          <div className="mt-4 flex flex-wrap items-end gap-3">
            <Field label="In which order">
              <Select value={order} options={wordOptions(WALK_ORDERS)} onChange={setOrder} />
            </Field>
            <Field label="Minutes">
              <CommitNumber
                value={minutes}
                disabled={false}
                min={1}
                onCommit={(n) => setMinutes(Math.min(240, Math.max(1, Math.round(n ?? 0))))}
              />
            </Field>
            <Button
              look="accent"
              disabled={items === 0}
              onClick={() =>
                void send({ kind: "start", id: newId(), board: board.id, order, minutes })
              }
            >
              Begin with {counted(items, "item")}
            </Button>
            <ButtonLink
              look="quiet"
              href={`/p/${project.key}/flow?board=${encodeURIComponent(board.id)}`}
            >
              Back to the board
            </ButtonLink>
          </div>
        ) : (
          <p className="mt-4">When somebody begins one, you can come along here.</p>
        )}
        {left.length > 0 && (
          <section className="mt-6" aria-label="Left for this time">
            <h2 className="text-[15px]">Left for this time</h2>
            <WalkNotes notes={left} />
          </section>
        )}
        <section className="mt-6" aria-label="Walks before">
          <h2 className="text-[15px]">Walks before</h2>
          {past.length === 0 && <p className="text-ink-soft">This board was not walked yet.</p>}
          <ul>
            {past.map((walk) => (
              <PastWalk key={walk.id} walk={walk} zone={project.zone} />
            ))}
          </ul>
        </section>
      </div>
    </div>
  );
}

/** One that is over: when, by whom, how long, what was seen and what was agreed on. */
function PastWalk({ walk, zone }: { walk: Walk; zone: string }) {
  const { openBehind } = usePanel();
  const { order, ledBy, startedAt, endedAt, seen, notes } = walk;
  const took = Math.max(1, Math.round(((endedAt ?? startedAt) - startedAt) / MINUTE));
  const day = exact(startedAt, zone);
  return (
    <li className="border-t border-line py-2" data-walk={walk.id}>
      <p className="flex flex-wrap gap-x-3">
        <b>{day}</b>
        <span>{order}</span>
        <span>led by {ledBy.name}</span>
        <span>{counted(took, "minute")}</span>
        <button
          type="button"
          className="font-semibold underline-offset-4 hover:underline"
          onClick={() => openBehind({ title: `Seen on the walk of ${day}`, ids: seen })}
        >
          {counted(seen.length, "item")} seen
        </button>
      </p>
      <WalkNotes notes={notes} saysKind />
    </li>
  );
}
