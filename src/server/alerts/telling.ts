import { and, asc, eq, inArray, not, or } from "drizzle-orm";
import type { AlertLine } from "@/core/alerts/alert";
import { isStandardRule, standardRule, STANDARD_RULE_IDS } from "@/core/alerts/standard-rules";
import { shorten } from "@/core/formats/cut-text";
import { listWords } from "@/core/formats/list-words";
import type { ItemEvent } from "@/core/item/event";
import { maskKeys } from "@/core/item/mask-keys";
import { eventWords, noteOf, type Names } from "@/core/item/words";
import { database } from "@/db/connection";
import { alertPart, alertRule, comment, itemEvent, type alert } from "@/db/schema";
import { hiddenKeys } from "../item/hidden-keys";
import { readEvents, wasUndone } from "../item/history";
import { namedItems, seenOf } from "../item/list/named";
import { namesOf } from "../item/names";
import type { Viewer } from "../people/viewer";

type AlertRow = typeof alert.$inferSelect;
/** What telling needs of an alert. */
type ToldAlert = Pick<AlertRow, "id" | "itemId">;
export type PartRow = typeof alertPart.$inferSelect;

/** So much of what was said stands beside an alert. */
const SAID = 220;

/** What an alert says, as its person may read it now. */
export interface Telling {
  why: string[];
  lines: AlertLine[];
}

/**
 * What alerts say, made from the histories of their items as the reader may see them now: what was
 * undone or taken back since is not told, and no key of an item that they may not see.
 */
export async function tellingOf(
  viewer: Viewer,
  alerts: readonly AlertRow[],
): Promise<Map<string, Telling>> {
  if (alerts.length === 0) return new Map();
  const parts = await database()
    .select()
    .from(alertPart)
    .where(
      inArray(
        alertPart.alertId,
        alerts.map(({ id }) => id),
      ),
    )
    .orderBy(asc(alertPart.at), asc(alertPart.id));
  return tellParts(viewer, alerts, parts);
}

/** What parts of alerts say, whether they are kept or would only have been. */
export async function tellParts(
  viewer: Viewer,
  alerts: readonly ToldAlert[],
  parts: readonly PartRow[],
): Promise<Map<string, Telling>> {
  const db = database();
  const items = await namedItems(
    viewer,
    alerts.map(({ itemId }) => itemId),
  );
  const projectOf = new Map([...items.values()].map((one) => [one.id, one.projectId]));
  alerts = alerts.filter(({ itemId }) => items.has(itemId));
  const events = await eventsOf(alerts, parts);
  const names = await namesOf(db, [...projectOf.values()]);
  const present = await presentWords([...events.values()]);
  const seen = await seenOf(viewer, [...new Set(parts.flatMap((part) => part.otherIds))]);
  const ownNames = await ownRuleNames(parts);
  const telling = new Map<string, Telling>();
  for (const row of alerts) {
    const own = parts.filter((part) => part.alertId === row.id);
    const ofProject = names(projectOf.get(row.itemId)!);
    const lines = own.flatMap((part) =>
      linesOf({ row, part, events, names: ofProject, present, seen }),
    );
    telling.set(row.id, { why: whyOf(own, ownNames), lines: saidOnce(lines) });
  }
  return masked(viewer, telling);
}

/** The closest reason first; a rule of one's own by its name. */
function whyOf(parts: readonly PartRow[], ownNames: ReadonlyMap<string, string>): string[] {
  const rules = new Set(parts.flatMap((part) => part.rules));
  const standard = STANDARD_RULE_IDS.filter((id) => rules.has(id)).map(
    (id) => standardRule(id).why,
  );
  const own = [...rules].flatMap((id) => ownNames.get(id) ?? []);
  return [...new Set([...own, ...standard])];
}

/** What the rules of people's own are called that parts were told by. */
async function ownRuleNames(parts: readonly PartRow[]): Promise<Map<string, string>> {
  const ids = [...new Set(parts.flatMap((part) => part.rules))].filter((id) => !isStandardRule(id));
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select({ id: alertRule.id, name: alertRule.name })
    .from(alertRule)
    .where(inArray(alertRule.id, ids));
  return new Map(rows.map(({ id, name }) => [id, name]));
}

const eventKey = (itemId: string, seq: number) => `${itemId} ${seq}`;

/** The steps that alerts tell of, those that were undone left out. */
async function eventsOf(
  alerts: readonly ToldAlert[],
  parts: readonly PartRow[],
): Promise<Map<string, ItemEvent>> {
  const itemOf = new Map(alerts.map((row) => [row.id, row.itemId]));
  const wanted = parts.filter((part) => part.seqs.length > 0);
  if (wanted.length === 0) return new Map();
  const db = database();
  const events = await readEvents(
    db,
    and(
      or(
        ...wanted.map((part) =>
          and(
            eq(itemEvent.itemId, itemOf.get(part.alertId)!),
            inArray(itemEvent.seq, [...part.seqs]),
          ),
        ),
      ),
      not(wasUndone(db)),
    ),
  );
  return new Map(events.map((event) => [eventKey(event.itemId, event.seq), event]));
}

const commentOf = (event: ItemEvent): string | null =>
  event.kind === "commented" || event.kind === "comment edited" ? event.new.commentId : null;

/** What comments say now by their ids: nothing where they were taken back. */
async function presentWords(events: readonly ItemEvent[]): Promise<Map<string, string | null>> {
  const ids = events.flatMap((event) => commentOf(event) ?? []);
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select({ id: comment.id, body: comment.body, goneAt: comment.goneAt })
    .from(comment)
    .where(
      and(
        inArray(comment.id, ids),
        inArray(
          comment.itemId,
          events.map(({ itemId }) => itemId),
        ),
      ),
    );
  return new Map(rows.map(({ id, body, goneAt }) => [id, goneAt === null ? body : null]));
}

function linesOf({
  row,
  part,
  events,
  names,
  present,
  seen,
}: {
  row: ToldAlert;
  part: PartRow;
  events: ReadonlyMap<string, ItemEvent>;
  names: Names;
  present: ReadonlyMap<string, string | null>;
  seen: ReadonlySet<string>;
}): AlertLine[] {
  const others = part.otherIds.filter((id) => seen.has(id));
  const ids = part.otherIds.length > 0 ? [row.itemId, ...others] : [];
  if (part.said !== null)
    return [{ who: null, words: part.said, said: null, commentId: null, at: part.at, ids }];
  const steps = part.seqs.flatMap((seq) => {
    const event = events.get(eventKey(row.itemId, seq));
    return event && present.get(commentOf(event) ?? "") !== null ? [event] : [];
  });
  if (steps.length === 0) return [];
  // The steps of one command were done by one, and are one line.
  const said =
    steps.map((event) => saidWith(event, present)).find((words) => words !== null) ?? null;
  return [
    {
      who: whoDid(steps[0], names),
      words: listWords(
        steps.map((event) => eventWords(event, names)),
        "and",
      ),
      said: said === null ? null : shorten(said.replace(/\s+/g, " ").trim(), SAID),
      commentId: steps.map(commentOf).find((id) => id !== null) ?? null,
      at: steps[0].at,
      ids: [],
    },
  ];
}

/** What was said with a step: of a comment what it says now, so that nobody answers a slip. */
function saidWith(event: ItemEvent, present: ReadonlyMap<string, string | null>): string | null {
  const id = commentOf(event);
  return id === null ? noteOf(event) : (present.get(id) ?? null);
}

/** A comment that was changed since stands once in an alert, where it was told last. */
function saidOnce(lines: readonly AlertLine[]): AlertLine[] {
  const last = new Map(lines.map(({ commentId }, place) => [commentId, place]));
  return lines.map((line, place) =>
    line.commentId === null || last.get(line.commentId) === place ? line : { ...line, said: null },
  );
}

function whoDid({ actorId, cause }: ItemEvent, names: Names): string {
  if (actorId !== null) return names.person(actorId);
  return cause === "requester" ? "The requester" : "The process";
}

/** What the product itself wrote names no item that the reader may not see. */
async function masked(
  viewer: Viewer,
  telling: Map<string, Telling>,
): Promise<Map<string, Telling>> {
  const lines = [...telling.values()].flatMap((one) => one.lines);
  const hidden = await hiddenKeys(
    database(),
    viewer,
    lines.flatMap(({ words, said }) => [words, said ?? ""]),
  );
  for (const line of lines) {
    line.words = maskKeys(line.words, hidden);
    if (line.who === "The process") line.said = line.said && maskKeys(line.said, hidden);
  }
  return telling;
}
