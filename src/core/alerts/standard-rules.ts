import type { HappenedKind } from "./happened";
import type { Ways } from "./ways";

/** Who has what to do with an item, by their ids. */
export interface Ties {
  assignee: readonly string[];
  reviewer: readonly string[];
  /** Whoever reviews it; where nobody is named, those who are named for reviews in the project. */
  reviewing: readonly string[];
  maker: readonly string[];
  /** Those who are named for tests in the project. */
  testers: readonly string[];
  followers: readonly string[];
  /** Those who showed it to somebody, so that it is accepted. */
  showed: readonly string[];
  /** Those who have an item in hand that it is linked to, or that it is under. */
  near: readonly string[];
}

export type Tie = keyof Ties;

/** A rule that everybody starts with, and can change. */
export interface StandardRule {
  /** As it stands among a person's rules: "An item is given to me, or taken from me". */
  title: string;
  /** As it stands beside an alert: why I am told. */
  why: string;
  happens: readonly HappenedKind[] | "anything";
  /** Whom it is for: those that what happened is addressed to, or those who are tied to the item. */
  whom: "addressed" | readonly Tie[];
  ways: Ways;
  /** Whether its mail may go in quiet hours too. */
  urgent?: true;
}

const ways = (mail: Ways["mail"]): Ways => ({ off: false, mail, feed: true });

/** The rules that everybody starts with, in the order in which people read them. */
export const STANDARD_RULES = {
  named: {
    title: "Somebody names me, or a team of mine",
    why: "names you",
    happens: ["named"],
    whom: "addressed",
    ways: ways("at once"),
    urgent: true,
  },
  asked: {
    title: "Somebody asks me",
    why: "asks you",
    happens: ["asked"],
    whom: "addressed",
    ways: ways("at once"),
    urgent: true,
  },
  review: {
    title: "An item comes to my review",
    why: "your review",
    happens: ["for review"],
    whom: ["reviewing"],
    ways: ways("at once"),
  },
  test: {
    title: "An item comes to be tested, and I test in its project",
    why: "to be tested",
    happens: ["for test"],
    whom: ["testers"],
    ways: ways("at once"),
  },
  given: {
    title: "An item is given to me, or taken from me",
    why: "given or taken",
    happens: ["given", "given away", "review given"],
    whom: "addressed",
    ways: ways("morning"),
  },
  expedite: {
    title: "An item of mine becomes expedite",
    why: "expedite",
    happens: ["expedited"],
    whom: ["assignee", "reviewer"],
    ways: ways("at once"),
    urgent: true,
  },
  commented: {
    title: "Somebody comments on an item of mine, or adds a file to it",
    why: "your item",
    happens: ["commented", "comment changed", "file added"],
    whom: ["assignee", "reviewer", "maker"],
    ways: ways("morning"),
  },
  stuck: {
    title: "An item of mine is blocked, freed, sent back, reopened, withdrawn or brought back",
    why: "your item",
    happens: [
      "blocked",
      "freed",
      "sent back",
      "reopened",
      "withdrawn",
      "brought back",
      "changed project",
      "held",
    ],
    whom: ["assignee"],
    ways: ways("morning"),
  },
  answered: {
    title: "Whoever reported an item of mine answers",
    why: "the requester answered",
    happens: ["answered"],
    whom: ["assignee", "reviewer", "maker"],
    ways: ways("morning"),
  },
  shown: {
    title: "Work is shown to me, so that I accept it",
    why: "shown to you",
    happens: ["shown"],
    whom: "addressed",
    ways: ways("at once"),
  },
  accepting: {
    title: "What I showed, or an item of mine, is accepted, or something is missing",
    why: "its acceptance",
    happens: ["accepted", "something missing"],
    whom: ["showed", "assignee"],
    ways: ways("at once"),
  },
  promise: {
    title: "A promise about an item of mine is at risk",
    why: "a promise",
    happens: ["at risk"],
    whom: ["assignee"],
    ways: ways("morning"),
  },
  near: {
    title:
      "An item that mine is linked to, or that is under mine, ends, stops or gets another date",
    why: "near your item",
    happens: ["finished", "reopened", "withdrawn", "blocked", "freed", "sent back", "due changed"],
    whom: ["near"],
    ways: ways("morning"),
  },
  told: {
    title: "The process tells me",
    why: "the process tells you",
    happens: ["told"],
    whom: "addressed",
    ways: ways("morning"),
  },
  pointed: {
    title: "Somebody points items out to me",
    why: "pointed out to you",
    happens: ["pointed out"],
    whom: "addressed",
    ways: ways("morning"),
  },
  follows: {
    title: "Anything else about an item that I follow",
    why: "you follow it",
    happens: "anything",
    whom: ["followers"],
    ways: ways("none"),
  },
} as const satisfies Record<string, StandardRule>;

export type StandardRuleId = keyof typeof STANDARD_RULES;
export const STANDARD_RULE_IDS = Object.keys(STANDARD_RULES) as StandardRuleId[];

/** A rule that everybody starts with. */
export const standardRule = (id: StandardRuleId): StandardRule => STANDARD_RULES[id];

/** Whether an id is that of a rule that everybody starts with. */
export const isStandardRule = (id: string): id is StandardRuleId =>
  Object.hasOwn(STANDARD_RULES, id);
