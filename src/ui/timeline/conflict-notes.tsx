"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { putAfter } from "@/core/timeline/after";
import type { TimelineView } from "@/core/timeline/view";
import { Button, TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import type { Drawn } from "./use-drawn";
import type { Replanned } from "./use-timeline";

/** So many are told of at once. */
const TOLD = 3;

/** What stands before something that it waits for, and what it takes to put it behind. */
export function ConflictNotes({
  view,
  drawn: { conflicts, standing },
  onPlan,
}: {
  view: TimelineView;
  drawn: Drawn;
  onPlan: (all: Replanned[]) => void;
}) {
  const [all, setAll] = useState(false);
  const { openItem } = usePanel();
  if (conflicts.length === 0) return null;
  const byId = new Map(view.items.map((item) => [item.id, item]));
  const keyOf = (id: string) => byId.get(id)?.key ?? "";
  return (
    <ul className="tl-conflicts" aria-label="Dependencies that do not hold">
      {conflicts.slice(0, all ? undefined : TOLD).map(({ id, forId }) => {
        const moved = putAfter(standing, view.waits, id);
        return (
          <li key={`${id} ${forId}`}>
            <b className="text-alarm">
              <button type="button" className="link" onClick={() => openItem(keyOf(id))}>
                {keyOf(id)}
              </button>{" "}
              stands before{" "}
              <button type="button" className="link" onClick={() => openItem(keyOf(forId))}>
                {keyOf(forId)}
              </button>
              , which it waits for.
            </b>
            {view.mayEdit && moved.length > 0 && (
              <Button
                small
                title={moved.map((one) => keyOf(one.id)).join(", ")}
                onClick={() =>
                  onPlan(
                    moved.map((one) => ({
                      item: byId.get(one.id)!,
                      planned: { plannedFrom: one.from, plannedTo: one.to },
                    })),
                  )
                }
              >
                Put it after ({counted(moved.length, "item")}{" "}
                {moved.length === 1 ? "moves" : "move"})
              </Button>
            )}
          </li>
        );
      })}
      {conflicts.length > TOLD && (
        <li>
          <TextButton onClick={() => setAll(!all)}>
            {all ? "Fewer" : `${conflicts.length - TOLD} more`}
          </TextButton>
        </li>
      )}
    </ul>
  );
}
