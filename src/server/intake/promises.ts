import { and, asc, eq, gte, inArray, isNull, min, ne, or, sql } from "drizzle-orm";
import type { Instant, Interval } from "@/core/calendar/instant";
import { holds } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { lastWeeks } from "@/core/flow/period";
import { maskIds } from "@/core/flow/outside-view";
import type { QueueRow } from "@/core/intake/desk-view";
import {
  keptPromises,
  nextDue,
  type KeptPromises,
  type PromisedAbout,
} from "@/core/intake/kept-promises";
import { targetState, type ServiceTarget, type TargetState } from "@/core/intake/service-target";
import type { ClassOfService } from "@/core/item/fields";
import { NEW_ITEM } from "@/core/item/new-item";
import { applyEvent } from "@/core/item/snapshot";
import { database, type Reader } from "@/db/connection";
import { item, itemType, report, reportMessage, reportVerdict, state } from "@/db/schema";
import { projectAsker } from "../condition/asker";
import { compileCondition } from "../condition/compile";
import { loadVocabulary } from "../condition/vocabulary";
import { enterProject, hiddenItems } from "../people/access";
import type { Viewer } from "../people/viewer";
import { loadRules } from "./rules";
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
    kept: rules.targets.map((t) => {
      const about = all.filter((a) => a.row.target === t.name).map(promisesAbout);
      const of = (which: (p: (typeof about)[number]) => PromisedAbout[]) =>
        masked(keptPromises(about.flatMap(which), period), hidden);
      return {
        target: t.name,
        answered: of((p) => p.answer),
        resolved: of((p) => p.resolve),
        both: of((p) => [...p.answer, ...p.resolve]),
      };
    }),
    vocabulary,
    people: vocabulary.people,
    mayEdit: access.may("edit workflow"),
    now,
  };
}

/** Which items a figure is about. */
export interface PromiseFilter {
  typeId?: string;
  classOfService?: ClassOfService;
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
  if (rules.targets.length === 0) return [];
  const db = database();
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
      targets: sql<
        boolean[]
      >`array[${sql.join([...rules.targets.map((t) => compileCondition(t.condition, asker)), sql`false`], sql`, `)}]`,
    })
    .from(item)
    .innerJoin(state, eq(state.id, item.stateId))
    .innerJoin(itemType, and(eq(itemType.projectId, item.projectId), eq(itemType.id, item.typeId)))
    .where(
      and(
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        sql`${itemType.level} >= 1`,
        recent,
        typeId ? eq(item.typeId, typeId) : undefined,
        classOfService ? eq(item.classOfService, classOfService) : undefined,
      ),
    );
  const chosen = rows.flatMap((r) => {
    const target = rules.targets[r.targets.indexOf(true)];
    return target ? [{ ...r, target }] : [];
  });
  const promised = await promisedOf(
    db,
    chosen.map((c) => c.item),
  );
  return chosen.map(({ item: row, stateName, target }) => {
    const course = promised.get(row.id)!;
    return {
      course,
      row: {
        itemId: row.id,
        key: `${project.key}-${row.number}`,
        title: row.title,
        typeId: row.typeId,
        stateName,
        assigneeId: row.assigneeId,
        ...standing({ target, course, rules, zone: project.zone, now }),
      },
    };
  });
}

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
        ne(reportMessage.kind, "progress"),
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
function pauses(messages: readonly { reportId: string; kind: string; at: Instant }[]): Interval[] {
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

/** What was promised about one item; null where nothing is. */
export async function promiseOf(
  reader: Reader,
  project: { id: string; zone: string },
  itemId: string,
  now: Instant,
): Promise<ItemPromise | null> {
  const rules = await loadRules(reader, project.id);
  if (rules.targets.length === 0) return null;
  const asker = await projectAsker(reader, project, now);
  const [row] = await reader
    .select({
      item,
      targets: sql<boolean[]>`array[${sql.join(
        rules.targets.map((t) => compileCondition(t.condition, asker)),
        sql`, `,
      )}]`,
    })
    .from(item)
    .where(eq(item.id, itemId));
  const target = row && rules.targets[row.targets.indexOf(true)];
  if (!target) return null;
  return standing({
    target,
    course: (await promisedOf(reader, [row.item])).get(itemId)!,
    rules,
    zone: project.zone,
    now,
  });
}

/**
 * What is promised next about reports that have no item yet, by report: a first answer or, once one
 * was given (a question is one), that it is done. What such a report would be is asked of the
 * conditions: an unplanned bug of that title and text.
 */
export async function queuePromises({
  reader,
  rules,
  project,
  reports,
  typeId,
  now,
}: {
  reader: Reader;
  rules: IntakeRules;
  project: { id: string; zone: string };
  reports: readonly { id: string; title: string; happened: string; receivedAt: Instant }[];
  typeId: string;
  now: Instant;
}): Promise<Map<string, NonNullable<QueueRow["promise"]>>> {
  const found = new Map<string, NonNullable<QueueRow["promise"]>>();
  if (rules.targets.length === 0 || reports.length === 0) return found;
  const ids = reports.map((r) => r.id);
  const answered = new Set(
    (
      await reader
        .selectDistinct({ id: reportVerdict.reportId })
        .from(reportVerdict)
        .where(and(inArray(reportVerdict.reportId, ids), isNull(reportVerdict.undoneAt)))
    ).map((v) => v.id),
  );
  const messages = await reader
    .select({ reportId: reportMessage.reportId, kind: reportMessage.kind, at: reportMessage.at })
    .from(reportMessage)
    .where(
      and(
        inArray(reportMessage.reportId, ids),
        inArray(reportMessage.kind, ["question", "answer"]),
        isNull(reportMessage.takenBackAt),
      ),
    )
    .orderBy(asc(reportMessage.id));
  for (const r of reports) {
    const would = applyEvent(null, {
      kind: "created",
      itemId: r.id,
      seq: 1,
      at: r.receivedAt,
      actorId: null,
      cause: "verdict",
      commandId: r.id,
      new: {
        ...NEW_ITEM,
        projectId: project.id,
        number: 0,
        typeId,
        title: r.title,
        description: r.happened,
        origin: "unplanned",
        stateId: "",
        stateKind: "unstarted",
        rank: "",
      },
    });
    const target = rules.targets.find((t) =>
      holds(
        t.condition,
        { ...NOTHING_AROUND, item: would },
        { personId: null, teamIds: [], now, zone: project.zone },
      ),
    );
    const what = answered.has(r.id) ? "done" : "answer";
    const hours = what === "done" ? target?.resolveHours : target?.answerHours;
    if (!target || !hours) continue;
    const paused = pauses(messages.filter((m) => m.reportId === r.id));
    found.set(r.id, {
      target: target.name,
      what,
      state: targetState(
        hours,
        target.working,
        { since: r.receivedAt, metAt: null, paused },
        { calendar: rules.calendar, zone: project.zone, now },
      ),
    });
  }
  return found;
}
