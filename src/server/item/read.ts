import type { ItemType } from "@/core/item/item-type";
import { and, asc, desc, eq, ilike, inArray, isNull, or, sql } from "drizzle-orm";
import { cardOf, type Card } from "@/core/board/card";
import { agreementOf, type Agreement } from "@/core/item/agreement";
import { standingEvents } from "@/core/item/standing-events";
import { countedClock, finishedAgain } from "@/core/item/start-finish";
import { maskKeys } from "@/core/item/mask-keys";
import { eventWords, linkWords } from "@/core/item/words";
import type { OwnField } from "@/core/item/own-field";
import type { Release, Sprint } from "@/core/plan/sprint";
import type { ItemSnapshot } from "@/core/item/fields";
import { parseItemKey } from "@/core/item/key";
import { remainingWork } from "@/core/flow/unplanned";
import { zigzag, type Zigzag } from "@/core/flow/zigzag";
import { daysTouched } from "@/core/calendar/zone";
import { transitionsFrom, stateOf, type Transition } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import {
  block,
  comment,
  item,
  itemEvent,
  itemLink,
  person,
  project,
  report,
  state,
  stay,
} from "@/db/schema";
import { enterProject, seesItem, visibleTo } from "../people/access";
import { roster, type RosterPerson } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { knownAs } from "../intake/known";
import { promiseOf, type ItemPromise } from "../intake/promises";
import { toldOf } from "../intake/told";
import { notFound } from "../refused";
import { projectTypes } from "../workflow/load";
import { loadReleases, loadSprints } from "../plan/boxes";
import { loadOwnFields } from "./own-fields";
import { hiddenKeys } from "./hidden-keys";
import { hasKey, hasKeyAmong } from "./key";
import { eventOf, snapshotOf } from "./rows";
import { toldParent, toldParents } from "./told-parent";

export interface ItemView {
  item: ItemSnapshot;
  card: Card;
  key: string;
  project: { id: string; key: string; name: string; zone: string };
  state: { id: string; name: string };
  transitions: (Transition & { toName: string })[];
  comments: { id: string; author: string; body: string; at: number }[];
  history: {
    seq: number;
    who: string;
    words: string;
    note: string | null;
    at: number;
    commandId: string;
    mine: boolean;
    kind: string;
  }[];
  children: {
    id: string;
    key: string;
    title: string;
    stateName: string;
    finished: boolean;
    card: Card;
    finish: Transition | null;
  }[];
  parent: { key: string; title: string } | null;
  links: { id: string; words: string; key: string; title: string; stateName: string }[];
  reports: { id: string; reference: string; title: string; receivedAt: number; status: string }[];
  /** How many people told of it, by reports or by saying that it happens to them too. */
  told: number;
  /** By which words people outside know of it; null where they do not. */
  knownAs: string | null;
  zigzag: Zigzag;
  agreement: Agreement;
  stateNames: Record<string, string>;
  ageDays: number;
  /** Of what finished once more after its first delivery: the days of its whole clock. */
  againDays: number | null;
  /** What is still to be done of it, in hours; null where nothing says. */
  remaining: number | null;
  promise: ItemPromise | null;
  people: RosterPerson[];
  teams: { id: string; name: string }[];
  types: ItemType[];
  sprints: Sprint[];
  releases: Release[];
  ownFields: OwnField[];
  rights: {
    move: boolean;
    edit: boolean;
    comment: boolean;
    block: boolean;
    overrideLimits: boolean;
    judge: boolean;
  };
  now: number;
}

/** Everything known of an item, by its key. */
export async function readItem(viewer: Viewer, key: string, now = Date.now()): Promise<ItemView> {
  const db = database();
  const [row] = await db
    .select()
    .from(item)
    .where(and(hasKeyAmong([key]), seesItem(db, viewer)));
  if (!row) throw notFound("item");
  const access = await enterProject(db, viewer, { id: row.projectId }, "read project", "item");
  const snapshot = await toldParent(db, viewer, snapshotOf(row));
  const [
    types,
    people,
    events,
    comments,
    children,
    links,
    reports,
    stays,
    blocks,
    parent,
    sprints,
    releases,
    ownFields,
    told,
    known,
  ] = await Promise.all([
    projectTypes(db, access.project.id),
    roster(db, access.project.id),
    db
      .select({ event: itemEvent, who: person.name })
      .from(itemEvent)
      .leftJoin(person, eq(person.id, itemEvent.actorId))
      .where(eq(itemEvent.itemId, row.id))
      .orderBy(desc(itemEvent.seq)),
    db
      .select({ id: comment.id, author: person.name, body: comment.body, at: comment.at })
      .from(comment)
      .leftJoin(person, eq(person.id, comment.authorId))
      .where(eq(comment.itemId, row.id))
      .orderBy(asc(comment.at)),
    db
      .select()
      .from(item)
      .where(and(eq(item.parentId, row.id), isNull(item.withdrawnAt), seesItem(db, viewer)))
      .orderBy(asc(item.rank)),
    linksOf(viewer, row.id),
    access.may("read intake")
      ? db
          .select({
            id: report.id,
            reference: report.reference,
            title: report.title,
            receivedAt: report.receivedAt,
            status: report.status,
          })
          .from(report)
          .where(eq(report.itemId, row.id))
          .orderBy(report.receivedAt)
      : [],
    db.select().from(stay).where(eq(stay.itemId, row.id)).orderBy(stay.enteredSeq),
    db.select().from(block).where(eq(block.itemId, row.id)),
    row.parentId
      ? db
          .select()
          .from(item)
          .where(and(eq(item.id, row.parentId), seesItem(db, viewer)))
      : [],
    loadSprints(db, access.project.id),
    loadReleases(db, access.project.id),
    loadOwnFields(db, access.project.id),
    access.may("read intake") ? toldOf(db, [row.id]) : null,
    knownAs(row.id),
  ]);
  const typeOf = (id: string) => types.types.find((t) => t.id === id)!;
  const workflowOfType = (id: string) =>
    types.workflows.find((w) => w.id === typeOf(id).workflowId)!;
  const workflow = workflowOfType(row.typeId);
  // States that were taken out since keep their name in the history.
  const states = await db
    .select({ id: state.id, name: state.name })
    .from(state)
    .where(
      inArray(
        state.workflowId,
        types.workflows.map((w) => w.id),
      ),
    );
  const stateNames = Object.fromEntries(states.map((s) => [s.id, s.name]));
  const formerPeople = new Map(
    events.filter((e) => e.event.actorId).map((e) => [e.event.actorId!, e.who ?? "somebody"]),
  );
  const names = {
    state: (id: string) => stateNames[id] ?? "a former state",
    person: (id: string) =>
      people.people.find((p) => p.id === id)?.name ?? formerPeople.get(id) ?? "somebody",
    team: (id: string) => people.teams.find((t) => t.id === id)?.name ?? id,
    type: (id: string) => typeOf(id)?.name ?? id,
    sprint: (id: string) => sprints.find((s) => s.id === id)?.name ?? "a former sprint",
    release: (id: string) => releases.find((r) => r.id === id)?.name ?? "a former release",
    own: (id: string) => ownFields.find((f) => f.id === id),
  };
  // What the product itself wrote about other items is told as far as the reader may see those;
  // what people wrote is theirs.
  const written = events.map(({ event }) => ({ event, words: eventWords(eventOf(event), names) }));
  const causes = new Map(
    events.flatMap(({ event }) =>
      event.kind === "commented"
        ? [[(event.new as { commentId: string }).commentId, event.cause] as const]
        : [],
    ),
  );
  const said = comments.map((c) => {
    const cause = causes.get(c.id) ?? "person";
    return {
      ...c,
      author: c.author ?? (cause === "requester" ? "The requester" : "The process"),
      own: cause !== "person",
    };
  });
  const hidden = await hiddenKeys(db, viewer, access, [
    ...written.flatMap(({ event, words }) => [words, event.note ?? ""]),
    ...said.filter((c) => c.own).map((c) => c.body),
  ]);
  const notes = (event: { cause: string; note: string | null }) =>
    event.note !== null && event.cause !== "person" ? maskKeys(event.note, hidden) : event.note;
  const history = {
    id: row.id,
    key,
    title: row.title,
    typeId: row.typeId,
    classOfService: row.classOfService,
    stays: stays.map((s) => ({
      stateId: s.stateId,
      kind: s.kind,
      outcome: s.outcome,
      from: s.enteredAt,
      to: s.leftAt,
    })),
    blocks: blocks.map((b) => ({ from: b.fromAt, to: b.liftedAt })),
  };
  const keyed = (n: number) => `${access.project.key}-${n}`;
  return {
    item: snapshot,
    card: cardOf(snapshot, access.project.key),
    key: keyed(row.number),
    project: {
      id: access.project.id,
      key: access.project.key,
      name: access.project.name,
      zone: access.project.zone,
    },
    state: { id: row.stateId, name: names.state(row.stateId) },
    transitions: transitionsFrom(workflow, row.stateId).map((t) => ({
      ...t,
      toName: stateOf(workflow, t.to).name,
    })),
    comments: said.map(({ own, ...c }) => ({
      ...c,
      body: own ? maskKeys(c.body, hidden) : c.body,
    })),
    history: events.map(({ event, who }, i) => ({
      seq: event.seq,
      who: who ?? "Zigzag Lane",
      words: maskKeys(written[i].words, hidden),
      note: notes(event),
      at: event.at,
      commandId: event.commandId,
      mine: event.actorId === viewer.personId,
      kind: event.kind,
    })),
    children: children.map((c) => ({
      id: c.id,
      key: keyed(c.number),
      title: c.title,
      stateName: names.state(c.stateId),
      finished: c.stateKind === "finished",
      card: cardOf(snapshotOf(c), access.project.key),
      finish:
        transitionsFrom(workflowOfType(c.typeId), c.stateId).find(
          (t) => stateOf(workflowOfType(c.typeId), t.to).kind === "finished",
        ) ?? null,
    })),
    parent: parent[0] ? { key: keyed(parent[0].number), title: parent[0].title } : null,
    links: links.map((l) => ({
      id: l.id,
      words: linkWords({ kind: l.kind, otherKey: "", outward: l.fromItemId === row.id }).trim(),
      key: keyed(l.number),
      title: l.title,
      stateName: names.state(l.stateId),
    })),
    reports,
    told: told?.get(row.id) ?? 0,
    knownAs: known,
    zigzag: zigzag(
      history,
      row.withdrawnAt ?? now,
      standingEvents(events.map((e) => eventOf(e.event)).toReversed()).flatMap((e) =>
        e.kind === "moved" && e.new.isReturn ? [e.at] : [],
      ),
    ),
    agreement: agreementOf(
      workflow,
      snapshot,
      { personId: viewer.personId, mayMove: access.may("move item") },
      names.person,
    ),
    stateNames,
    ageDays: daysTouched(countedClock(row), access.project.zone, now),
    againDays: finishedAgain(row) ? daysTouched(row.clock, access.project.zone, now) : null,
    ...people,
    types: types.types,
    promise: await promiseOf(db, access.project, row.id, now),
    remaining: remainingWork(
      snapshot.remainingHours,
      children.map((c) => ({
        finished: c.stateKind === "finished",
        remainingHours: c.remainingHours,
      })),
    ),
    sprints,
    releases,
    ownFields,
    rights: {
      move: access.may("move item"),
      edit: access.may("edit item"),
      comment: access.may("comment item"),
      block: access.may("block item"),
      overrideLimits: access.may("override limit"),
      judge: access.may("judge report"),
    },
    now,
  };
}

function linksOf(viewer: Viewer, itemId: string) {
  return database()
    .select({
      id: itemLink.id,
      kind: itemLink.kind,
      fromItemId: itemLink.fromItemId,
      number: item.number,
      title: item.title,
      stateId: item.stateId,
    })
    .from(itemLink)
    .innerJoin(
      item,
      sql`${item.id} = case when ${itemLink.fromItemId} = ${itemId} then ${itemLink.toItemId} else ${itemLink.fromItemId} end`,
    )
    .where(
      and(
        or(eq(itemLink.fromItemId, itemId), eq(itemLink.toItemId, itemId)),
        seesItem(database(), viewer),
      ),
    );
}

export interface FoundItem {
  id: string;
  key: string;
  title: string;
  stateName: string;
  projectName: string;
  typeId: string;
}

/** Items whose key or words match, in the projects a person may see; the best first. */
export async function searchItems(viewer: Viewer, text: string, most = 12): Promise<FoundItem[]> {
  const db = database();
  const wanted = text.trim();
  if (!wanted) return [];
  const key = parseItemKey(wanted);
  const document = sql`to_tsvector('english', ${item.title} || ' ' || ${item.description})`;
  const query = sql`websearch_to_tsquery('english', ${wanted})`;
  const pattern = `%${wanted.replace(/[\\%_]/g, "\\$&")}%`;
  const rows = await db
    .select({
      id: item.id,
      projectKey: project.key,
      number: item.number,
      title: item.title,
      stateName: state.name,
      projectName: project.name,
      typeId: item.typeId,
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .innerJoin(state, eq(state.id, item.stateId))
    .where(
      and(
        visibleTo(db, viewer),
        seesItem(db, viewer),
        isNull(item.withdrawnAt),
        key ? hasKey([key]) : or(sql`${document} @@ ${query}`, ilike(item.title, pattern)),
      ),
    )
    .orderBy(
      sql`${item.stateKind} = 'finished'`,
      sql`ts_rank(${document}, ${query}) desc`,
      desc(item.updatedAt),
    )
    .limit(most);
  return rows.map(({ projectKey: k, number: n, ...rest }) => ({ ...rest, key: `${k}-${n}` }));
}

/** The cards of given items of one project; ids that are not in it are left out. */
export async function itemsById(
  viewer: Viewer,
  projectKey: string,
  ids: string[],
): Promise<(Card & { stateName: string })[]> {
  const db = database();
  const access = await enterProject(db, viewer, { key: projectKey }, "read project");
  if (ids.length === 0) return [];
  const { workflows } = await projectTypes(db, access.project.id);
  const stateNames = new Map(workflows.flatMap((w) => w.states.map((s) => [s.id, s.name])));
  const rows = await db
    .select()
    .from(item)
    .where(and(eq(item.projectId, access.project.id), inArray(item.id, ids), seesItem(db, viewer)));
  const order = new Map(ids.map((id, i) => [id, i]));
  return (await toldParents(db, viewer, rows))
    .sort((a, b) => order.get(a.id)! - order.get(b.id)!)
    .map((row) => ({
      ...cardOf(snapshotOf(row), projectKey),
      stateName: stateNames.get(row.stateId) ?? "",
    }));
}
