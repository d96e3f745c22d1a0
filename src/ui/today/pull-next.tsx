"use client";
import { useState } from "react";
import type { DayLine } from "@/core/today/day";
import type { TodayView } from "@/core/today/today-view";
import { Button, TextButton } from "@/ui/kit/button";
import { shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { Today } from "./day-row";

/** What to pull next in the project that is open, with why, and how much room there is. */
export function PullNext({
  view,
  today,
  onOpen,
}: {
  view: TodayView;
  today: Today;
  onOpen: (line: Pick<DayLine, "card" | "projectKey">) => void;
}) {
  const [at, setAt] = useState(0);
  const { pull, noPull, room, project } = view;
  const pulled = pull[Math.min(at, pull.length - 1)];
  const line = pulled && { card: pulled.card, projectKey: project.key };
  return (
    <section aria-label="Pull next">
      <h2>
        Pull next <span>in {project.name}</span>
      </h2>
      {pulled ? (
        <div className="pull-card">
          <p className="flex items-center gap-2">
            <TypeGlyph typeId={pulled.card.typeId} size={15} />
            <span className="key flex-1">{pulled.card.key}</span>
            {pulled.card.dueOn && (
              <b className="text-signal-ink">by {shortDate(pulled.card.dueOn)}</b>
            )}
          </p>
          <TextButton className="day-row-title" onClick={() => onOpen(line)}>
            {pulled.card.title}
          </TextButton>
          <p className="text-[13px] text-ink-soft">{pulled.words}</p>
          <div className="flex gap-2">
            <Button
              look="accent"
              small
              onClick={() => void today.move(line, pulled.move.to, pulled.move.verb)}
            >
              Pull it
            </Button>
            {pull.length > 1 && (
              <Button small onClick={() => setAt((at + 1) % pull.length)}>
                Next one
              </Button>
            )}
          </div>
        </div>
      ) : (
        <p className="text-ink-soft">{noPull}</p>
      )}
      {room && (
        <p className="pull-room">
          <b>Your room</b>
          <span className={room.over ? "font-bold text-alarm" : ""}>{room.words}</span>
          {room.away && <span>{room.away}</span>}
        </p>
      )}
    </section>
  );
}
