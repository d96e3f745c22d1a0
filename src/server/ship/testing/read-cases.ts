import { and, asc, eq, inArray, isNull, ne, sql } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { caseChange, caseKey } from "@/core/ship/testing/test-case";
import type { CaseRow, CasesView, CaseView } from "@/core/ship/testing/testing-view";
import { database, type Reader } from "@/db/connection";
import {
  item,
  itemTestCase,
  itemType,
  machineTest,
  person,
  projectTerm,
  testCase,
  testCaseVersion,
} from "@/db/schema";
import { seenIn } from "../../item/list/enter";
import { namedItems } from "../../item/list/named";
import { readIds } from "../../item/list/read";
import { enterProject } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { repositoriesOf } from "../repository";
import { casesById, casesOfProject, itemsOfCases, suitesOf, timesTried } from "./case-rows";
import { caseNumbered } from "./cases";
import { hiddenCases, mustSeeCases } from "./hidden-cases";
import { machineFound, machinesOfCases, machinesWhere } from "./machine-rows";

/** So many of the last times that a case was tried are drawn. */
const TIMES_DRAWN = 12;
const MACHINES_SHOWN = 100;

/** The cases of a project, with what came of them last. @throws Refused */
export async function readCases(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<CasesView> {
  const reader = database();
  const where = { key: projectKey };
  const access = await enterProject({ reader, viewer, where, action: "read project" });
  const { id: projectId, key, name, zone } = access.project;
  const all = await casesOfProject(reader, projectId);
  const hidden = await hiddenCases(
    reader,
    viewer,
    all.map(({ id }) => id),
  );
  const cases = all.filter(({ id }) => !hidden.has(id));
  const caseIds = cases.map(({ id }) => id);
  const [tests, tried, machines, suites, parts, free, untested] = await Promise.all([
    itemsOfCases(reader, caseIds),
    timesTried(reader, caseIds),
    machinesOfCases(reader, caseIds),
    suitesOf(reader, projectId),
    partsOf(reader, projectId),
    machinesWithout(reader, projectId),
    untestedItems(reader, viewer, projectId),
  ]);
  const named = await namedItems(viewer, [...new Set([...tests.values()].flat())]);
  const triedOf = grouped(tried, ({ caseId }) => caseId);
  const rows = cases.map((one): CaseRow => {
    const times = triedOf.get(one.id) ?? [];
    const [last] = times;
    const own = machines.get(one.id) ?? [];
    return {
      ...{ id: one.id, key: caseKey(key, one.number), number: one.number, title: one.title },
      ...{ steps: one.steps.length, version: one.version, part: one.part, suiteId: one.suiteId },
      putAwayAt: one.putAwayAt,
      items: (tests.get(one.id) ?? []).flatMap((id) => {
        const row = named.get(id);
        return row && !row.withdrawn ? [{ key: row.key, title: row.title }] : [];
      }),
      last: last ? { verdict: last.verdict, at: last.at, run: last.run } : null,
      history: times
        .slice(0, TIMES_DRAWN)
        .map(({ verdict }) => verdict)
        .toReversed(),
      machines: own.length,
      unsteady: own.some((machine) => machineFound(machine).changedMind > 0),
    };
  });
  return {
    project: { key, name, zone },
    ...{ suites: suites.there, suitesAway: suites.away, parts, untested },
    ...{ cases: rows, machines: free },
    rights: { edit: access.may("edit item") },
    now,
  };
}

async function partsOf(reader: Reader, projectId: string): Promise<string[]> {
  const rows = await reader
    .select({ name: projectTerm.name })
    .from(projectTerm)
    .where(
      and(
        eq(projectTerm.projectId, projectId),
        eq(projectTerm.kind, "part"),
        isNull(projectTerm.endedAt),
      ),
    )
    .orderBy(asc(projectTerm.name));
  return rows.map(({ name }) => name);
}

/** Machines' tests that no case stands for; what changes its mind comes first. */
async function machinesWithout(reader: Reader, projectId: string): Promise<CasesView["machines"]> {
  const ids = (await repositoriesOf(reader, projectId)).map(({ id }) => id);
  if (ids.length === 0) return [];
  const rows = await machinesWhere(
    reader,
    and(inArray(machineTest.repositoryId, ids), isNull(machineTest.caseId)),
  );
  return rows
    .map(machineFound)
    .toSorted(
      (a, b) =>
        b.changedMind - a.changedMind ||
        Number(b.last?.result === "failed") - Number(a.last?.result === "failed") ||
        (a.name < b.name ? -1 : 1),
    )
    .slice(0, MACHINES_SHOWN);
}

/** Items in progress of the level that is planned of which no case says how they are tested. */
async function untestedItems(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
): Promise<CasesView["untested"]> {
  const seen = seenIn(reader, viewer, [projectId]);
  const planned = reader
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), eq(itemType.level, 1)));
  const where = and(
    seen.where,
    inArray(item.stateKind, ["waiting", "working"]),
    inArray(item.typeId, planned),
  );
  const ids = await readIds({ reader, where }, 2_000);
  const tested = await reader
    .selectDistinct({ itemId: itemTestCase.itemId })
    .from(itemTestCase)
    .innerJoin(testCase, eq(testCase.id, itemTestCase.caseId))
    .where(
      and(
        sql`${itemTestCase.itemId} = any(${sql.param([...ids])}::uuid[])`,
        isNull(testCase.putAwayAt),
      ),
    );
  const has = new Set(tested.map(({ itemId }) => itemId));
  return { ids: ids.filter((id) => !has.has(id)), of: ids.length };
}

/** A case with its versions and what came of it. @throws Refused */
export async function readCase(
  viewer: Viewer,
  projectKey: string,
  number: string,
): Promise<CaseView> {
  const reader = database();
  const where = { key: projectKey };
  const { project: at } = await enterProject({ reader, viewer, where, action: "read project" });
  const { id } = await caseNumbered(reader, at.id, number);
  await mustSeeCases(reader, viewer, [id]);
  const [[now], versions, tests, tried, machines] = await Promise.all([
    casesById(reader, [id]),
    reader
      .select({ version: testCaseVersion, by: person.name })
      .from(testCaseVersion)
      .innerJoin(person, eq(person.id, testCaseVersion.by))
      .where(and(eq(testCaseVersion.caseId, id), ne(testCaseVersion.version, 0)))
      .orderBy(testCaseVersion.version),
    itemsOfCases(reader, [id]),
    timesTried(reader, [id]),
    machinesOfCases(reader, [id]),
  ]);
  const named = await namedItems(viewer, tests.get(id) ?? []);
  return {
    ...{ id, key: caseKey(at.key, now.number), number: now.number, title: now.title },
    ...{ before: now.before, steps: now.steps, part: now.part, suiteId: now.suiteId },
    ...{ version: now.version, putAwayAt: now.putAwayAt },
    versions: versions
      .map(({ version, by }, i) => ({
        ...{ version: version.version, at: version.at, by },
        change: i === 0 ? "wrote it" : caseChange(versions[i - 1].version, version),
      }))
      .toReversed(),
    items: [...named.values()]
      .filter(({ withdrawn }) => !withdrawn)
      // What is still open is what it is looked at for.
      .toSorted((a, b) => Number(a.stateKind === "finished") - Number(b.stateKind === "finished"))
      .map((row) => ({ id: row.id, key: row.key, title: row.title })),
    runs: tried.map(({ run, at: when, by, build, verdict }) => ({
      ...{ number: run, at: when, by, build, verdict },
    })),
    machines: (machines.get(id) ?? []).map(machineFound),
  };
}
