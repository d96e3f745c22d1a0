import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";

/** What was tested of a piece of work, as it is shown outside. */
export interface TestShown {
  title: string;
  passed: boolean;
  at: Instant;
  build: string | null;
  /** Whether it was changed after that. */
  changedSince: boolean;
}

const MOST_ITEMS = 40;
const MOST_SHOWN_TO = 10;
const MOST_TITLE = 300;
const MOST_WORDS = 4_000;
const MOST_PICTURES = 12;

const words = (most: number) =>
  z
    .string()
    .trim()
    .max(most, `Use at most ${most.toLocaleString("en")} characters.`);

/** An address that a browser opens; nothing else is made a link. */
const openable = (address: string): boolean => {
  if (address === "") return true;
  try {
    return ["http:", "https:"].includes(new URL(address).protocol);
  } catch {
    return false;
  }
};

/** A piece of work as somebody is to see it. */
export const shownItemBody = z.object({
  itemId: z.uuid(),
  title: words(MOST_TITLE).min(1, "Say what was done."),
  how: words(MOST_WORDS),
  address: words(2_000).refine(openable, "Begin the address with https://."),
  /** Whether what was tested is shown too. */
  tested: z.boolean(),
  /** Pictures of the item or of its last run, by their ids. */
  pictures: z.array(z.uuid()).max(MOST_PICTURES, `At most ${MOST_PICTURES} pictures of each.`),
});
export type ShownItemBody = z.output<typeof shownItemBody>;

/** Somebody whom it is shown to: with an account, or without one. */
const shownToBody = z.union([
  z.object({ personId: z.string().min(1).max(64) }),
  z.object({
    name: words(120).min(1, "Say who it is."),
    /** Empty where the address is handed over by hand. */
    mail: z.union([z.literal(""), z.email("This is no mail address.").max(200)]),
  }),
]);
export type ShownToBody = z.output<typeof shownToBody>;

/** Shows work to some people, each by a page of their own. */
export const showBody = z.object({
  /** By it what was done is known when it is sent twice. */
  id: z.uuid(),
  to: z.array(shownToBody).min(1, "Say whom it is shown to.").max(MOST_SHOWN_TO),
  words: words(MOST_WORDS),
  items: z.array(shownItemBody).min(1, "Choose what is shown.").max(MOST_ITEMS),
});
export type ShowBody = z.output<typeof showBody>;

/** What somebody says of what is shown to them. */
export const acceptanceBody = z
  .object({
    itemIds: z.array(z.uuid()).min(1).max(MOST_ITEMS),
    accepted: z.boolean(),
    name: words(120).min(1, "Type your name."),
    words: words(MOST_WORDS),
  })
  .refine(({ accepted, words: said }) => accepted || said !== "", {
    message: "Say what is missing.",
    path: ["words"],
  });
export type AcceptanceBody = z.output<typeof acceptanceBody>;
