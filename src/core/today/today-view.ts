import type { Instant } from "@/core/calendar/instant";
import type { LoadNow } from "@/core/board/load";
import type { Pulled } from "@/core/plan/pull-next";
import type { RosterPerson } from "@/core/people/roster";
import type { DayLines } from "./day";
import type { SmallThingLine } from "./housekeeping";
import type { SentencePart } from "./sentence";

/** A fact of the project that its people look after, with the items behind it. */
export interface TeamLine {
  words: string;
  count: number;
  /** Items behind it that this person may see. */
  ids: string[];
  /** Where it leads instead. */
  href: string | null;
  alarm: boolean;
}

export interface TodayView {
  project: { key: string; name: string; zone: string };
  /** ISO date. */
  today: string;
  sentence: SentencePart[];
  day: DayLines;
  /** What this person may pull in the project that is open; the best first. */
  pull: Pulled[];
  /** Why nothing is to be pulled, where nothing is. */
  noPull: string | null;
  room: LoadNow | null;
  team: TeamLine[];
  small: SmallThingLine[];
  people: RosterPerson[];
  now: Instant;
}
