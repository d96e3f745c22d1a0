import { and, desc, eq, inArray, ne } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import type { ReportView, SimilarItem } from "@/core/intake/desk-view";
import { mostSimilar, type Text } from "@/core/intake/similarity";
import { database } from "@/db/connection";
import { report } from "@/db/schema";
import { goesOutOf } from "../plan/goes-out";
import { seesReport } from "../people/access";
import type { Viewer } from "../people/viewer";
import { likelyItems, textOfCandidate } from "./candidates";
import { deliveredSince } from "./desk-items";
import { relationsOf } from "./learnt-words";
import { meaningsOf } from "./meanings";

/* What is known around a report that somebody judges. */

type OpenReport = ReportView["report"];

const textOf = (r: Pick<OpenReport, "id" | "title" | "happened" | "place">): Text => ({
  id: r.id,
  title: r.title,
  body: `${r.happened} ${r.place}`,
  place: r.place,
});

const DEPLOYED_DAYS = 14;
const DEPLOYED_SHOWN = 5;

/**
 * What went live lately: what is about the same place first, then what shares words with the
 * report, then the latest.
 */
export async function deployedLately(
  viewer: Viewer,
  project: { id: string; key: string },
  open: OpenReport,
  now: number,
): Promise<ReportView["deployed"]> {
  const rows = await deliveredSince(viewer, project.id, now - DEPLOYED_DAYS * DAY);
  const alike = new Map(
    mostSimilar(
      textOf(open),
      rows.map((r) => ({ id: r.id, title: r.title, body: r.description })),
      rows.length,
      { least: 0.05 },
    ).map((s) => [s.id, s.score]),
  );
  const samePlace = (place: string | null) =>
    place !== null && open.place !== "" && place.toLowerCase() === open.place.toLowerCase();
  return rows
    .map((r) => ({
      key: `${project.key}-${r.number}`,
      title: r.title,
      at: r.at!,
      samePlace: samePlace(r.place),
      near: (samePlace(r.place) ? 1 : 0) + (alike.get(r.id) ?? 0),
    }))
    .sort((a, b) => b.near - a.near || b.at - a.at)
    .slice(0, DEPLOYED_SHOWN)
    .map(({ near: _, ...shown }) => shown);
}

const SHOWN = 6;
/** The latest reports that wait are held against the one that is open. */
const REPORTS_HELD = 300;

/** Items that a report is most like. */
export async function similarItems(
  viewer: Viewer,
  project: { id: string; key: string; nextItemNumber: number },
  open: OpenReport,
): Promise<SimilarItem[]> {
  const meaning = (await meaningsOf("report", [open.id])).get(open.id) ?? null;
  const candidates = await likelyItems(viewer, project, {
    title: open.title,
    body: open.happened,
    meaning,
  });
  const meanings = await meaningsOf(
    "item",
    candidates.map((c) => c.id),
  );
  const byId = new Map(candidates.map((c) => [c.id, c]));
  const texts = candidates.map((c) => textOfCandidate(c, meanings.get(c.id)));
  const alike = mostSimilar({ ...textOf(open), meaning }, texts, SHOWN, {
    relations: await relationsOf(project.id),
  });
  const goesOut = await goesOutOf(
    database(),
    alike.map(({ id }) => id),
  );
  return alike.map(({ id, score, reasons }) => {
    const c = byId.get(id)!;
    return {
      id,
      key: `${project.key}-${c.number}`,
      title: c.title,
      stateName: c.stateName,
      progress: { stateKind: c.stateKind, stage: c.stage, outcome: c.outcome },
      score,
      reasons,
      goesOut: goesOut.get(id) ?? null,
    };
  });
}

/** Reports that wait and that a report is most like. */
export async function alikeReports(
  projectId: string,
  open: OpenReport,
): Promise<ReportView["similarReports"]> {
  const rows = await database()
    .select()
    .from(report)
    .where(
      and(
        eq(report.projectId, projectId),
        ne(report.id, open.id),
        // A report with an item is found by its item.
        inArray(report.status, ["unjudged", "asked", "parked"]),
      ),
    )
    .orderBy(desc(report.receivedAt))
    .limit(REPORTS_HELD);
  const byId = new Map(rows.map((r) => [r.id, r]));
  const meanings = await meaningsOf("report", [open.id, ...rows.map((r) => r.id)]);
  const read = (r: OpenReport) => ({ ...textOf(r), meaning: meanings.get(r.id) });
  return mostSimilar(read(open), rows.map(read), 3, {
    least: 0.2,
    relations: await relationsOf(projectId),
  }).map(({ id, score, reasons }) => {
    const { reference, title, status, itemId } = byId.get(id)!;
    return { id, reference, title, status, itemId, score, reasons };
  });
}

const EARLIER_SHOWN = 5;

/** Other reports from the same address, the latest first. */
export async function earlierReports(
  viewer: Viewer,
  projectId: string,
  { id, mail }: OpenReport,
): Promise<ReportView["earlier"]> {
  if (mail === "") return [];
  const { reference, title, status } = report;
  return database()
    .select({ id: report.id, reference, title, status })
    .from(report)
    .where(
      and(
        eq(report.projectId, projectId),
        eq(report.mail, mail),
        ne(report.id, id),
        seesReport(database(), viewer),
      ),
    )
    .orderBy(desc(report.receivedAt))
    .limit(EARLIER_SHOWN);
}
