import type { Instant } from "@/core/calendar/instant";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { AlertLine } from "./alert";
import type { OwnRule } from "./own-rule";
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

/** A rule of a person's own, with what it says. */
export interface OwnRuleView {
  id: string;
  rule: OwnRule;
  sentence: string;
  /** Whether its project is one that the person does not see any more. */
  hidden: boolean;
}

/** What a rule would have told in the last days. */
export interface TrialView {
  words: string;
  count: number;
  now: Instant;
  /** The latest of it. */
  latest: { itemKey: string; title: string; at: Instant; lines: AlertLine[] }[];
}

/** What rules about a project can name. */
export interface RuleGround {
  vocabulary: Vocabulary;
  /** Fields that can change, its own too, by their ids. */
  fields: { id: string; name: string }[];
}

export interface AlertRulesView {
  rules: AlertRuleView[];
  own: OwnRuleView[];
  /** Those whose items a rule can be about. */
  projects: { key: string; name: string }[];
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
