import { UNIT_LEVEL } from "@/core/item/item-type";
import { and, asc, eq, gte, inArray, isNull, min, ne, notInArray, or, sql } from "drizzle-orm";
import type { Instant, Interval } from "@/core/calendar/instant";
import { TOLD_KINDS } from "@/core/intake/private-page";
import { lastWeeks } from "@/core/flow/period";
import { maskIds } from "@/core/flow/outside-view";
import {
  keptPromises,
  nextDue,
  type KeptPromises,
  type PromisedAbout,
} from "@/core/intake/kept-promises";
import { targetState, type ServiceTarget, type TargetState } from "@/core/intake/service-target";
import { promiseBand, type PromiseBand } from "@/core/item/promise-band";
import { promiseLeft, type PromiseLeft } from "@/core/item/promise-left";
import type { ClassOfService } from "@/core/item/fields";
import { database, type Reader } from "@/db/connection";
import { item, itemType, report, reportMessage, reportVerdict, state } from "@/db/schema";
import { projectAsker } from "../condition/asker";

import { compileCondition, type SqlAsker } from "../condition/compile";
import { loadVocabulary } from "../condition/vocabulary";
import { enterProject, hiddenItems } from "../people/access";
import type { Viewer } from "../people/viewer";
import { loadPromises, loadRules } from "./rules";
import { promiseFor, type DatedPromises } from "@/core/intake/dated-promises";
import type { PromisesView, PromiseRow, IntakeRules } from "@/core/intake/promises-view";
import type { ItemPromise } from "@/core/item/item-view";

const KEPT_WEEKS = 12;

/** What was promised about a project's items, and how it stands. */
export async function readPromises(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<PromisesView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read flow",
  });
  const { project } = access;
  const [rules, vocabulary] = [
    await loadRules(db, project.id),
    await loadVocabulary(db, project.id),
  ];
  const period = lastWeeks(KEPT_WEEKS, project.zone, now);
  const [all, hidden] = await Promise.all([
    promisedItems({ project, rules, since: period.from, now }),
    hiddenItems(db, viewer, project.id),
  ]);
  const open = all
    .filter((a) => a.course.resolvedAt === null && a.course.endedAt === null)
    .toSorted((a, b) => urgency(a) - urgency(b))
    .map((a) => a.row);
  const unseen = open.filter((r) => hidden.has(r.itemId));
  return {
    project: { id: project.id, key: project.key, name: project.name, zone: project.zone },
    rules,
    open: open.filter((r) => !hidden.has(r.itemId)),
    unseen: unseen.map(({ answer, resolve }) =>
      [answer, resolve].flatMap((s) => s?.standing ?? []),
    ),
    kept: keptOf(all, { rules, period, hidden }),
    vocabulary,
    people: vocabulary.people,
    mayEdit: access.may("edit workflow"),
    now,
  };
}

/** How each promise was kept; those that are made no more stand at the end. */
function keptOf(
  all: readonly PromisedItem[],
  {
    rules,
    period,
    hidden,
  }: { rules: IntakeRules; period: { from: Instant; to: Instant }; hidden: ReadonlySet<string> },
): PromisesView["kept"] {
  const current = rules.targets.map((t) => ({ id: t.id, name: t.name, ended: false }));
  const ended = new Map(
    all
      .filter(({ row }) => !current.some((t) => t.id === row.targetId))
      .map(({ row }) => [row.targetId, { id: row.targetId, name: row.target, ended: true }]),
  );
  return [...current, ...ended.values()].map(({ id, name, ended: isEnded }) => {
    const about = all.filter((a) => a.row.targetId === id).map(promisesAbout);
    const of = (which: (p: (typeof about)[number]) => PromisedAbout[]) =>
      masked(keptPromises(about.flatMap(which), period), hidden);
    return {
      targetId: id,
      target: name,
      ended: isEnded,
      answered: of((p) => p.answer),
      resolved: of((p) => p.resolve),
      both: of((p) => [...p.answer, ...p.resolve]),
    };
  });
}

/** Which items a figure is about. */
export interface PromiseFilter {
  typeId?: string;
  classOfService?: ClassOfService;
}

/**
 * How what was promised about a project's items stands, by item: of open ones, and of those that
 * ended in the last weeks.
 */
export async function readPromiseBands(
  project: { id: string; key: string; zone: string },
  now: Instant,
): Promise<ReadonlyMap<string, PromiseBand>> {
  const rules = await loadRules(database(), project.id);
  const { from: since } = lastWeeks(KEPT_WEEKS, project.zone, now);
  const items = await promisedItems({ project, rules, since, now });
  return new Map(
    items.flatMap(({ row }): [string, PromiseBand][] => {
      const band = promiseBand([row.answer, row.resolve]);
      return band === null ? [] : [[row.itemId, band]];
    }),
  );
}

/** What is left of what was promised about a project's open items, by item. */
export async function readPromisesLeft(
  project: { id: string; key: string; zone: string },
  now: Instant,
): Promise<ReadonlyMap<string, PromiseLeft>> {
  const rules = await loadRules(database(), project.id);
  const items = await promisedItems({ project, rules, since: now, now });
  return new Map(
    items.flatMap(({ row, course }): [string, PromiseLeft][] => {
      const answer = answeredAt(course) === null ? row.answer : null;
      const ended = course.resolvedAt !== null || course.endedAt !== null;
      const left = promiseLeft({ answer, resolve: ended ? null : row.resolve });
      return left === null ? [] : [[row.itemId, left]];
    }),
  );
}

interface PromisedItem {
  row: PromiseRow;
  course: Course;
}

/** Items of their own with a promise, open or finished since an instant, and how it stands. */
async function promisedItems({
  project,
  rules,
  since,
  now,
  filter: { typeId, classOfService } = {},
}: {
  project: { id: string; key: string; zone: string };
  rules: IntakeRules;
  since: Instant;
  now: Instant;
  filter?: PromiseFilter;
}): Promise<PromisedItem[]> {
  const db = database();
  const promises = await loadPromises(db, project.id);
  if (promises.all.length === 0) return [];
  // What finished is about the time since when it was delivered, or ended otherwise; moves among
  // finished states count for nothing.
  const recent = or(
    ne(item.stateKind, "finished"),
    gte(item.deliveredAt, since),
    gte(item.finishedAt, since),
    and(isNull(item.finishedAt), gte(item.enteredStateAt, since)),
  )!;
  const asker = await projectAsker(db, project, now);
  const rows = await db
    .select({
      item,
      stateName: state.name,
      fits: fitsAll(promises, asker),
    })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        eq(itemType.level, UNIT_LEVEL),
        recent,
        typeId ? eq(item.typeId, typeId) : undefined,
        classOfService ? eq(item.classOfService, classOfService) : undefined,
      ),
    );
  const promised = await promisedOf(
    db,
    rows.filter((r) => r.fits.includes(true)).map((r) => r.item),
  );
  return rows.flatMap(({ item: row, stateName, fits }): PromisedItem[] => {
    const course = promised.get(row.id);
    const target = course && promiseFor(promises, course.since, (place) => fits[place]);
    if (!target) return [];
    const promisedItem = {
      course,
      row: {
        itemId: row.id,
        key: `${project.key}-${row.number}`,
        title: row.title,
        typeId: row.typeId,
        stateName,
        assigneeId: row.assigneeId,
        targetId: target.id,
        ...standing({ target, course, rules, zone: project.zone, now }),
      },
    };
    return [promisedItem];
  });
}

/** For which of the promises that there ever were an item is the right one. */
const fitsAll = ({ all }: DatedPromises, asker: SqlAsker) =>
  sql<boolean[]>`array[${sql.join(
    [...all.map((t) => compileCondition(t.condition, asker)), sql`false`],
    sql`, `,
  )}]`;

/** Each promise about an item by itself. */
function promisesAbout({ row, course }: PromisedItem): {
  answer: PromisedAbout[];
  resolve: PromisedAbout[];
} {
  const one = (state: TargetState | null, metAt: Instant | null) =>
    state ? [{ itemId: row.itemId, state, metAt }] : [];
  return {
    answer: one(row.answer, answeredAt(course)),
    resolve: one(row.resolve, course.resolvedAt),
  };
}

/** What was done, or ended, without an answer before was answered by that. */
const answeredAt = ({ answeredAt: given, resolvedAt, endedAt }: Course): Instant | null =>
  given ?? resolvedAt ?? endedAt;

const masked = (kept: KeptPromises, hidden: ReadonlySet<string>): KeptPromises => ({
  ...kept,
  missedIds: maskIds(kept.missedIds, hidden),
});

/**
 * How many promises that were decided in a period were kept, about all items or those of a kind.
 */
export async function readKeptPromises({
  project,
  hidden,
  period,
  now,
  filter = {},
}: {
  project: { id: string; key: string; zone: string };
  hidden: ReadonlySet<string>;
  period: { from: Instant; to: Instant };
  now: Instant;
  filter?: PromiseFilter;
}): Promise<KeptPromises> {
  const rules = await loadRules(database(), project.id);
  const items = await promisedItems({ project, rules, since: period.from, now, filter });
  const all = items.map(promisesAbout).flatMap(({ answer, resolve }) => [...answer, ...resolve]);
  return masked(keptPromises(all, period), hidden);
}

/** Less is more urgent. */
const urgency = ({ row, course }: PromisedItem): Instant =>
  nextDue([row.answer, row.resolve], [answeredAt(course), course.resolvedAt]);

interface Course {
  since: Instant;
  answeredAt: Instant | null;
  /** Its first delivery, whatever happened to it later. */
  resolvedAt: Instant | null;
  /** When it ended without ever being delivered. */
  endedAt: Instant | null;
  paused: Interval[];
}

function standing({
  target,
  course,
  rules,
  zone,
  now,
}: {
  target: ServiceTarget;
  course: Course;
  rules: IntakeRules;
  zone: string;
  now: Instant;
}): ItemPromise {
  const { since, resolvedAt, endedAt, paused } = course;
  const of = (hours: number | null, metAt: Instant | null, until: Instant) =>
    hours === null
      ? null
      : targetState(
          hours,
          target.working,
          { since, metAt, paused },
          { calendar: rules.calendar, zone, now: until },
        );
  const resolve = of(target.resolveHours, resolvedAt, endedAt ?? now);
  // What ended otherwise is owed no longer; what had been late by then stays missed.
  const owed = endedAt === null || resolve?.standing === "missed";
  return {
    target: target.name,
    answer: of(target.answerHours, answeredAt(course), now),
    resolve: owed ? resolve : null,
  };
}

/**
 * What counts for promises about some items: when they came in, were answered, were done, and when
 * the requester was asked.
 */
async function promisedOf(
  reader: Reader,
  items: readonly (typeof item.$inferSelect)[],
): Promise<Map<string, Course>> {
  const ids = items.map((i) => i.id);
  if (ids.length === 0) return new Map();
  const received = await reader
    .select({ id: report.itemId, at: min(report.receivedAt) })
    .from(report)
    .where(inArray(report.itemId, ids))
    .groupBy(report.itemId);
  const judged = await reader
    .select({ id: report.itemId, at: min(reportVerdict.at) })
    .from(report)
    .innerJoin(reportVerdict, eq(reportVerdict.reportId, report.id))
    .where(and(inArray(report.itemId, ids), isNull(reportVerdict.undoneAt)))
    .groupBy(report.itemId);
  const messages = await reader
    .select({
      id: report.itemId,
      reportId: report.id,
      kind: reportMessage.kind,
      at: reportMessage.at,
    })
    .from(reportMessage)
    .innerJoin(report, eq(report.id, reportMessage.reportId))
    .where(
      and(
        inArray(report.itemId, ids),
        notInArray(reportMessage.kind, [...TOLD_KINDS]),
        isNull(reportMessage.takenBackAt),
      ),
    )
    .orderBy(asc(reportMessage.id));
  const at = (rows: { id: string | null; at: Instant | null }[]) =>
    new Map(rows.map((r) => [r.id, r.at]));
  const [came, answered] = [at(received), at(judged)];
  return new Map(
    items.map((i) => [
      i.id,
      {
        since: came.get(i.id) ?? i.createdAt,
        answeredAt: answered.get(i.id) ?? i.firstStartedAt,
        resolvedAt: i.deliveredAt,
        endedAt:
          i.stateKind === "finished" && i.deliveredAt === null
            ? (i.finishedAt ?? i.enteredStateAt)
            : null,
        paused: pauses(messages.filter((m) => m.id === i.id)),
      },
    ]),
  );
}

/** From each question to its answer, report by report. */
export function pauses(
  messages: readonly { reportId: string; kind: string; at: Instant }[],
): Interval[] {
  const open = new Map<string, Interval>();
  const all: Interval[] = [];
  for (const { reportId, kind, at } of messages) {
    const asked = open.get(reportId);
    if (kind === "question" && !asked) {
      const pause: Interval = { from: at, to: null };
      open.set(reportId, pause);
      all.push(pause);
    } else if (kind === "answer" && asked) {
      asked.to = at;
      open.delete(reportId);
    }
  }
  return all;
}

/**
 * What was promised about one item; null where nothing is.
 * @param cameAt when a report came in that would be put to it as well
 */
export async function promiseOf(
  reader: Reader,
  project: { id: string; zone: string },
  { itemId, now, cameAt }: { itemId: string; now: Instant; cameAt?: Instant },
): Promise<ItemPromise | null> {
  const rules = await loadRules(reader, project.id);
  const promises = await loadPromises(reader, project.id);
  if (promises.all.length === 0) return null;
  const asker = await projectAsker(reader, project, now);
  const [row] = await reader
    .select({ item, fits: fitsAll(promises, asker) })
    .from(item)
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(and(eq(item.id, itemId), eq(itemType.level, UNIT_LEVEL)));
  if (!row) return null;
  const course = (await promisedOf(reader, [row.item])).get(itemId)!;
  const since = Math.min(course.since, cameAt ?? Infinity);
  const target = promiseFor(promises, since, (place) => row.fits[place]);
  if (!target) return null;
  return standing({ target, course: { ...course, since }, rules, zone: project.zone, now });
}
