import { and, eq, inArray, isNull, lt, notInArray, sql } from "drizzle-orm";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { grouped } from "@/core/item/grouped";
import { UNIT_LEVEL } from "@/core/item/item-type";
import { environmentKey } from "@/core/ship/environment";
import { daysThere } from "@/core/ship/open-work";
import { finishingMove } from "@/core/ship/release/finishing-move";
import { againstOf, byGravity, isReady, type ReleaseFacts } from "@/core/ship/release/readiness";
import type {
  ReadinessRow,
  ReleasePage,
  ReleaseStage,
  TestedRow,
} from "@/core/ship/release/release-page";
import { TESTED } from "@/core/ship/testing/case-standing";
import type { ReleaseNote } from "@/core/ship/release/release-notes";
import { reopeningMove } from "@/core/ship/release/withdrawal";
import { wholeOn } from "@/core/ship/what-is-where";
import type { Workflow } from "@/core/workflow/workflow";
import { meaningOf } from "@/core/workflow/state-meaning";
import { database, type Reader } from "@/db/connection";
import { block, item, itemType, release, releaseNote, report } from "@/db/schema";
import { readColumns, readIds } from "../../item/list/read";
import { enterProject, seesAnywhere } from "../../people/access";
import { roster } from "../../people/roster";
import type { Viewer } from "../../people/viewer";
import { readReleaseCourse, readReleaseLines } from "../../plan/releases";
import { loadProjectWorkflows } from "../../workflow/load";
import { environmentsOf } from "../environments";
import { readPresence } from "../presence";
import { acceptanceOf } from "../acceptance/rows";
import { runsOfItems } from "../testing/run-views";
import { itemCase } from "../testing/item-case";
import { machinesOfCases } from "../testing/machine-rows";
import { testedItems, type TestedItem } from "../testing/tested-items";
import { readTags } from "./tags";
import { publicAddress } from "./public-releases";

const MOST = 3_000;
/** So many of those that are out can be looked at here; the others stand in Plan. */
const OUT_OFFERED = 6;

/**
 * A release as those see it who send it out: the one that is meant, else the next one to come.
 * @throws Refused
 */
export async function readReleasePage(
  viewer: Viewer,
  projectKey: string,
  wanted: string | undefined,
  now = Date.now(),
): Promise<ReleasePage> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const releases = await readReleaseLines(reader, projectId);
  const toCome = releases.filter(({ releasedAt }) => releasedAt === null);
  const out = releases.filter(({ releasedAt }) => releasedAt !== null);
  const line = releases.find(({ id }) => id === wanted) ?? toCome[0] ?? out[0] ?? null;
  const page = {
    project: { key, name, zone },
    today: isoDate(dayNumber(now, zone)),
    releases: [...toCome, ...out.filter((one, i) => i < OUT_OFFERED || one === line)].map(
      ({ id, name: called, dueOn, releasedAt }) => ({ id, name: called, dueOn, releasedAt }),
    ),
    next: toCome.find(({ id }) => id !== line?.id) ?? null,
    published: { on: access.project.newsPublic, address: publicAddress(key) },
    rights: {
      plan: access.may("plan work") && access.may("edit item"),
      publish: access.may("edit workflow"),
    },
    now,
  };
  const next = page.next && { id: page.next.id, name: page.next.name };
  if (!line)
    return {
      ...{ ...page, next, release: null, until: null, days: [], stages: [], ready: 0, rows: [] },
      ...{ notes: [], unseen: 0, outNotes: null, reporters: 0, withdrawn: null },
      ...{ tests: [], untested: [] },
      ...{ finished: [], tags: [], taggable: [] },
    };
  // Tasks go with what they stand under: nobody outside reads of them, and they are no items of their own.
  const tasks = reader.select({ id: itemType.id }).from(itemType).where(tasksOf(projectId));
  const inside = and(
    eq(item.releaseId, line.id),
    isNull(item.withdrawnAt),
    notInArray(item.typeId, tasks),
  )!;
  const seen = and(inside, seesAnywhere(reader, viewer))!;
  const [course, ids, all, [stored], reporters, tags, workflows] = await Promise.all([
    readReleaseCourse(viewer, access.project, line, now),
    readIds({ reader, where: seen }, MOST),
    reader
      .select({ stateId: item.stateId, n: sql<number>`count(*)::int` })
      .from(item)
      .where(inside)
      .groupBy(item.stateId),
    reader.select().from(release).where(eq(release.id, line.id)),
    reportersOf(reader, inside),
    readTags(reader, projectId, line.id),
    loadProjectWorkflows(reader, projectId),
  ]);
  const items: InsideRow[] = await readColumns(reader, { ids }, INSIDE);
  const { rows, ...ready } = await readinessOf(reader, {
    ...{ projectId, key, zone, releaseId: line.id, items, workflows, now },
  });
  return {
    ...{ ...page, next, release: line, ...course },
    stages: stagesOf(workflows, all, items),
    ready: rows.filter((row) => isReady(row, row.against)).length,
    rows: rows
      .filter(({ against }) => against.some(({ kind }) => kind !== "no words"))
      .toSorted((a, b) => byGravity(a.against, b.against)),
    ...ready,
    unseen: all.reduce((sum, { n }) => sum + n, 0) - ids.length,
    ...{ outNotes: stored.outNotes, reporters, ...tags },
    withdrawn:
      stored.withdrawnAt === null
        ? null
        : { at: stored.withdrawnAt, why: stored.withdrawnWhy ?? "" },
    finished: line.releasedAt === null ? [] : finishedOf(workflows, ready.notes, items),
  };
}

/** What is looked at of each item in a release; its texts are not. */
const INSIDE = {
  ...{ id: item.id, number: item.number, title: item.title, typeId: item.typeId },
  ...{ stateId: item.stateId, stateKind: item.stateKind, enteredStateAt: item.enteredStateAt },
  ...{ assigneeId: item.assigneeId, restricted: item.restricted, version: item.version },
  outside: item.outside,
};
type InsideRow = Pick<typeof item.$inferSelect, keyof typeof INSIDE>;

/** The states from which a move leads somewhere. */
const statesLeading = (
  workflows: readonly Workflow[],
  move: (workflow: Workflow, from: string) => string | null,
): ReadonlySet<string> =>
  new Set(
    workflows.flatMap((own) =>
      own.states.filter(({ id }) => move(own, id) !== null).map(({ id }) => id),
    ),
  );

/** What is finished of a release, and whether a move leads out of its end. */
function finishedOf(
  workflows: readonly Workflow[],
  notes: readonly ReleaseNote[],
  items: readonly InsideRow[],
): ReleasePage["finished"] {
  const leadingOut = statesLeading(workflows, reopeningMove);
  return items.flatMap((row, i) => {
    if (row.stateKind !== "finished") return [];
    const canReopen = leadingOut.has(row.stateId);
    return [{ id: row.id, key: notes[i].key, title: row.title, canReopen }];
  });
}

/** The types whose items are parts of others. */
const tasksOf = (projectId: string) =>
  and(eq(itemType.projectId, projectId), lt(itemType.level, UNIT_LEVEL));

/** How many people reported what is in a release: a fact of it, whoever looks. */
async function reportersOf(reader: Reader, inside: ReturnType<typeof and>): Promise<number> {
  const ids = reader.select({ id: item.id }).from(item).where(inside);
  const [{ n }] = await reader
    .select({ n: sql<number>`count(distinct lower(${report.mail}))::int` })
    .from(report)
    .where(and(inArray(report.itemId, ids), sql`${report.mail} <> ''`));
  return n;
}

/** The states that its items are in, in the order of the process. */
function stagesOf(
  workflows: readonly Workflow[],
  counts: readonly { stateId: string; n: number }[],
  items: readonly InsideRow[],
): ReleaseStage[] {
  const states = workflows.flatMap(({ states: all }) =>
    all.toSorted((a, b) => a.position - b.position),
  );
  const byState = grouped(items, ({ stateId }) => stateId);
  const drawn = new Map<string, ReleaseStage>();
  for (const { id, name, kind } of states) {
    const n = counts.find(({ stateId }) => stateId === id)?.n ?? 0;
    if (n === 0) continue;
    // Types may have workflows of their own with states of the same name.
    const known = drawn.get(`${name} ${kind}`) ?? { stateName: name, kind, n: 0, ids: [] };
    known.n += n;
    known.ids.push(...(byState.get(id) ?? []).map((one) => one.id));
    drawn.set(`${name} ${kind}`, known);
  }
  return [...drawn.values()].toSorted((a, b) => ORDER[a.kind] - ORDER[b.kind]);
}

/** What waits and what is worked on stand in the order of the process, between what is not begun and done. */
const ORDER = { unstarted: 0, waiting: 1, working: 1, finished: 2 } as const;

interface Reading {
  projectId: string;
  /** Of the project. */
  key: string;
  zone: string;
  releaseId: string;
  items: readonly InsideRow[];
  workflows: readonly Workflow[];
  now: number;
}

/** The first of some for each that they belong to. */
const firstOf = <T>(all: readonly T[], key: (one: T) => string | null): Map<string | null, T> =>
  new Map(all.toReversed().map((one) => [key(one), one]));

async function readinessOf(
  reader: Reader,
  { projectId, key, zone, releaseId, items, workflows, now }: Reading,
): Promise<Pick<ReleasePage, "rows" | "notes" | "tests" | "untested">> {
  const ids = items.map(({ id }) => id);
  const [{ people }, tested, presence, environments, blocks, written, runs, shown] =
    await Promise.all([
      roster(reader, projectId),
      testedItems(reader, ids),
      readPresence(reader, ids),
      environmentsOf(reader, projectId),
      reader
        .select({ itemId: block.itemId, cause: block.cause })
        .from(block)
        .where(and(sql`${block.itemId} = any(${sql.param(ids)}::uuid[])`, isNull(block.liftedAt))),
      reader.select().from(releaseNote).where(eq(releaseNote.releaseId, releaseId)),
      runsOfItems(reader, ids),
      acceptanceOf(reader, ids),
    ]);
  const states = new Map(
    workflows.flatMap(({ states: all }) =>
      all.map((state) => [state.id, { ...state, ...meaningOf(state, all) }] as const),
    ),
  );
  const live = environments.findIndex((one) => one.live);
  const acceptance = live > 0 ? environments[live - 1] : null;
  const writtenOf = new Map(written.map((note) => [note.itemId, note]));
  const lastRuns = firstOf(
    runs.filter(({ run }) => run.endedAt !== null),
    ({ run }) => run.itemId,
  );
  const blocked = firstOf(blocks, ({ itemId }) => itemId);
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const notes = items.map((row): ReleaseNote => {
    const own = writtenOf.get(row.id);
    return {
      itemId: row.id,
      key: `${key}-${row.number}`,
      title: row.title,
      typeId: row.typeId,
      words: own?.words ?? "",
      // What only some may see is told to nobody outside unless somebody says so.
      internal: own?.internal ?? row.restricted,
      finished: row.stateKind === "finished",
    };
  });
  const leadingToEnd = statesLeading(workflows, finishingMove);
  const rows = items.map((row, i): ReadinessRow => {
    const state = states.get(row.stateId);
    const whole = wholeOn(presence.of(row.id));
    const facts: ReleaseFacts = {
      stateKind: row.stateKind,
      stateName: state?.name ?? "elsewhere",
      days: daysThere(row.enteredStateAt, zone, now),
      ofReview: state?.ofReview ?? false,
      assigned: row.assigneeId !== null,
      blocked: blocked.get(row.id)?.cause ?? null,
      openChanges: row.outside.changes.filter(({ status }) => status === "open").length,
      merged: presence.merged.has(row.id),
      onAcceptance: acceptance && whole.has(environmentKey(acceptance.name)),
      acceptance: acceptance?.name ?? "",
      tested: tested.get(row.id)!.tested,
      failed: lastRuns.get(row.id)?.named.failed ?? "",
      shown: shown.get(row.id)!,
      missing: shown.get(row.id)!.missing,
      hasWords: notes[i].internal || notes[i].words.trim() !== "",
    };
    return {
      id: row.id,
      key: notes[i].key,
      title: row.title,
      typeId: row.typeId,
      version: row.version,
      stateName: facts.stateName,
      stateKind: row.stateKind,
      canFinish: leadingToEnd.has(row.stateId),
      assignee: (row.assigneeId && names.get(row.assigneeId)) ?? null,
      against: againstOf(facts),
    };
  });
  return { rows, notes, ...(await testsOf(reader, { key, items, tested })) };
}

/** By what its items are tested, the worst first. */
async function testsOf(
  reader: Reader,
  {
    key,
    items,
    tested,
  }: Pick<Reading, "key" | "items"> & { tested: ReadonlyMap<string, TestedItem> },
): Promise<Pick<ReleasePage, "tests" | "untested">> {
  const machines = await machinesOfCases(
    reader,
    [...tested.values()].flatMap(({ cases }) => cases.map(({ now }) => now.id)),
  );
  const rows = items.map(({ id, number, title, typeId }): TestedRow => ({
    id,
    key: `${key}-${number}`,
    title,
    typeId,
    tested: tested.get(id)!.tested,
    cases: tested.get(id)!.cases.map((one) => itemCase(one, { projectKey: key, machines })),
  }));
  const grave = (row: TestedRow) => TESTED.indexOf(row.tested);
  return {
    tests: rows.filter(({ cases }) => cases.length > 0).toSorted((a, b) => grave(a) - grave(b)),
    untested: rows.flatMap(({ id, cases }) => (cases.length === 0 ? [id] : [])),
  };
}
