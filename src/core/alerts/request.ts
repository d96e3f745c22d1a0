import { z } from "zod";
import { ALERT_SHELVES } from "./alert";
import { FOLLOW_KINDS } from "./follow";
import { personHoursSchema } from "./hours";
import { ownRuleSchema } from "./own-rule";
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

/** Makes or changes a rule of one's own, takes it out, or brings it back. */
export const ownRuleBody = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("keep"), id: z.uuid(), rule: ownRuleSchema }),
  z.object({ kind: z.literal("remove"), id: z.uuid() }),
  z.object({ kind: z.literal("bring back"), id: z.uuid() }),
]);
export type OwnRuleAct = z.output<typeof ownRuleBody>;

export const ruleTrialBody = z.object({ rule: ownRuleSchema });

export const ruleGroundQuery = z.object({ project: z.string().min(1).max(20) });

export const hoursBody = personHoursSchema;

export const mailAboutBody = z.object({ itemId: z.uuid(), stopped: z.boolean() });

export const followBody = z.object({
  kind: z.enum(FOLLOW_KINDS),
  target: z.string().min(1).max(300),
  on: z.boolean(),
});
export type FollowAsked = z.output<typeof followBody>;
