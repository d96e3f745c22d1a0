import type { Instant } from "@/core/calendar/instant";

/** What somebody said whom an item was shown to. */
export interface AcceptanceAnswer {
  accepted: boolean;
  /** As they typed it. */
  name: string;
  /** What is missing, or what they add to their word; may be empty. */
  words: string;
  at: Instant;
  environment: string | null;
  build: string | null;
  /** The commits of the item that were deployed anywhere when they said it. */
  seen: readonly string[];
}

/** How it stands with somebody whom an item was shown to. */
export const ANSWERED = ["waits", "accepted", "missing", "changed since"] as const;
export type Answered = (typeof ANSWERED)[number];

export const ANSWERED_WORDS: Record<Answered, string> = {
  waits: "waits for a word",
  accepted: "accepted",
  missing: "something is missing",
  "changed since": "accepted, but it changed since",
};

/**
 * How it stands by the last thing that was said. Accepting holds for what could be seen then: when more of the
 * item is deployed later it says nothing any more. That something is missing holds until somebody says otherwise.
 * @param deployed the commits of the item that are deployed anywhere now
 */
export function answeredOf(
  last: Pick<AcceptanceAnswer, "accepted" | "seen"> | null,
  deployed: readonly string[],
): Answered {
  if (last === null) return "waits";
  if (!last.accepted) return "missing";
  const seen = new Set(last.seen);
  return deployed.every((commit) => seen.has(commit)) ? "accepted" : "changed since";
}
