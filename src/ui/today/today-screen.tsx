"use client";
import { useRouter } from "next/navigation";
import { DAY_PART_NAMES, DAY_PARTS, type DayLine } from "@/core/today/day";
import { dayWords } from "@/core/calendar/day-words";
import type { TodayView } from "@/core/today/today-view";
import { usePanel } from "@/ui/kit/panel-context";
import { DayRow } from "./day-row";
import { MineLinks } from "./mine-links";
import { PullNext } from "./pull-next";
import { SmallThings } from "./small-things";
import { TeamLines } from "./team-lines";
import { useToday } from "./use-today";

/** One person's start of the day: what is missed, what others wait for, what is in their hands. */
export function TodayScreen({ initial }: { initial: TodayView }) {
  const { openItem } = usePanel();
  const router = useRouter();
  const open = ({ card, projectKey }: Pick<DayLine, "card" | "projectKey">) =>
    projectKey === initial.project.key
      ? openItem(card.key)
      : router.push(`/p/${projectKey}/items/${card.key}`);
  const today = useToday(initial, open);
  const { view } = today;
  const parts = DAY_PART_NAMES.filter((part) => view.day[part].length > 0);
  return (
    <div className="today">
      <div className="today-day">
        <header className="today-head">
          <h1>{dayWords(view.today, view.today)}</h1>
          <p aria-live="polite">
            {view.sentence.map(({ words, urgent }, i) => (
              <span key={words} className={urgent ? "today-urgent" : ""}>
                {i > 0 && (i === view.sentence.length - 1 ? ", and " : ", ")}
                {words}
              </span>
            ))}
            .
          </p>
        </header>
        {parts.length === 0 && <EmptyDay />}
        <div className="today-parts">
          {parts.map((part, i) => (
            <section
              key={part}
              className="today-part"
              data-high={i % 2 === 0 || undefined}
              data-part={part}
              aria-labelledby={`part-${part}`}
            >
              <h2 id={`part-${part}`}>
                {DAY_PARTS[part].title} <span>{DAY_PARTS[part].hint}</span>
                <span className="today-count">{view.day[part].length}</span>
              </h2>
              <ul>
                {view.day[part].map((line) => (
                  <DayRow key={line.card.id} line={line} today={today} onOpen={() => open(line)} />
                ))}
              </ul>
            </section>
          ))}
        </div>
      </div>
      <aside className="today-beside" aria-label="Beside the day">
        <PullNext view={view} today={today} onOpen={open} />
        <TeamLines view={view} />
        <SmallThings view={view} today={today} onOpen={open} />
        <MineLinks />
      </aside>
    </div>
  );
}

/** A day on which nothing waits is a good day. */
function EmptyDay() {
  return (
    <div className="today-empty">
      <svg viewBox="0 0 240 60" aria-hidden="true">
        <path d="M4 46H60L78 14H128L146 46H236" />
      </svg>
      <p>Your hands are free.</p>
      <p className="text-ink-soft">
        A good moment to pull the next thing, or to help something on.
      </p>
    </div>
  );
}
