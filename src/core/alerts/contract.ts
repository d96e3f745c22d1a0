import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import type { AlertsView } from "./alert";
import type { PersonHours } from "./hours";
import {
  alertActBody,
  alertChoiceBody,
  alertsQuery,
  followBody,
  hoursBody,
  mailAboutBody,
  ownRuleBody,
  ruleGroundQuery,
  ruleTrialBody,
} from "./request";
import type { AlertRulesView, RuleGround, TrialView } from "./rules-view";

export const alertsContract = {
  /** What somebody is told, by item, the latest first. */
  read: contract({
    method: "GET",
    path: "/api/alerts",
    query: alertsQuery,
    answer: answered<AlertsView>(),
    kept: "alerts",
  }),
  /** Marks alerts as read, new again, done, or put off; only one's own. */
  act: contract({ method: "POST", path: "/api/alerts", body: alertActBody, answer: DONE }),
  /** How many alerts are new. */
  count: contract({
    method: "GET",
    path: "/api/alerts/count",
    answer: z.object({ fresh: z.number() }),
    kept: "alert count",
  }),
  /** By which rules somebody hears, and when they may be written to. */
  rules: contract({
    method: "GET",
    path: "/api/alerts/rules",
    answer: answered<AlertRulesView>(),
    kept: "alert rules",
  }),
  /** Changes one of the rules that everybody starts with, for oneself. */
  choose: contract({
    method: "POST",
    path: "/api/alerts/rules",
    body: alertChoiceBody,
    answer: answered<AlertRulesView>(),
  }),
  /** Makes a rule of one's own, changes it, takes it out or brings it back. */
  ownRule: contract({
    method: "POST",
    path: "/api/alerts/rules/own",
    body: ownRuleBody,
    answer: answered<AlertRulesView>(),
  }),
  /** What a rule would have told in the last thirty days; changes nothing. */
  tryRule: contract({
    method: "POST",
    path: "/api/alerts/rules/trial",
    body: ruleTrialBody,
    answer: answered<TrialView>(),
  }),
  /** What rules about a project can name. */
  ruleGround: contract({
    method: "GET",
    path: "/api/alerts/rules/ground",
    query: ruleGroundQuery,
    answer: answered<RuleGround>(),
    kept: "rule ground",
  }),
  /** When somebody works and may be written to. */
  setHours: contract({
    method: "POST",
    path: "/api/alerts/hours",
    body: hoursBody,
    answer: answered<PersonHours>(),
  }),
  /** Stops mails about an item, or lets them come again. */
  mailAbout: contract({
    method: "POST",
    path: "/api/alerts/mail",
    body: mailAboutBody,
    answer: answered<AlertRulesView>(),
  }),
  /** Makes the private address of one's feed; the one before ends. */
  makeFeed: contract({
    method: "POST",
    path: "/api/alerts/feed",
    body: z.object({}),
    answer: z.object({ address: z.string() }),
    status: 201,
  }),
  endFeed: contract({ method: "DELETE", path: "/api/alerts/feed", answer: DONE }),
  /** Stops mails about the item of a mail, by the address in it. */
  stopMail: contract({
    method: "POST",
    path: "/api/public/alerts/stop/:token",
    answer: DONE,
  }),
  /** A person's alerts as a feed, at an address that only they know. */
  feed: contract({ method: "GET", path: "/api/public/feed/:token", answer: answered<string>() }),
  /** Follows something, or stops. */
  follow: contract({ method: "POST", path: "/api/alerts/follow", body: followBody, answer: DONE }),
};
