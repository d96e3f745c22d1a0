import { and, desc, eq, gt, inArray, type SQL } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { Client } from "pg";
import { cardOf, type Card } from "@/core/board/card";
import type { ItemEventKind } from "@/core/item/event";
import { readEvent, type DomainEvent } from "@/core/events/catalogue";
import { LIVE_PART, type LivePart } from "@/core/events/live";
import { database, databaseUrl } from "@/db/connection";
import { domainEvent, item, project } from "@/db/schema";
import { snapshotOf } from "../item/rows";
import { withVisibleOther } from "../item/visible-others";
import { log } from "../log";
import { seesItem } from "../people/access";
import { PERSON_CHANNEL } from "../people/tell-people";
import type { Viewer } from "../people/viewer";

/** What an open page is told. */
export type LiveMessage =
  /** `around`: what stands around it, or around others, may have changed with it. */
  | { kind: "item"; id: number; projectId: string; card: Card; around: boolean }
  | {
      kind: "intake" | "design" | "visit" | "view" | "walk" | "talk" | "code" | "tests" | "counts";
      id: number;
      projectId: string;
    }
  | { kind: "draft"; id: number; projectId: string; workflowId: string; revision: number }
  /** More happened than can be told one by one: read everything again. */
  | { kind: "resync" }
  /** What this person is told changed. */
  | { kind: "alerts" }
  | { kind: "database"; up: boolean };

/**
 * What streams are given: messages as they are, or that a restricted item, or one under such,
 * changed: of that each reader is told by what they may see.
 */
export type Announcement =
  | LiveMessage
  | { kind: "restricted"; id: number; projectId: string; itemId: string; countsChanged: boolean };

/** A stream does not wait longer than this for a database that does not answer. */
const READY_MS = 2_000;

type Listener = (message: Announcement) => void;

/**
 * One `LISTEN` connection for the process, and the open streams it serves. When the connection
 * breaks, the streams are told, it is made anew with growing pauses, and then everyone reads again,
 * because notices may have been lost.
 */
class LiveHub {
  private listeners = new Map<Listener, { of: ReadonlySet<string>; personId: string }>();
  private client: Client | null = null;
  private connecting = false;
  private attempt: Promise<void> = Promise.resolve();
  private pause = 250;
  private stopped = false;

  /** @param personId who reads the stream: what concerns them alone is told to nobody else */
  subscribe(projectIds: readonly string[], personId: string, listener: Listener): () => void {
    this.listeners.set(listener, { of: new Set(projectIds), personId });
    if (!this.client && !this.connecting) this.attempt = this.connect();
    return () => this.listeners.delete(listener);
  }

  /**
   * Waits until changes are heard, or hearing them has failed once: what happens after it is told
   * to those who subscribed before, and what happened before it can be read again, so
   * nothing is lost in between.
   */
  async ready(): Promise<void> {
    await Promise.race([
      this.attempt,
      new Promise((resolve) => setTimeout(resolve, READY_MS).unref()),
    ]);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await this.client?.end().catch(() => {});
  }

  private tell(message: Announcement, projectId?: string): void {
    for (const [listener, { of }] of this.listeners)
      if (projectId === undefined || of.has(projectId)) listener(message);
  }

  private tellPerson(id: string): void {
    for (const [listener, { personId }] of this.listeners)
      if (personId === id) listener({ kind: "alerts" });
  }

  private async connect(): Promise<void> {
    if (this.client || this.connecting || this.stopped) return;
    this.connecting = true;
    const client = new Client({ connectionString: databaseUrl(), keepAlive: true });
    let lost = false;
    const lose = () => {
      if (lost) return;
      lost = true;
      this.client = null;
      this.connecting = false;
      if (this.stopped) return;
      this.tell({ kind: "database", up: false });
      setTimeout(() => void this.connect(), this.pause).unref();
      this.pause = Math.min(this.pause * 2, 4_000);
    };
    client.on("error", lose);
    client.on("end", lose);
    client.on("notification", ({ channel, payload }) =>
      channel === PERSON_CHANNEL
        ? this.tellPerson(payload ?? "")
        : void this.announce(Number(payload)),
    );
    try {
      await client.connect();
      await client.query("listen zigzag_event");
      await client.query(`listen ${PERSON_CHANNEL}`);
      this.client = client;
      this.connecting = false;
      const again = this.pause > 250;
      this.pause = 250;
      this.tell({ kind: "database", up: true });
      if (again) this.tell({ kind: "resync" });
      log.info("listening for changes");
    } catch {
      await client.end().catch(() => {});
      lose();
    }
  }

  private async announce(id: number): Promise<void> {
    try {
      const [message] = await messagesWhere(eq(domainEvent.id, id));
      if (message) this.tell(message, (message as { projectId: string }).projectId);
    } catch {
      this.tell({ kind: "resync" });
    }
  }
}

async function messagesWhere(condition: SQL | undefined, most = 1): Promise<Announcement[]> {
  const rows = await database()
    .select({ event: domainEvent, projectKey: project.key, item, parentRestricted })
    .from(domainEvent)
    .innerJoin(project, eq(project.id, domainEvent.projectId))
    .leftJoin(item, and(eq(item.id, domainEvent.itemId), eq(domainEvent.kind, "item changed")))
    .leftJoin(parent, eq(parent.id, item.parentId))
    .where(condition)
    .orderBy(desc(domainEvent.id))
    .limit(most);
  return rows.reverse().flatMap((row): Announcement[] => {
    const event = readEvent(row.event);
    if (!event) return [];
    const { id, projectId } = event;
    if (event.kind === "workflow draft changed")
      return [{ kind: "draft", id, projectId, ...event.data }];
    if (event.kind !== "item changed") return [{ kind: partOf(event), id, projectId }];
    if (!row.item) return [];
    if (row.item.restricted || row.parentRestricted)
      return [
        {
          kind: "restricted",
          id,
          projectId,
          itemId: row.item.id,
          countsChanged: event.data.counts,
        },
      ];
    const card = cardOf(snapshotOf(row.item), row.projectKey);
    const around = event.data.kinds.some((kind) => CHANGES_AROUND.includes(kind));
    return [{ kind: "item", id, projectId, card, around }];
  });
}

/** Steps that change what stands around an item. */
const CHANGES_AROUND: readonly ItemEventKind[] = ["linked", "unlinked", "put under", "undone"];

const parent = alias(item, "parent");
const parentRestricted = parent.restricted;

const partOf = (event: Exclude<DomainEvent, { kind: "item changed" }>) =>
  LIVE_PART[event.kind] as Exclude<LivePart, "item" | "draft">;

/**
 * An announcement as one reader is told it: the card of a restricted item goes to those who may see
 * it. The others are told to read again where the project's counts changed, and nothing otherwise.
 */
export async function toldTo(viewer: Viewer, announced: Announcement): Promise<LiveMessage | null> {
  if (announced.kind !== "restricted") return announced;
  const { id, projectId, itemId, countsChanged: changed } = announced;
  const db = database();
  const [row] = await db
    .select({ item, projectKey: project.key })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(and(eq(item.id, itemId), seesItem(db, viewer)));
  if (row)
    return {
      kind: "item",
      id,
      projectId,
      around: true,
      card: await withVisibleOther(db, viewer, cardOf(snapshotOf(row.item), row.projectKey)),
    };
  return changed ? { kind: "counts", id, projectId } : null;
}

/**
 * Numbers are given before commits, so a lower one may become visible after a higher one; that far
 * back is sent again.
 */
const LATE_COMMITS = 200;
const MOST_TO_CATCH_UP = 600;

/**
 * What happened in some projects after a message, for a stream that was interrupted. Some of it may be
 * known already.
 */
export async function liveSince(
  projectIds: readonly string[],
  lastEventId: number,
): Promise<Announcement[]> {
  const condition = and(
    inArray(domainEvent.projectId, [...projectIds]),
    gt(domainEvent.id, lastEventId - LATE_COMMITS),
  );
  const messages = await messagesWhere(condition, MOST_TO_CATCH_UP + 1);
  return messages.length > MOST_TO_CATCH_UP ? [{ kind: "resync" }] : messages;
}

const shared = globalThis as typeof globalThis & { zigzagHub?: LiveHub };

export function liveHub(): LiveHub {
  shared.zigzagHub ??= new LiveHub();
  return shared.zigzagHub;
}
