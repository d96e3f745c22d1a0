import { daysAtWork, focusOf, hoursPerPoint, type Focus, type FocusPast } from "@/core/plan/room";
import type { PersonHours } from "@/core/alerts/hours";
import { VELOCITY_OF } from "@/core/plan/sprint-ledger";
import type { PlannedSprint } from "@/core/plan/sprint";
import type { PastSprint } from "@/core/plan/sprint-view";
import type { Reader } from "@/db/connection";
import { recordedIn } from "../time/in-sprints";
import { pastSprint } from "./past-sprints";
import { timeboxItems } from "./timebox-items";

/** Who works, when, and on which days of the project nobody does. */
export interface Workers {
  ids: readonly string[];
  hours: (personId: string) => PersonHours;
  holidays: ReadonlySet<string>;
}

/** What the sprints that ended say of how much goes into what is planned. */
export interface PastFocus {
  past: PastSprint[];
  /** Of each sprint what it came to, by the days on which its people were at work. */
  room: (FocusPast & { velocity: number; days: number })[];
  /** Of all of them together. */
  team: Focus;
  of: (personId: string) => Focus;
  /** So many hours a point takes; null where no sprint has ended. */
  perPoint: number | null;
}

/** On how many days of a stretch each of some people is at work, and off. */
export const atWork = (
  { ids, hours, holidays }: Workers,
  { startsOn, endsOn }: { startsOn: string; endsOn: string },
) => ids.map((id) => ({ id, ...daysAtWork(hours(id), { from: startsOn, to: endsOn }, holidays) }));

/**
 * How much of their time people gave to what was planned, by the last sprints of a project that have
 * ended.
 * @param sprints of the project, in the order of their days
 */
export async function readFocus(
  reader: Reader,
  zone: string,
  { sprints, workers }: { sprints: readonly PlannedSprint[]; workers: Workers },
): Promise<PastFocus> {
  const ended = sprints.filter(({ endedAt }) => endedAt !== null).slice(-VELOCITY_OF);
  const [members, recorded] = await Promise.all([
    timeboxItems(
      reader,
      ended.map(({ id }) => id),
    ),
    recordedIn(reader, ended),
  ]);
  const past = ended.map((one) => pastSprint(one, zone, members.get(one.id) ?? []));
  const people = ended.map((one) =>
    atWork(workers, one).map(({ id, days }) => ({
      id,
      days,
      recorded: (recorded.get(one.id)?.get(id) ?? 0) / 60,
      available: days * workers.hours(id).hoursADay,
    })),
  );
  const room = past.map(({ velocity }, i) => ({
    velocity,
    days: people[i].reduce((sum, { days }) => sum + days, 0),
    ...together(people[i]),
  }));
  const team = focusOf([], room);
  return {
    past,
    room,
    team,
    of: (id) =>
      focusOf(
        people.flatMap((all) => all.find((one) => one.id === id) ?? []),
        room,
      ),
    perPoint: hoursPerPoint(room, team.share),
  };
}

/** What several people recorded in a sprint, and could have worked. */
const together = (people: readonly FocusPast[]): FocusPast => ({
  recorded: people.reduce((sum, one) => sum + one.recorded, 0),
  available: people.reduce((sum, one) => sum + one.available, 0),
});
