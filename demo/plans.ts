import { DAY, type Instant } from "@/core/calendar/instant";
import { addDays } from "@/core/calendar/month";
import { dayNumber, dayStart, isoDate, parseIsoDate } from "@/core/calendar/zone";
import type { Release, Sprint } from "@/core/plan/sprint";
import { WEEKS, ZONE } from "./projects";

const SPRINT_DAYS = 14;

/** Two-week sprints over the whole history, the one that runs and two to come. */
export function demoSprints(projectId: string, now: Instant): Sprint[] {
  const today = dayNumber(now, ZONE);
  const past = Math.ceil((WEEKS * 7) / SPRINT_DAYS);
  const goals = [
    "Boarding without queues on Saturdays",
    "Gates that survive salt and fog",
    "A timetable that is right at five in the morning",
    "Fewer calls from the quay",
    "Ready for the summer crowds",
  ];
  return Array.from({ length: past + 3 }, (_, i) => {
    const first = today - 5 - (past - i) * SPRINT_DAYS;
    return {
      id: `${projectId}-sprint-${i + 1}`,
      name: `Sprint ${i + 1}`,
      goal: goals[i % goals.length],
      startsOn: isoDate(first),
      endsOn: isoDate(first + SPRINT_DAYS - 1),
    };
  });
}

/** How the sprints that are over ended: most of their goals were reached. */
export function howSprintsEnded(sprints: readonly Sprint[], now: Instant): EndedSprint[] {
  const words = [
    "What was wanted is live; the rest goes on.",
    "Two storms took most of a week, and it held.",
    "Storm weeks: the feed and the gates came in between.",
    "Quiet weeks.",
  ];
  return sprints.map((sprint, i) => {
    const ends = dayStart(parseIsoDate(sprint.endsOn) + 1, ZONE);
    if (ends > now) return sprint;
    const goalReached = i % 4 !== 2;
    return { ...sprint, endedAt: ends, endedBy: "ines", goalReached, endWords: words[i % 4] };
  });
}

interface EndedSprint extends Sprint {
  endedAt?: Instant;
  endedBy?: string;
  goalReached?: boolean;
  endWords?: string;
}

/** Crossings: what goes out together every second week. The last two are still to come. */
export function demoReleases(projectId: string, now: Instant): Release[] {
  const today = dayNumber(now, ZONE);
  const past = Math.floor((WEEKS * 7) / SPRINT_DAYS);
  return Array.from({ length: past + 2 }, (_, i) => {
    const day = today + 6 - (past - i) * SPRINT_DAYS;
    const released = day < today ? now - (today - day) * DAY : null;
    return {
      id: `${projectId}-release-${i + 1}`,
      name: `Crossing ${i + 1}`,
      startsOn: isoDate(day - SPRINT_DAYS + 1),
      dueOn: isoDate(day),
      releasedAt: released,
      withdrawnAt: null,
    };
  });
}

/** How the days of the releases to come moved: the next one once, the one behind it twice. */
export function demoReleaseDates(releases: readonly Release[], now: Instant) {
  const [next, after] = releases.filter(({ releasedAt }) => releasedAt === null);
  const moved = (
    { id, dueOn }: Release,
    moves: readonly { days: number; ago: number; why: string }[],
  ) => {
    let to = dueOn!;
    return moves.toReversed().map(({ days, ago, why }) => {
      const from = addDays(to, -days);
      const change = { releaseId: id, byId: "ines", at: now - ago * DAY, from, to, why };
      to = from;
      return change;
    });
  };
  return [
    ...moved(next, [{ days: 7, ago: 9, why: "Two storms took the week of testing." }]),
    ...moved(after, [
      { days: 14, ago: 30, why: "The crews train before it goes out." },
      { days: -5, ago: 6, why: "The harbour authority is ready sooner." },
    ]),
  ];
}
