import { eq } from "drizzle-orm";
import type { AlertChoice, OwnRuleAct } from "@/core/alerts/request";
import type { AlertRulesView } from "@/core/alerts/rules-view";
import { STANDARD_RULE_IDS, standardRule } from "@/core/alerts/standard-rules";
import { database } from "@/db/connection";
import { alertChoice, person } from "@/db/schema";
import { mailSettings } from "../mail/settings";
import type { Viewer } from "../people/viewer";
import { waysOf } from "./choices";
import { feedOf } from "./feed";
import { hoursOf } from "./hours";
import { ownRulesOf, removeOwnRule, ruleProjects, saveOwnRule } from "./own-rules";
import { setMailStopped, stoppedItems } from "./stop-mail";

/** By which rules a person hears, and when they may be written to. */
export async function readAlertRules(viewer: Viewer): Promise<AlertRulesView> {
  const db = database();
  const { personId } = viewer;
  const [ways, hours, [{ mail }], stopped, feed, own, projects] = await Promise.all([
    waysOf(db, [personId]),
    hoursOf(db, [personId]),
    db.select({ mail: person.email }).from(person).where(eq(person.id, personId)),
    stoppedItems(viewer),
    feedOf(viewer),
    ownRulesOf(viewer),
    ruleProjects(db, viewer),
  ]);
  const rules = STANDARD_RULE_IDS.map((id) => {
    const [now, begun] = [ways(personId, id), standardRule(id).ways];
    const asBegun = now.off === begun.off && now.mail === begun.mail && now.feed === begun.feed;
    return { id, title: standardRule(id).title, ways: now, asBegun };
  });
  const sendsMail = mailSettings().outgoing !== null;
  return {
    rules,
    own,
    projects: projects.map(({ key, name }) => ({ key, name })),
    hours: hours(personId),
    mail,
    sendsMail,
    stopped,
    feed,
    now: Date.now(),
  };
}

/** Changes one of the rules that everybody starts with, for oneself, from now on. */
export async function chooseAlerts(
  viewer: Viewer,
  { rule, ...ways }: AlertChoice,
): Promise<AlertRulesView> {
  await database()
    .insert(alertChoice)
    .values({ personId: viewer.personId, rule, ...ways })
    .onConflictDoUpdate({ target: [alertChoice.personId, alertChoice.rule], set: ways });
  return readAlertRules(viewer);
}

/** Stops mails about an item, or lets them come again, for oneself. */
export async function setMailAbout(
  viewer: Viewer,
  { itemId, stopped }: { itemId: string; stopped: boolean },
): Promise<AlertRulesView> {
  await setMailStopped(viewer, { itemId, on: stopped });
  return readAlertRules(viewer);
}

/** Makes a rule of one's own, changes it, takes it out or brings it back. */
export async function actOnOwnRule(viewer: Viewer, act: OwnRuleAct): Promise<AlertRulesView> {
  if (act.kind === "keep") await saveOwnRule(viewer, act);
  else await removeOwnRule(viewer, { id: act.id, removed: act.kind === "remove" });
  return readAlertRules(viewer);
}
