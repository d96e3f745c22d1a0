import { inArray } from "drizzle-orm";
import { happenedIn } from "@/core/alerts/happened";
import { RULE_HAPPENINGS } from "@/core/alerts/own-rule";
import type { Condition } from "@/core/condition/condition";
import { seededRandom } from "@/core/forecast/random";
import { database } from "@/db/connection";
import { alertRule, item, itemEvent, person, project } from "@/db/schema";
import { rulesTouched } from "@/server/alerts/own-concerns";
import { readEvents } from "@/server/item/history";
import { v7 as newId } from "uuid";
import type { Row } from "./row";

const RULES = 5_000;
/** Of ten rules so many are about all projects. */
const EVERYWHERE = 0.1;
const WITH_CONDITION = 0.4;
const EVENTS = 400;

const URGENT: Condition = { kind: "compare", fact: "priority", op: "is", value: "urgent" };

/** Gives the people of the organisation rules of their own, once. */
export async function giveOwnRules(): Promise<void> {
  const db = database();
  if ((await db.select({ id: alertRule.id }).from(alertRule).limit(1)).length > 0) return;
  const people = await db.select({ id: person.id }).from(person);
  const projects = await db.select({ id: project.id }).from(project);
  const random = seededRandom(11);
  const rows = Array.from({ length: RULES }, (_, i): typeof alertRule.$inferInsert => {
    const projectId = random.chance(EVERYWHERE) ? null : random.pick(projects).id;
    const kinds = Array.from({ length: 1 + (i % 3) }, () => random.pick(RULE_HAPPENINGS));
    const conditioned = projectId !== null && random.chance(WITH_CONDITION);
    return {
      id: newId(),
      personId: people[i % people.length].id,
      name: `Rule ${i}`,
      projectId,
      typeIds: projectId !== null && i % 4 === 0 ? ["bug"] : [],
      happens: [...new Set(kinds)],
      fields: kinds.length === 1 && kinds[0] === "changed" && i % 2 === 0 ? ["priority"] : [],
      by: { kind: "anybody" },
      condition: conditioned ? URGENT : null,
      off: false,
      mail: "none",
      feed: false,
      madeAt: 0,
    };
  });
  for (let at = 0; at < rows.length; at += 500)
    await db.insert(alertRule).values(rows.slice(at, at + 500));
}

/** How many rules of people's own are read for an event, of all that there are. */
export async function rulesReadPerEvent(): Promise<Row> {
  const db = database();
  const some = await db
    .select({ itemId: itemEvent.itemId, seq: itemEvent.seq })
    .from(itemEvent)
    .limit(EVENTS * 40);
  const chosen = some.filter((_, i) => i % 40 === 0);
  const ids = [...new Set(chosen.map(({ itemId }) => itemId))];
  const items = await db.select().from(item).where(inArray(item.id, ids));
  const byId = new Map(items.map((one) => [one.id, one]));
  const events = await readEvents(db, inArray(itemEvent.itemId, ids));
  let read = 0;
  let asked = 0;
  for (const { itemId, seq } of chosen) {
    const event = events.find((one) => one.itemId === itemId && one.seq === seq)!;
    const happened = happenedIn([event], () => ({ ofReview: false, ofTest: false }));
    if (happened.length === 0) continue;
    read += (await rulesTouched(db, byId.get(itemId)!, happened)).length;
    asked += 1;
  }
  return {
    what: "rules of people's own read for an event, mean",
    measured: read / asked,
    yardstick: RULES,
    against: "all rules that there are",
    reach: 0.02,
    unit: "rules",
  };
}
