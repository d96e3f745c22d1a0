import { and, desc, eq, gte, inArray, not } from "drizzle-orm";
import { happenedIn } from "@/core/alerts/happened";
import { stepsMeant, type OwnRule } from "@/core/alerts/own-rule";
import type { TrialView } from "@/core/alerts/rules-view";
import {
  trialAlerts,
  trialWords,
  TRIAL_DAYS,
  TRIAL_SHOWN,
  type TrialAlert,
  type TrialMoment,
} from "@/core/alerts/trial";
import { DAY } from "@/core/calendar/instant";
import type { Condition } from "@/core/condition/condition";
import { holds } from "@/core/condition/evaluate";
import { computedFields } from "@/core/item/compute-fields";
import type { ItemEvent } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { grouped } from "@/core/item/grouped";
import { applyEvent } from "@/core/item/snapshot";
import { database } from "@/db/connection";
import { item, itemEvent, project } from "@/db/schema";
import { askedFor } from "../condition/asked-items";
import { viewerAsker } from "../condition/asker";
import { historiesOf, readEvents, wasUndone } from "../item/history";
import { enterProject, seesItem, visibleTo } from "../people/access";
import type { Viewer } from "../people/viewer";
import { namedItems } from "../item/list/named";
import { meaningsOfStates, statesIn } from "./state-meanings";
import { tellParts, type PartRow } from "./telling";
import { membersOfTeams } from "./ties";

/** So many steps are looked at, the latest first. */
const MOST_STEPS = 6_000;

/**
 * What a rule would have told somebody in the last thirty days, of items that they may see. Of the
 * item it is asked as it was then; what stood around it is taken as it stands now.
 */
export async function tryRule(viewer: Viewer, rule: OwnRule, now = Date.now()): Promise<TrialView> {
  const { events, since } = await latelyHappened(viewer, rule, now - TRIAL_DAYS * DAY);
  const moments = await momentsMeant(viewer, rule, events);
  const held = rule.condition
    ? await thoseThatHeld(viewer, { moments, condition: rule.condition, now })
    : moments;
  const alerts = trialAlerts(held);
  return {
    count: alerts.length,
    now,
    words: trialWords(alerts.length, { now, since }),
    latest: await shown(viewer, alerts.slice(0, TRIAL_SHOWN)),
  };
}

/** Steps of the last time, and from when on all of them are there. */
async function latelyHappened(
  viewer: Viewer,
  { projectKey, typeIds }: OwnRule,
  first: number,
): Promise<{ events: ItemEvent[]; since: number }> {
  const db = database();
  if (projectKey !== null)
    await enterProject({
      reader: db,
      viewer,
      where: { key: projectKey },
      action: "read project",
    });
  const rows = await db
    .select({ itemId: itemEvent.itemId, at: itemEvent.at })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(itemEvent, eq(itemEvent.itemId, item.id))
    .where(
      and(
        visibleTo(db, viewer),
        seesItem(db, viewer),
        gte(item.updatedAt, first),
        gte(itemEvent.at, first),
        projectKey === null ? undefined : eq(project.key, projectKey),
        typeIds.length > 0 ? inArray(item.typeId, typeIds) : undefined,
      ),
    )
    .orderBy(desc(itemEvent.at))
    .limit(MOST_STEPS);
  if (rows.length === 0) return { events: [], since: first };
  const since = rows.length < MOST_STEPS ? first : rows.at(-1)!.at;
  const ids = [...new Set(rows.map(({ itemId }) => itemId))];
  const which = and(inArray(itemEvent.itemId, ids), gte(itemEvent.at, since), not(wasUndone(db)));
  return { events: await readEvents(db, which), since };
}

/** What of it the rule is about, and the person did not do themselves. */
async function momentsMeant(
  viewer: Viewer,
  rule: OwnRule,
  events: readonly ItemEvent[],
): Promise<TrialMoment[]> {
  const db = database();
  const stateOf = await meaningsOfStates(db, statesIn(events));
  const membersOf = await membersOfTeams(db, rule.by.kind === "teams" ? rule.by.ids : []);
  const acts = grouped(events, ({ itemId, commandId }) => `${itemId} ${commandId}`);
  return [...acts.values()].flatMap((steps) => {
    if (steps.some(({ actorId }) => actorId === viewer.personId)) return [];
    const doers = new Map(steps.map((e) => [e.seq, { personId: e.actorId, cause: e.cause }]));
    const seqs = stepsMeant(rule, {
      happened: happenedIn(steps, stateOf),
      doerOf: (seq) => doers.get(seq) ?? null,
      membersOf,
    });
    return seqs.length > 0 ? [{ itemId: steps[0].itemId, at: steps[0].at, seqs }] : [];
  });
}

/** Of some moments those after which a condition held for their item. */
async function thoseThatHeld(
  viewer: Viewer,
  {
    moments,
    condition,
    now,
  }: { moments: readonly TrialMoment[]; condition: Condition; now: number },
): Promise<TrialMoment[]> {
  if (moments.length === 0) return [];
  const db = database();
  const byItem = grouped(moments, ({ itemId }) => itemId);
  const ids = [...byItem.keys()];
  const histories = await historiesOf(db, ids);
  const present = ids.map((id) => snapshotAfter(histories.get(id)!, Infinity));
  const [of] = await db
    .select({ id: project.id, zone: project.zone })
    .from(project)
    .where(eq(project.id, present[0].projectId));
  const asker = await viewerAsker(db, viewer, of, now);
  const around = await askedFor([condition], db, present, asker.ownFields, asker.sees);
  return around.flatMap((asked, i) =>
    byItem.get(ids[i])!.filter(({ at, seqs }) => {
      const then = snapshotAfter(histories.get(ids[i])!, seqs.at(-1)!);
      const computed = computedFields(asker.ownFields ?? [], then);
      return holds(condition, { ...asked, item: then, computed }, { ...asker, now: at });
    }),
  );
}

/** An item as it was after a step. */
function snapshotAfter(history: readonly ItemEvent[], seq: number): ItemSnapshot {
  let snapshot: ItemSnapshot | null = null;
  for (const event of history) {
    if (event.seq > seq) break;
    snapshot = applyEvent(snapshot, event);
  }
  return snapshot!;
}

/** What would have been told, in words. */
async function shown(viewer: Viewer, alerts: readonly TrialAlert[]): Promise<TrialView["latest"]> {
  if (alerts.length === 0) return [];
  const told = alerts.map(({ itemId }, i) => ({ id: String(i), itemId }));
  const parts = alerts.flatMap(({ moments }, i) =>
    moments.map(({ at, seqs }, n): PartRow => ({
      alertId: String(i),
      id: `${i}.${n}`,
      at,
      seqs: [...seqs],
      rules: [],
      said: null,
      otherIds: [],
    })),
  );
  const [telling, items] = await Promise.all([
    tellParts(viewer, told, parts),
    namedItems(
      viewer,
      alerts.map(({ itemId }) => itemId),
    ),
  ]);
  return alerts.flatMap(({ itemId, lastAt }, i) => {
    const named = items.get(itemId);
    const { lines = [] } = telling.get(String(i)) ?? {};
    return named ? [{ itemKey: named.key, title: named.title, at: lastAt, lines }] : [];
  });
}
