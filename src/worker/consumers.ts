import type { DomainEvent } from "@/core/events/catalogue";
import type { ItemEventKind } from "@/core/item/event";
import { alertPeople } from "@/server/alerts/engine";
import { goOn, type Consumer } from "@/server/events/consumer";
import { followItem, wakeLike } from "@/server/intake/follow-up";
import { fireTriggers } from "@/server/item/trigger";

/** Whether something of other kinds happened to an item than this one. */
const isMoreThan =
  (kind: ItemEventKind) =>
  (event: DomainEvent): boolean =>
    event.kind === "item changed" && event.data.kinds.some((one) => one !== kind);

/** Whether something of these kinds happened to an item. */
const isAnyOf =
  (...kinds: ItemEventKind[]) =>
  (event: DomainEvent): boolean =>
    event.kind === "item changed" && event.data.kinds.some((one) => kinds.includes(one));

/** Reports that waited for an item come back, and whoever reported it is told how it stands. */
const reportsOfItems: Consumer = {
  name: "reports of items",
  kinds: ["item changed"],
  // What is heard from outside changes nothing of what a report waits for, or its sender is told.
  concerns: isMoreThan("reported"),
  follow: async (tx, event, now) => {
    if (event.kind !== "item changed") return;
    await followItem(tx, event.data.itemId, now, event.data.kinds.includes("moved"));
  },
};

/** A report that came in wakes those that could not be made to happen and that are like it. */
const reportsAlike: Consumer = {
  name: "reports alike",
  kinds: ["report changed"],
  follow: async (tx, event, now) => {
    if (event.kind === "report changed" && event.data.kinds.includes("received"))
      await wakeLike(tx, event.data.reportId, now);
  },
};

/** Moves that wait for what happened to an item are made, each once, whatever happens between. */
const triggers: Consumer = {
  name: "triggers",
  kinds: ["item changed"],
  concerns: isAnyOf("moved", "changed", "commented", "reported"),
  apart: true,
  follow: async (_, event) => {
    if (event.kind === "item changed") await fireTriggers(event.id, event.data);
  },
};

/** People are told of what concerns them. */
const alerts: Consumer = {
  name: "alerts",
  kinds: ["item changed"],
  follow: async (tx, event) => {
    if (event.kind === "item changed") await alertPeople(tx, event.data, event.at);
  },
};

export const CONSUMERS: readonly Consumer[] = [reportsOfItems, reportsAlike, triggers, alerts];

/** Lets each consumer go on from where it has come to. @returns how many events were looked at */
export async function consumeEvents(now = Date.now()): Promise<number> {
  let looked = 0;
  for (const consumer of CONSUMERS) looked += await goOn(consumer, now);
  return looked;
}
