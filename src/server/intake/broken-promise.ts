import { parseIsoDate } from "@/core/calendar/zone";
import { brokenByMerging, brokenByParking, type BrokenPromise } from "@/core/intake/broken-promise";
import type { BreaksQuery } from "@/core/intake/request";
import { targetState } from "@/core/intake/service-target";
import { database } from "@/db/connection";
import { seenItem } from "../item/seen-item";
import type { Viewer } from "../people/viewer";
import { projectTypes } from "../workflow/load";
import { pauses, promiseOf } from "./promises";
import { promiseAboutReport, questionsAbout, typeOfReports } from "./report-promises";
import { loadPromises, loadRules } from "./rules";
import { seenReport } from "./seen-report";

/**
 * The promise that parking a report, or putting it to an item, would break; null where it breaks
 * none.
 * @throws Refused where the reader may not read the report
 */
export async function readBrokenPromise(
  viewer: Viewer,
  reportId: string,
  { verdict, item: itemId, until }: BreaksQuery,
  now = Date.now(),
): Promise<{ broken: BrokenPromise | null }> {
  const db = database();
  const { row, access } = await seenReport(viewer, reportId, "read intake");
  const { project } = access;
  if (verdict === "merge") {
    if (!itemId) return { broken: null };
    const item = await seenItem(db, viewer, project.id, itemId);
    if (!item || item.stateKind === "finished") return { broken: null };
    const before = await promiseOf(db, project, { itemId, now });
    const after = await promiseOf(db, project, { itemId, now, cameAt: row.receivedAt });
    return {
      broken: brokenByMerging(
        before?.resolve ?? null,
        after?.resolve ? { target: after.target, state: after.resolve } : null,
      ),
    };
  }
  const [rules, promises, { types }] = await Promise.all([
    loadRules(db, project.id),
    loadPromises(db, project.id),
    projectTypes(db, project.id),
  ]);
  const target = promiseAboutReport(promises, row, { project, type: typeOfReports(types), now });
  if (!target?.resolveHours) return { broken: null };
  const state = targetState(
    target.resolveHours,
    target.working,
    { since: row.receivedAt, metAt: null, paused: pauses(await questionsAbout(db, [row.id])) },
    { calendar: rules.calendar, zone: project.zone, now },
  );
  const day = until === undefined ? null : parseIsoDate(until);
  return { broken: brokenByParking({ target: target.name, state }, day, project.zone) };
}
