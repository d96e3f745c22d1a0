"use client";
import { useState, type KeyboardEvent, type PointerEvent, type ReactNode } from "react";
import { spotMoved, type FileSpot, type SeenSpot } from "@/core/talk/spot";
import { Button } from "@/ui/kit/button";
import { goToPlace } from "@/ui/kit/use-hash";
import { Composer } from "@/ui/talk/composer";
import { commentPlace } from "@/ui/talk/use-named-comment";
import type { ItemHandle } from "./use-item";

/** A remark that stands on a place. */
export interface Remark extends SeenSpot {
  commentId: string;
  author: string;
  words: string;
}

/** The remarks on a file, in the order in which they were made. */
export const remarksOn = ({ view }: ItemHandle, fileId: string): Remark[] =>
  view.talk.comments.flatMap(({ id, spot, author, body }) =>
    spot?.fileId === fileId ? [{ ...spot, commentId: id, author, words: body }] : [],
  );

const STEP = 0.02;
const STEPS: Record<string, { right?: number; down?: number }> = {
  ArrowRight: { right: STEP },
  ArrowLeft: { right: -STEP },
  ArrowDown: { down: STEP },
  ArrowUp: { down: -STEP },
};

/** A picture or a page with the remarks on its places, and where another is put. */
export function SpotLayer({
  handle,
  fileId,
  page,
  children,
}: {
  handle: ItemHandle;
  fileId: string;
  page: number | null;
  children: ReactNode;
}) {
  const { view } = handle;
  const [placing, setPlacing] = useState<Pick<FileSpot, "x" | "y"> | null>(null);
  const remarks = remarksOn(handle, fileId).filter((one) => one.page === page);
  const may = view.rights.comment && view.talk.closed !== "nobody";
  const place = (event: PointerEvent<HTMLElement>) => {
    if (!placing) return;
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    setPlacing(
      spotMoved(
        { x: 0, y: 0 },
        { right: (event.clientX - left) / width, down: (event.clientY - top) / height },
      ),
    );
  };
  const step = (event: KeyboardEvent) => {
    const by = STEPS[event.key];
    if (!by || !placing) return;
    event.preventDefault();
    setPlacing(spotMoved(placing, by));
  };
  return (
    <div className="spots">
      <div className="spots-on" data-placing={placing !== null || undefined} onPointerUp={place}>
        {children}
        {remarks.map(({ commentId, number, x, y, author, words }) => (
          <button
            key={commentId}
            type="button"
            className="spot"
            style={at({ x, y })}
            title={`${author}: ${words}`}
            aria-label={`Remark ${number}, by ${author}`}
            onClick={() => goToPlace(commentPlace(commentId))}
          >
            {number}
          </button>
        ))}
        {placing && (
          <button
            type="button"
            className="spot"
            data-new=""
            style={at(placing)}
            aria-label="The place of the new remark; arrows move it"
            autoFocus
            onKeyDown={step}
          >
            +
          </button>
        )}
      </div>
      {placing ? (
        <div className="spots-new">
          <p className="text-[12.5px] text-ink-soft">
            Press on the place that it is about, or move the mark by the arrow keys.
          </p>
          <Composer
            handle={handle}
            spot={{ fileId, page, ...placing }}
            onDone={() => setPlacing(null)}
          />
        </div>
      ) : (
        may && (
          <Button small look="quiet" onClick={() => setPlacing({ x: 0.5, y: 0.5 })}>
            Remark on a place
          </Button>
        )
      )}
    </div>
  );
}

const at = ({ x, y }: Pick<FileSpot, "x" | "y">) => ({ left: `${x * 100}%`, top: `${y * 100}%` });
