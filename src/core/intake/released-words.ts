import { shortDate } from "@/core/calendar/day-words";
import type { Day } from "@/core/calendar/month";

/** The same for people of the project; nothing where it comes no later. */
export const delayedAlert = ({
  name,
  from,
  to,
}: {
  name: string;
  from: Day | null;
  to: Day | null;
}): string | null =>
  from !== null && to !== null && to > from
    ? `${name} comes later: ${shortDate(to)}, not ${shortDate(from)}`
    : null;

/** With which words a delay is told, whatever the days are. */
export const delayedBegins = (release: string): string =>
  `${release}, which what you reported goes out with, comes later:`;

/**
 * What somebody who reported something reads when its release comes later than it was said; why is the crew's own.
 * @example "Crossing 20, which what you reported goes out with, comes later: 20 Dec, not 6 Dec."
 */
export const delayedWords = (release: string, { from, to }: { from: Day; to: Day }): string =>
  `${delayedBegins(release)} ${shortDate(to)}, not ${shortDate(from)}.`;

/**
 * What somebody who reported something reads once it is out.
 * @example "It is out: what you reported is part of Crossing 20."
 */
export const releasedWords = (release: string): string =>
  `It is out: what you reported is part of ${release}.`;
