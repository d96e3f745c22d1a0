import { z } from "zod";
import { ALERT_SHELVES } from "./alert";
import { FOLLOW_KINDS } from "./follow";
import { personHoursSchema } from "./hours";
import { STANDARD_RULE_IDS, type StandardRuleId } from "./standard-rules";
import { MAIL_WAYS } from "./ways";

/** So many alerts are read at once. */
export const ALERTS_SHOWN = 40;

export const alertsQuery = z.object({
  shelf: z.enum(ALERT_SHELVES).default("open"),
  /** Where a page begins, as the one before said. */
  after: z.string().max(80).optional(),
});

const ids = z.array(z.uuid()).min(1).max(500);

/** What is done with alerts; all of them where none are named. */
export const alertActBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("read"), ids: ids.optional() }),
  z.object({ kind: z.literal("unread"), ids }),
  z.object({ kind: z.literal("done"), ids }),
  z.object({ kind: z.literal("bring back"), ids }),
  z.object({ kind: z.literal("later"), ids, until: z.number().int().positive() }),
]);
export type AlertAct = z.output<typeof alertActBody>;

export const alertChoiceBody = z.object({
  rule: z.enum(STANDARD_RULE_IDS as [StandardRuleId, ...StandardRuleId[]]),
  off: z.boolean(),
  mail: z.enum(MAIL_WAYS),
  feed: z.boolean(),
});
export type AlertChoice = z.output<typeof alertChoiceBody>;

export const hoursBody = personHoursSchema;

export const mailAboutBody = z.object({ itemId: z.uuid(), stopped: z.boolean() });

export const followBody = z.object({
  kind: z.enum(FOLLOW_KINDS),
  target: z.string().min(1).max(300),
  on: z.boolean(),
});
export type FollowAsked = z.output<typeof followBody>;
