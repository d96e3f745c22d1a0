"use client";
import Link from "next/link";
import type { Day } from "@/core/calendar/month";
import { counted } from "@/core/formats/counted";
import { listWords } from "@/core/formats/list-words";
import type { CalendarView, DatedItem, DatedSprint } from "@/core/plan/calendar-view";
import { weekNumber } from "@/core/time/week";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** So many items stand on a day before it says how many more there are. */
const ITEMS_SHOWN = 3;
/** How wide the days are against each other: work takes more room than its end. */
const WIDTHS = [1, 1, 1, 1, 1, 0.6, 0.6];
const EDGES = WIDTHS.reduce((edges, width) => [...edges, edges.at(-1)! + width], [0]);

/** A week of a month: the sprints above it, and what stands on each of its days. */
export function CalendarWeek({ days, view }: { days: readonly Day[]; view: CalendarView }) {
  return (
    <section className="cal-week" aria-label={`Week ${weekNumber(days[0])}`}>
      <span className="cal-number" aria-hidden="true">
        {weekNumber(days[0])}
      </span>
      <SprintLine days={days} view={view} />
      {days.map((day) => (
        <CalendarDay key={day} day={day} view={view} />
      ))}
    </section>
  );
}

/** The sprints of a week as one line, that steps where one turns into the next. */
function SprintLine({ days, view }: { days: readonly Day[]; view: CalendarView }) {
  const [first, last] = [days[0], days[6]];
  const sprints = view.sprints.filter(({ from, to }) => from <= last && to >= first);
  const high = (sprint: DatedSprint) => view.sprints.indexOf(sprint) % 2 === 0;
  const edges = sprints.map((sprint) => ({
    sprint,
    begin: EDGES[Math.max(0, days.indexOf(sprint.from))],
    end: sprint.to > last ? EDGES[7] : EDGES[days.indexOf(sprint.to) + 1],
  }));
  const path = edges
    .map(({ sprint, begin, end }, i) => {
      const y = high(sprint) ? 3 : 11;
      const joined = edges[i - 1]?.end === begin;
      return `${joined ? "L" : "M"}${begin} ${y}L${end} ${y}`;
    })
    .join("");
  return (
    <div className="cal-sprints">
      <svg viewBox={`0 0 ${EDGES[7]} 14`} preserveAspectRatio="none" aria-hidden="true">
        <path d={path} />
      </svg>
      {edges.map(({ sprint, begin, end }) => (
        <Link
          key={sprint.id}
          className="cal-sprint"
          data-high={high(sprint) || undefined}
          href={`/p/${view.project.key}/plan/sprints?sprint=${encodeURIComponent(sprint.id)}`}
          title={sprint.goal ? `${sprint.name}: ${sprint.goal}` : `${sprint.name}, no goal yet`}
          style={{
            left: `${(100 * begin) / EDGES[7]}%`,
            maxWidth: `${(100 * (end - begin)) / EDGES[7]}%`,
          }}
        >
          {sprint.name}
          {sprint.standing === "running" && sprint.goal ? ` · ${sprint.goal}` : ""}
        </Link>
      ))}
    </div>
  );
}

function CalendarDay({ day, view }: { day: Day; view: CalendarView }) {
  const holiday = view.holidays.find(({ date }) => date === day);
  const releases = view.releases.filter(({ on }) => on === day);
  const items = view.items.filter(({ on }) => on === day);
  const away = view.away.filter(({ from, to }) => from <= day && day <= to);
  return (
    <div
      className="cal-day"
      data-day={day}
      data-other={day.slice(0, 7) !== view.month.slice(0, 7) || undefined}
      data-free={holiday ? "" : undefined}
      aria-current={day === view.today ? "date" : undefined}
    >
      <span className="cal-date">
        <b>{Number(day.slice(8))}</b>
        {holiday && <span className="truncate">{holiday.name || "no work"}</span>}
      </span>
      {releases.map(({ id, name, on, out }) => (
        <Link
          key={id}
          className="cal-flag"
          data-out={out || undefined}
          data-late={(!out && on < view.today) || undefined}
          title={out ? `${name} went out` : `${name} goes out`}
          href={`/p/${view.project.key}/plan/releases?release=${encodeURIComponent(id)}`}
        >
          {name}
          {!out && on < view.today && ", not out"}
        </Link>
      ))}
      {view.begins
        .filter(({ on }) => on === day)
        .map(({ id, name }) => (
          <Link
            key={id}
            className="cal-begins"
            href={`/p/${view.project.key}/plan/releases?release=${encodeURIComponent(id)}`}
          >
            {name} begins
          </Link>
        ))}
      <Items day={day} items={items} today={view.today} />
      {away.length > 0 && (
        <span
          className="cal-away"
          title={`Away: ${listWords(
            away.map(({ name }) => name),
            "and",
          )}`}
        >
          away: {away.map(({ name }) => name.split(" ")[0]).join(", ")}
        </span>
      )}
    </div>
  );
}

/** What is due on a day; the rest of it behind a figure. */
function Items({ day, items, today }: { day: Day; items: readonly DatedItem[]; today: Day }) {
  const { openItem, openBehind } = usePanel();
  const shown = items.length > ITEMS_SHOWN + 1 ? items.slice(0, ITEMS_SHOWN) : items;
  const more = items.length - shown.length;
  return (
    <>
      {shown.map(({ id, key, title, typeId, fixed, finished }) => (
        <button
          key={id}
          type="button"
          className="cal-item"
          data-fixed={fixed || undefined}
          data-finished={finished || undefined}
          data-late={(!finished && day < today) || undefined}
          title={`${key} ${title}${fixed ? ", fixed date" : ", due"}`}
          onClick={() => openItem(key)}
        >
          <TypeGlyph typeId={typeId} />
          <span className="key">{key}</span>
          <span className="min-w-0 flex-1 truncate">{title}</span>
        </button>
      ))}
      {more > 0 && (
        <button
          type="button"
          className="cal-more"
          onClick={() =>
            openBehind({
              title: `${counted(items.length, "item")} on ${day}`,
              ids: items.map(({ id }) => id),
            })
          }
        >
          {more} more
        </button>
      )}
    </>
  );
}
