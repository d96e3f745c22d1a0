"use client";
import { useState } from "react";
import type { CalendarView, FeedMade, FeedOf } from "@/core/plan/calendar-view";
import { planContract } from "@/core/plan/contract";
import { Button, TextButton } from "@/ui/kit/button";
import { copyText } from "@/ui/kit/copy-text";
import { tellProblem } from "@/ui/kit/notice";
import { ask } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";

/** The private addresses at which a calendar program of one's own reads these days. */
export function CalendarFeeds({ view, onChanged }: { view: CalendarView; onChanged: () => void }) {
  return (
    <div className="flex flex-col gap-4">
      <p className="text-[13px] text-ink-soft">
        A private address that any calendar program reads (iCalendar): it shows what you may see, as
        it is when it is read. Whoever knows the address reads it; end it and it leads nowhere.
      </p>
      <Feed
        view={view}
        of="project"
        title={view.project.name}
        holds="its sprints, releases, due and fixed dates"
        onChanged={onChanged}
      />
      <Feed
        view={view}
        of="mine"
        title="Mine"
        holds="what you have with a day, and the sprints and releases of all your projects"
        onChanged={onChanged}
      />
    </div>
  );
}

function Feed({
  view,
  of,
  title,
  holds,
  onChanged,
}: {
  view: CalendarView;
  of: FeedOf;
  title: string;
  holds: string;
  onChanged: () => void;
}) {
  const [address, setAddress] = useState<string | null>(null);
  const params = { key: view.project.key };
  const made = view.feeds[of];
  const doing = (act: () => Promise<unknown>) => () => void act().then(onChanged, tellProblem);
  const make = doing(async () => {
    const answer = await ask(planContract.makeCalendarFeed, { params, body: { of } });
    setAddress(answer.address);
  });
  const end = doing(async () => {
    await ask(planContract.endCalendarFeed, { params, query: { of } });
    setAddress(null);
  });
  return (
    <section aria-label={title} className="border-l-[3px] border-accent pl-3">
      <h3 className="text-[14px] font-semibold">{title}</h3>
      <p className="text-[13px] text-ink-soft">
        {holds}. {madeWords(made, view.project.zone)}
      </p>
      {address !== null && (
        <p className="mt-1 text-[13px]">
          <code className="block [overflow-wrap:anywhere]">{address}</code>
          It is shown this once.{" "}
          <TextButton onClick={() => void copyText(address, "The address is copied.")}>
            Copy it
          </TextButton>
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button small onClick={make}>
          {made ? "Make another address" : "Make an address"}
        </Button>
        {made && (
          <Button small look="danger" onClick={end}>
            End it
          </Button>
        )}
      </div>
    </section>
  );
}

function madeWords(made: FeedMade | null, zone: string): string {
  if (!made) return "";
  const read = made.readAt === null ? "not read yet" : `read last ${exact(made.readAt, zone)}`;
  return `Made ${exact(made.since, zone)}, ${read}.`;
}
