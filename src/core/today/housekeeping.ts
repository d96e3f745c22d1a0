import type { Card } from "@/core/board/card";
import { DAY, type Instant } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";

/** Small things that can be put right on the spot, or put to rest with a reason. */
export const SMALL_THINGS = ["untouched", "no owner", "no size", "unsized bug"] as const;
export type SmallThing = (typeof SMALL_THINGS)[number];

export interface SmallThingLine {
  thing: SmallThing;
  card: Card;
  projectKey: string;
  words: string;
}

/** An item, as far as keeping house goes. */
export interface KeptItem {
  card: Card;
  projectKey: string;
  level: number;
  updatedAt: Instant;
  createdAt: Instant;
  mine: boolean;
  /** Whether this person looks after the project. */
  led: boolean;
  isBug: boolean;
  working: boolean;
}

/** Work that nobody touched for so long is asked about. */
export const UNTOUCHED_AFTER = 4 * DAY;
/** A bug in the backlog may stay without a size for so long. */
export const UNSIZED_AFTER = 14 * DAY;
/** No more of them are shown at once: it is no second list of work. */
export const MOST_SMALL_THINGS = 8;

/**
 * The small things of somebody's items, and of those of the projects that they lead.
 * @param atRest what was put to rest, and has not changed since
 */
export function smallThings(
  items: readonly KeptItem[],
  atRest: (thing: SmallThing, itemId: string, updatedAt: Instant) => boolean,
  now: Instant,
): SmallThingLine[] {
  return items
    .flatMap((item) =>
      thingsOf(item, now)
        .filter(({ thing }) => !atRest(thing, item.card.id, item.updatedAt))
        .map((one) => ({ ...one, card: item.card, projectKey: item.projectKey })),
    )
    .slice(0, MOST_SMALL_THINGS);
}

function thingsOf(item: KeptItem, now: Instant): Pick<SmallThingLine, "thing" | "words">[] {
  const { card, mine, led, level, working, updatedAt, createdAt, isBug } = item;
  const things: Pick<SmallThingLine, "thing" | "words">[] = [];
  if (mine && working && now - updatedAt >= UNTOUCHED_AFTER)
    things.push({
      thing: "untouched",
      words: `untouched for ${counted(Math.floor((now - updatedAt) / DAY), "day")}`,
    });
  if (led && working && card.assigneeId === null)
    things.push({ thing: "no owner", words: "is worked on and has no owner" });
  if ((mine || led) && level > 0 && card.sprintId !== null && card.estimate === null)
    things.push({ thing: "no size", words: "is in the sprint without a size" });
  else if (
    led &&
    isBug &&
    card.stateKind === "unstarted" &&
    card.estimate === null &&
    now - createdAt >= UNSIZED_AFTER
  )
    things.push({
      thing: "unsized bug",
      words: `nobody has sized it for ${counted(Math.floor((now - createdAt) / DAY), "day")}`,
    });
  return things;
}
