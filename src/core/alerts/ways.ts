/** How somebody is written to about what concerns them. */
export const MAIL_WAYS = ["at once", "morning", "weekly", "none"] as const;
export type MailWay = (typeof MAIL_WAYS)[number];

/** A mail that gathers what came since the one before. */
export type Digest = "morning" | "weekly";

/** How a rule tells somebody. What is not off stands in their list, whatever else is chosen. */
export interface Ways {
  off: boolean;
  mail: MailWay;
  /** Whether it stands in their private feed. */
  feed: boolean;
}

/**
 * What several rules that fit the same alert come to: the soonest mail that one of them asks for,
 * once.
 * @returns null where all of them are off
 */
export function waysTogether(all: readonly Ways[]): Omit<Ways, "off"> | null {
  const on = all.filter(({ off }) => !off);
  if (on.length === 0) return null;
  const mail = MAIL_WAYS.find((way) => on.some((ways) => ways.mail === way)) ?? "none";
  return { mail, feed: on.some(({ feed }) => feed) };
}
