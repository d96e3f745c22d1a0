import type { PersonHours } from "./hours";
import type { StandardRuleId } from "./standard-rules";
import type { Ways } from "./ways";

/** A rule as it is for one person. */
export interface AlertRuleView {
  id: StandardRuleId;
  title: string;
  ways: Ways;
  /** Whether it is as everybody starts. */
  asBegun: boolean;
}

export interface AlertRulesView {
  rules: AlertRuleView[];
  hours: PersonHours;
  /** Where mails for this person go. */
  mail: string;
  /** Items of which no mail is wanted. */
  stopped: { id: string; key: string; title: string }[];
  /** Since when there is a private address of a feed, and when it was last read. */
  feed: { since: number; readAt: number | null } | null;
  now: number;
  /** Whether mail leaves at all. */
  sendsMail: boolean;
}
