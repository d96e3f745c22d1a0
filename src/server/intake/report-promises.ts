import { and, asc, eq, inArray, isNull } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { dayWords } from "@/core/calendar/day-words";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { holds } from "@/core/condition/evaluate";
import type { ItemType } from "@/core/item/item-type";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { promiseFor, type DatedPromises } from "@/core/intake/dated-promises";
import type { QueueRow } from "@/core/intake/desk-view";
import type { LetterKind } from "@/core/intake/letters";
import type { IntakeRules } from "@/core/intake/promises-view";
import { targetState, type ServiceTarget } from "@/core/intake/service-target";
import { NEW_ITEM } from "@/core/item/new-item";
import { applyEvent } from "@/core/item/snapshot";
import type { Reader } from "@/db/connection";
import { project, reportMessage, reportVerdict } from "@/db/schema";
import { pauses } from "./promises";
import { projectTypes } from "../workflow/load";
import { loadPromises, loadRules } from "./rules";

/* What is promised about reports that have no item yet. */

type ReportType = Pick<ItemType, "id" | "level">;

/** The type that a report would have. */
export const typeOfReports = (types: readonly ReportType[]): ReportType =>
  types.find((t) => t.id === "bug") ?? types[0] ?? { id: "", level: 1 };

/** What was asked of those who reported, and what they answered. */
export const questionsAbout = (reader: Reader, reportIds: readonly string[]) =>
  reader
    .select({ reportId: reportMessage.reportId, kind: reportMessage.kind, at: reportMessage.at })
    .from(reportMessage)
    .where(
      and(
        inArray(reportMessage.reportId, [...reportIds]),
        inArray(reportMessage.kind, ["question", "answer"]),
        isNull(reportMessage.takenBackAt),
      ),
    )
    .orderBy(asc(reportMessage.id));

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
  type,
  now,
}: {
  reader: Reader;
  rules: IntakeRules;
  project: { id: string; zone: string };
  reports: readonly { id: string; title: string; happened: string; receivedAt: Instant }[];
  type: ReportType;
  now: Instant;
}): Promise<Map<string, NonNullable<QueueRow["promise"]>>> {
  const found = new Map<string, NonNullable<QueueRow["promise"]>>();
  const promises = await loadPromises(reader, project.id);
  if (promises.all.length === 0 || reports.length === 0) return found;
  const ids = reports.map((r) => r.id);
  const answered = new Set(
    (
      await reader
        .selectDistinct({ id: reportVerdict.reportId })
        .from(reportVerdict)
        .where(and(inArray(reportVerdict.reportId, ids), isNull(reportVerdict.undoneAt)))
    ).map((v) => v.id),
  );
  const messages = await questionsAbout(reader, ids);
  for (const r of reports) {
    const target = promiseAboutReport(promises, r, { project, type, now });
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

/** What a report promises the one who sent it, as the unplanned bug that it would be. */
export function promiseAboutReport(
  promises: DatedPromises,
  r: { id: string; title: string; happened: string; receivedAt: Instant },
  { project, type, now }: { project: { id: string; zone: string }; type: ReportType; now: Instant },
): ServiceTarget | null {
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
      typeId: type.id,
      title: r.title,
      description: r.happened,
      origin: "unplanned",
      stateId: "",
      stateKind: "unstarted",
      rank: "",
    },
  });
  const facts = { ...NOTHING_AROUND, level: type.level, item: would };
  const asker = { personId: null, teamIds: [], now, zone: project.zone };
  return promiseFor(promises, r.receivedAt, (place) =>
    holds(promises.all[place].condition, facts, asker),
  );
}

/** By which day a first answer about a report was promised, in the project's zone; null where none was. */
export async function answerDay(
  reader: Reader,
  projectId: string,
  row: { id: string; title: string; happened: string; receivedAt: Instant },
  now: Instant,
): Promise<string | null> {
  const promises = await loadPromises(reader, projectId);
  if (promises.all.length === 0) return null;
  const [at] = await reader
    .select({ zone: project.zone })
    .from(project)
    .where(eq(project.id, projectId));
  const { types } = await projectTypes(reader, projectId);
  const about = { project: { id: projectId, zone: at.zone }, type: typeOfReports(types), now };
  const target = promiseAboutReport(promises, row, about);
  if (!target?.answerHours) return null;
  const { calendar } = await loadRules(reader, projectId);
  const promised = { since: row.receivedAt, metAt: null, paused: [] };
  const { dueAt } = targetState(target.answerHours, target.working, promised, {
    calendar,
    zone: at.zone,
    now,
  });
  return dueAt === null || dueAt < now ? null : isoDate(dayNumber(dueAt, at.zone));
}

/** The letter that a report was received. */
export async function receiptOf(
  reader: Reader,
  row: Parameters<typeof answerDay>[2] & { projectId: string },
  thanks: string,
  now: Instant,
): Promise<LetterKind> {
  const day = await answerDay(reader, row.projectId, row, now);
  const today = isoDate(dayNumber(now, "UTC"));
  return { kind: "receipt", thanks, hearBy: day && dayWords(day, today) };
}
