"use client";
import { UserPlus } from "lucide-react";
import type { ReviewRow } from "@/core/ship/review-queue";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { usePanel } from "@/ui/kit/panel-context";
import { Size } from "@/ui/kit/sizes";
import { exact, shortDate } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { WorkSummary } from "./work-summary";
import type { ReviewsHandle } from "./use-reviews";

/** An item of the queue: what it is, what is proposed for it, who reads it or could. */
export function ReviewLine({ row, handle }: { row: ReviewRow; handle: ReviewsHandle }) {
  const { openItem } = usePanel();
  const { project } = handle.view;
  const { key, title, typeId, classOfService, dueOn, estimate, builder, works, days } = row;
  const pressing = classOfService === "expedite" || classOfService === "fixed date";
  return (
    <li className="review-row" data-key={key} data-pressing={pressing || undefined}>
      <div className="min-w-0">
        <button
          type="button"
          data-opens=""
          className="flex min-h-6 max-w-full min-w-0 items-center gap-1.5 text-left hover:underline"
          onClick={() => openItem(key)}
        >
          <TypeGlyph typeId={typeId} />
          <span className="key shrink-0">{key}</span>
          <span className="truncate font-semibold">{title}</span>
        </button>
        <p className="text-[12.5px] text-ink-soft">
          {pressing && (
            <b className="text-signal-ink">
              {classOfService}
              {dueOn && `, ${shortDate(dueOn)}`} ·{" "}
            </b>
          )}
          {row.stateName}
          {builder && `, built by ${builder}`}
          {estimate !== null && (
            <>
              {", size "}
              <Size of={estimate} />
            </>
          )}
        </p>
        {works.map((work) => (
          <WorkSummary key={work.id} work={work} />
        ))}
      </div>
      <Reviewer row={row} handle={handle} />
      <p
        className={`text-right text-[13px] tabular-nums ${days > OLD_DAYS ? "font-semibold text-signal-ink" : "text-ink-soft"}`}
        title={`since ${exact(row.since, project.zone)}`}
      >
        day {days}
      </p>
    </li>
  );
}

/** What waits longer than this to be read is said loudly. */
const OLD_DAYS = 2;

/** More are found on the item. */
const MOST_OFFERED = 5;

/** Who reads it, and who else could, with the reason. */
function Reviewer({ row, handle }: { row: ReviewRow; handle: ReviewsHandle }) {
  const { view, askReviewer } = handle;
  const { reviewer, offered, key } = row;
  const mine = reviewer?.id === view.me;
  const me = offered.find(({ id }) => id === view.me);
  const others = offered.filter(({ id }) => id !== reviewer?.id).slice(0, MOST_OFFERED);
  return (
    <div className="flex items-center gap-2">
      {reviewer ? (
        <>
          <Initials name={reviewer.name} size={24} strong={mine} />
          <span className="truncate text-[13px]">{mine ? "you" : reviewer.name}</span>
        </>
      ) : (
        <span className="text-[13px] text-ink-soft">nobody</span>
      )}
      <span className="flex-1" />
      {view.rights.edit && !reviewer && me && (
        <Button small aria-label={`I read it: ${key}`} onClick={() => void askReviewer(row, me)}>
          I read it
        </Button>
      )}
      {view.rights.edit && (others.length > 0 || reviewer) && (
        <Menu
          align="end"
          trigger={
            <Button small look="quiet" aria-label={`Who reviews ${key}`} title="Who could read it">
              <UserPlus size={15} aria-hidden="true" />
            </Button>
          }
        >
          {others.map((one) => (
            <MenuItem key={one.id} onSelect={() => void askReviewer(row, one)}>
              <span className="flex flex-col">
                <b>{one.name}</b>
                <span className="text-[12.5px] text-ink-soft">{one.why}</span>
              </span>
            </MenuItem>
          ))}
          {reviewer && (
            <MenuItem onSelect={() => void askReviewer(row, null)}>Nobody any more</MenuItem>
          )}
        </Menu>
      )}
    </div>
  );
}
