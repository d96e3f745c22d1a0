import { eq, sql } from "drizzle-orm";
import { concernsOf, concernsTogether } from "@/core/alerts/concern";
import type { FollowReason } from "@/core/alerts/follow";
import { asksWhereItIs, happenedIn, type Happened } from "@/core/alerts/happened";
import type { StepDoer } from "@/core/alerts/own-rule";
import type { EventDataOf } from "@/core/events/catalogue";
import type { ItemEvent } from "@/core/item/event";
import type { Transaction } from "@/db/connection";
import { item } from "@/db/schema";
import { namedQuery } from "@/db/statement";
import { eventsBetween } from "../item/history";
import { snapshotOf } from "../item/rows";
import { conditionAsker } from "./condition-asker";
import { followBecause } from "./follow";
import { whoSees } from "./hearers";
import { keepAlerts } from "./keep";
import { ownConcerns } from "./own-concerns";
import { meaningsOfStates, statesIn } from "./state-meanings";
import { membersOfTeams, tiesTo } from "./ties";
import { viewConcerns } from "./view-concerns";

const ITEM = namedQuery("an item that people are told of", (reader) =>
  reader
    .select()
    .from(item)
    .where(eq(item.id, sql.placeholder("itemId"))),
);

/**
 * Tells people what happened to an item: what its history says of one command, whom that concerns
 * and why, and who of them may see it. Who has to do with it by that follows it from then on.
 * @param at when it happened
 */
export async function alertPeople(
  tx: Transaction,
  changed: Pick<EventDataOf<"item changed">, "itemId" | "fromVersion" | "version" | "byId">,
  at: number,
): Promise<void> {
  const { itemId, fromVersion, version, byId } = changed;
  const [row] = await ITEM(tx, { itemId });
  if (!row) return;
  const events = await eventsBetween(tx, { itemId, fromVersion, version });
  const states = [...(asksWhereItIs(events) ? [row.stateId] : []), ...statesIn(events)];
  const stateOf = await meaningsOfStates(tx, states);
  const happened = happenedIn(events, stateOf, stateOf(row.stateId));
  if (happened.length === 0) return;
  const of = snapshotOf(row);
  const teams = [...new Set(happened.flatMap((one) => one.teams))];
  const doers = new Set([byId, ...events.map((e) => e.actorId)].filter((id) => id !== null));
  const occurrence = { of, happened, doerOf: doersBySeq(events), doers, at };
  // One for all that asks: what they ask of the project and of the item is read once.
  const asks = conditionAsker(tx, occurrence);
  const concerns = concernsTogether([
    concernsOf({
      happened,
      ties: await tiesTo(tx, of, happened),
      membersOf: await membersOfTeams(tx, teams),
      doers,
    }),
    await ownConcerns(tx, occurrence, asks),
    await viewConcerns(tx, occurrence, asks),
  ]);
  const sees = await whoSees(tx, row, [...concerns.keys()]);
  const told = [...concerns].flatMap(([personId, { rules, seqs }]) =>
    sees.has(personId) ? [{ personId, rules, seqs }] : [],
  );
  const expedite = row.classOfService === "expedite" && row.stateKind !== "finished";
  if (told.length > 0) await keepAlerts(tx, { itemId, expedite }, told, at);
  await followBecause(tx, itemId, followersBy(events, happened), at);
}

/** Who did each step, by its number. */
function doersBySeq(events: readonly ItemEvent[]): (seq: number) => StepDoer | null {
  const doers = new Map(events.map((e) => [e.seq, { personId: e.actorId, cause: e.cause }]));
  return (seq) => doers.get(seq) ?? null;
}

/** Who follows an item from now on, by what they did or what it says of them. */
function followersBy(
  events: readonly ItemEvent[],
  happened: readonly Happened[],
): { personId: string; why: FollowReason }[] {
  const because: [Happened["kind"], FollowReason][] = [
    ["given", "was given it"],
    ["review given", "reviews it"],
    ["named", "was named"],
    ["asked", "was named"],
  ];
  const found: { personId: string; why: FollowReason }[] = [];
  for (const { kind, actorId } of events) {
    if (actorId === null) continue;
    if (kind === "created") found.push({ personId: actorId, why: "made it" });
    if (kind === "commented") found.push({ personId: actorId, why: "talked about it" });
  }
  for (const [kind, why] of because)
    for (const one of happened)
      if (one.kind === kind) found.push(...one.people.map((personId) => ({ personId, why })));
  const first = new Map(found.toReversed().map((one) => [one.personId, one]));
  return [...first.values()];
}
