"use client";
import { ChevronLeft, ChevronRight } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { weeksOf } from "@/core/calendar/month";
import { monthWords } from "@/core/calendar/day-words";
import type { CalendarView } from "@/core/plan/calendar-view";
import { Button } from "@/ui/kit/button";
import { Sheet } from "@/ui/kit/sheet";
import { CalendarFeeds } from "./calendar-feeds";
import { CalendarWeek } from "./calendar-week";
import { useCalendar } from "./use-calendar";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Sat", "Sun"];

/** A month: the sprints as they turn, what goes out, what is due, and who is away. */
export function CalendarScreen({ initial }: { initial: CalendarView }) {
  const { view, waiting, readAgain, go, goToThis } = useCalendar(initial);
  const [taking, setTaking] = useState(false);
  return (
    <div className="flex h-full flex-col" aria-busy={waiting}>
      <div className="flex shrink-0 flex-wrap items-center gap-3 border-b border-line px-4 py-2.5">
        <h1 className="min-w-[170px] text-[18px]" aria-live="polite">
          {monthWords(view.month)}
        </h1>
        <span className="flex items-center gap-1">
          <Button small look="quiet" aria-label="The month before" onClick={() => go(-1)}>
            <ChevronLeft size={16} aria-hidden="true" />
          </Button>
          <Button small look="quiet" aria-label="The month after" onClick={() => go(1)}>
            <ChevronRight size={16} aria-hidden="true" />
          </Button>
          {view.today.slice(0, 7) !== view.month.slice(0, 7) && (
            <Button small look="quiet" onClick={goToThis}>
              This month
            </Button>
          )}
        </span>
        <Undated view={view} />
        <span className="flex-1" />
        <Button small onClick={() => setTaking(true)}>
          Into my calendar program
        </Button>
      </div>
      <div className="cal-month">
        <div className="cal-head">
          <span />
          {WEEKDAYS.map((name) => (
            <span key={name}>{name}</span>
          ))}
        </div>
        {weeksOf(view.month).map((week) => (
          <CalendarWeek key={week[0]} days={week} view={view} />
        ))}
      </div>
      <Sheet open={taking} onClose={() => setTaking(false)} title="Into my calendar program">
        <CalendarFeeds view={view} onChanged={() => void readAgain()} />
      </Sheet>
    </div>
  );
}

/** Releases to come that nobody has given a day. */
function Undated({ view: { undated, project } }: { view: CalendarView }) {
  if (undated.length === 0) return null;
  return (
    <p className="text-[13px] text-signal-ink">
      No day yet:{" "}
      {undated.map(({ id, name }, i) => (
        <span key={id}>
          {i > 0 && ", "}
          <Link
            className="font-semibold underline"
            href={`/p/${project.key}/plan/releases?release=${encodeURIComponent(id)}`}
          >
            {name}
          </Link>
        </span>
      ))}
    </p>
  );
}
