import { z } from "zod";
import type { ItemEventKind } from "@/core/item/event";
import type { ReportEventKind } from "@/core/intake/report-history";

/*
 * All that can happen and is told to whoever listens: open pages, the worker's consumers, later the
 * world outside. An event says what it is about and what kind of thing changed, by ids alone; words
 * that somebody wrote stand where they were written, and can be emptied there.
 */

const id = z.string().min(1).max(64);
const count = z.number().int().nonnegative();
const words = <T extends string>() => z.array(z.string() as unknown as z.ZodType<T>);

/** What each kind of event says. */
const DATA = {
  /** Events `fromVersion` + 1 to `version` of an item's history were stored by one command. */
  "item changed": z.object({
    itemId: id,
    fromVersion: count,
    version: count,
    kinds: words<ItemEventKind>(),
    /** Whether it changes what a project counts, or who may see the item. */
    counts: z.boolean(),
    /** How many moves that made each other led to it. */
    depth: count,
    /** The person who did it, or whose doing set it off. */
    byId: id.nullable().default(null),
  }),
  /** An item is in another project now, and told there. */
  "item left": z.object({ itemId: id }),
  /** Steps of a report's history were stored. */
  "report changed": z.object({ reportId: id, kinds: words<ReportEventKind>() }),
  "reports imported": z.object({ importId: id, reports: count }),
  "import taken back": z.object({ importId: id, reports: count }),
  /** Somebody opened a report at the desk. */
  "report opened": z.object({ reportId: id, personId: id }),
  /** A problem is told to everybody, or not any more. */
  "known problem changed": z.object({ itemId: id, known: z.boolean() }),
  "intake form changed": z.object({ formId: id }),
  "triage rules changed": z.object({}),
  "mail address changed": z.object({ name: id }),
  "workflow made": z.object({ workflowId: id }),
  /** Revision 0: it was thrown away. */
  "workflow draft changed": z.object({ workflowId: id, revision: count.default(0) }),
  /** Somebody came to a draft, went to another place of it, or left it. */
  "workflow draft visited": z.object({ workflowId: id, personId: id }),
  "workflow taken out": z.object({ workflowId: id }),
  "workflow brought back": z.object({ workflowId: id }),
  "workflow published": z.object({ workflowId: id, version: count, movedItems: count }),
  "item types changed": z.object({ movedItems: count }),
  "own fields changed": z.object({}),
  /** What a project is called, who sees it, its zone, what it expects, who has which duty. */
  "project changed": z.object({}),
  /** What a project says of its labels and parts, or what they are called. */
  "terms changed": z.object({}),
  "board changed": z.object({ boardId: id.nullable() }),
  "plan changed": z.object({}),
  "views changed": z.object({}),
  /** Somebody put a sign to a comment, or took it away. */
  "talk changed": z.object({ itemId: id }),
  /** A code host told of a branch, commits, a change or a review; null: of none of the items. */
  "code changed": z.object({ itemId: id.nullable() }),
  /** Cases were written, or somebody or a machine tested something; null: of none of the items. */
  "tests changed": z.object({ itemId: id.nullable() }),
  /** Somebody began, led on or ended a walk of a board, or noted something on it. */
  "walk changed": z.object({ walkId: id }),
} as const;

export type EventKind = keyof typeof DATA;
export const EVENT_KINDS = Object.keys(DATA) as EventKind[];

export type EventDataOf<K extends EventKind> = z.infer<(typeof DATA)[K]>;
export type EventData = EventDataOf<EventKind>;

/** Something that is about to be told: its kind with what that kind says. */
export type Happening = {
  [K in EventKind]: { kind: K; data: EventDataOf<K> };
}[EventKind];

/** An event as it was stored. */
export type DomainEvent = Happening & {
  /** Grows, but not in the order of commits. */
  id: number;
  projectId: string;
  /** Milliseconds since 1970. */
  at: number;
};

/**
 * The version of each kind's data. Where a shape changes, its version grows, and `OLDER` says how
 * what was stored before is read.
 */
export const VERSIONS: Readonly<Record<EventKind, number>> = Object.fromEntries(
  EVENT_KINDS.map((kind) => [kind, 1]),
) as Record<EventKind, number>;

/** By kind and version: data of that version as the next version has it. */
const OLDER: Partial<Record<EventKind, Record<number, (data: unknown) => unknown>>> = {};

/** An event as a row holds it. */
export interface StoredEvent {
  id: number;
  projectId: string;
  at: number;
  kind: string;
  version: number;
  data: unknown;
}

/**
 * Reads a stored event, whatever version its data has.
 * @returns null for a kind that this version of the product does not know: a newer one wrote it
 * @throws ZodError where the data is not what its kind says
 */
export function readEvent(stored: StoredEvent): DomainEvent | null {
  if (!Object.hasOwn(DATA, stored.kind)) return null;
  const kind = stored.kind as EventKind;
  let data = stored.data;
  for (let version = stored.version; version < VERSIONS[kind]; version++)
    data = OLDER[kind]?.[version]?.(data) ?? data;
  const { id: eventId, projectId, at } = stored;
  return { id: eventId, projectId, at, kind, data: DATA[kind].parse(data) } as DomainEvent;
}

/** What an event is about, where that is an item or a report. */
export const subjectOf = ({
  data,
}: Happening): { itemId: string | null; reportId: string | null } => ({
  itemId: "itemId" in data ? data.itemId : null,
  reportId: "reportId" in data ? data.reportId : null,
});
