import { and, desc, eq, inArray, max } from "drizzle-orm";
import type { StartRunBody, StepResultBody } from "@/core/ship/testing/step-result";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Reader, type Transaction } from "@/db/connection";
import {
  codeBuild,
  project,
  testCaseVersion,
  testRun,
  testRunCase,
  testStepResult,
  testSuite,
} from "@/db/schema";
import { throughDoor } from "../../item/door";
import { enterItem } from "../../item/enter";
import { namedByKeys, namedItems } from "../../item/list/named";
import { enterProject, type ProjectAccess } from "../../people/access";
import { checkMembers } from "../../people/belonging";
import type { Viewer } from "../../people/viewer";
import { invalid, notAllowed, notFound, Refused } from "../../refused";
import { repositoriesOf } from "../repository";
import { announceTests } from "./announce-tests";
import { casesById, itemsOfCases, type CaseNow } from "./case-rows";
import { mustSeeCases, seesRun } from "./hidden-cases";

/** A run or a case by its number in a project. */
export interface Numbered {
  /** Of the project. */
  key: string;
  number: string;
}

export type RunRow = typeof testRun.$inferSelect;

/**
 * Begins a run: the cases stand in it as they say now, whatever becomes of them. @throws Refused
 */
export async function startRun(
  viewer: Viewer,
  projectKey: string,
  body: StartRunBody,
  now = Date.now(),
): Promise<{ number: number }> {
  const seen = body.itemKey === null ? null : await namedByKeys(viewer, [body.itemKey]);
  return transact(async (tx) => {
    const where = { key: projectKey };
    const access = await enterProject({ reader: tx, viewer, where, action: "edit item" });
    const { id: projectId } = access.project;
    await tx.select().from(project).where(eq(project.id, projectId)).for("update");
    const [known] = await tx.select().from(testRun).where(eq(testRun.id, body.id));
    if (known && known.projectId !== projectId) throw notFound("test run");
    if (known) return { number: known.number };
    const item = seen ? [...seen.values()][0] : null;
    if (seen && (!item || item.projectId !== projectId)) throw notFound("item");
    await mustSeeCases(tx, viewer, body.caseIds);
    const cases = await casesToRun(tx, projectId, body);
    const testerId = body.testerId ?? viewer.personId;
    await checkMembers(tx, projectId, [testerId]);
    const number = await nextNumber(tx, projectId);
    const build = await buildMeant(tx, projectId, body);
    await tx.insert(testRun).values({
      ...{ id: body.id, projectId, number, testerId, startedAt: now, ...build },
      ...{ itemId: item?.id ?? null, suiteId: body.suiteId, environment: body.environment },
    });
    const triedFor = item ? () => item.id : await onlyOpenItem(tx, viewer, cases);
    await tx.insert(testRunCase).values(
      cases.map(({ id, version }, position) => ({
        ...{ runId: body.id, caseId: id, version, position, itemId: triedFor(id) },
      })),
    );
    if (item && body.takeTo !== null) await takeIntoTest(tx, viewer, item.id, body);
    await announceTests(tx, projectId, { itemIds: [item?.id ?? null], now });
    return { number };
  });
}

/** The item comes to where it is tested; what its process demands of that move holds. */
async function takeIntoTest(
  tx: Transaction,
  viewer: Viewer,
  itemId: string,
  { id: commandId, takeTo: to }: StartRunBody,
): Promise<void> {
  const on = await enterItem(tx, viewer, itemId, "move item");
  const { stateId: from } = on.before;
  if (from === to) return;
  const ask = { kind: "move" as const, from, to: to!, answers: {} };
  await throughDoor(tx, viewer, { on, commandId, ask });
}

async function casesToRun(
  tx: Transaction,
  projectId: string,
  { caseIds, suiteId }: StartRunBody,
): Promise<CaseNow[]> {
  const cases = await casesById(tx, caseIds);
  const runnable = cases.filter((one) => one.projectId === projectId && one.putAwayAt === null);
  if (runnable.length < caseIds.length)
    throw invalid("One of the cases is not there any more.", "Choose among those that are.");
  if (suiteId !== null) {
    const [suite] = await tx.select().from(testSuite).where(eq(testSuite.id, suiteId));
    if (suite?.projectId !== projectId) throw notFound("suite");
  }
  return caseIds.map((id) => runnable.find((one) => one.id === id)!);
}

async function nextNumber(tx: Transaction, projectId: string): Promise<number> {
  const [{ last }] = await tx
    .select({ last: max(testRun.number) })
    .from(testRun)
    .where(eq(testRun.projectId, projectId));
  return (last ?? 0) + 1;
}

/** Where nothing in particular is tested, what fails in a case belongs to the one open item it tests. */
async function onlyOpenItem(
  tx: Transaction,
  viewer: Viewer,
  cases: readonly CaseNow[],
): Promise<(caseId: string) => string | null> {
  const tests = await itemsOfCases(
    tx,
    cases.map(({ id }) => id),
  );
  const named = await namedItems(viewer, [...tests.values()].flat(), tx);
  return (caseId) => {
    const open = (tests.get(caseId) ?? []).filter((id) => {
      const one = named.get(id);
      return one && one.stateKind !== "finished" && !one.withdrawn;
    });
    return open.length === 1 ? open[0] : null;
  };
}

/** The build that is meant, with its commit where a pipeline told of it. */
async function buildMeant(tx: Transaction, projectId: string, { build }: StartRunBody) {
  if (build === null) return { build: null, commit: null, repositoryId: null };
  const repositories = await repositoriesOf(tx, projectId);
  const [known] =
    repositories.length === 0
      ? []
      : await tx
          .select()
          .from(codeBuild)
          .where(
            and(
              eq(codeBuild.name, build),
              inArray(
                codeBuild.repositoryId,
                repositories.map(({ id }) => id),
              ),
            ),
          )
          .orderBy(desc(codeBuild.at))
          .limit(1);
  const { commit = null, repositoryId = null } = known ?? {};
  return { build, commit, repositoryId };
}

/** A run of a project by its number, whoever tests, as far as somebody may see it. @throws Refused */
export async function runNumbered(
  reader: Reader,
  viewer: Viewer,
  projectId: string,
  number: string,
): Promise<RunRow> {
  const [found] = /^\d{1,7}$/.test(number)
    ? await reader
        .select()
        .from(testRun)
        .where(and(eq(testRun.projectId, projectId), eq(testRun.number, Number(number))))
    : [];
  if (!found || !(await seesRun(reader, viewer, found))) throw notFound("test run");
  return found;
}

/** Whether somebody may say what is seen in a run: whoever tests, and leads. */
export const mayRecord = (
  viewer: Viewer,
  access: Pick<ProjectAccess, "may">,
  run: Pick<RunRow, "testerId">,
): boolean =>
  access.may("edit item") && (run.testerId === viewer.personId || access.may("edit workflow"));

/**
 * Enters a run that is under way, to say something in it; it is locked.
 * @throws Refused where it has ended, was given up, or is somebody else's
 */
export async function enterRun(
  tx: Transaction,
  viewer: Viewer,
  { key, number }: Numbered,
): Promise<{ access: ProjectAccess; run: RunRow }> {
  const access = await enterProject({ reader: tx, viewer, where: { key }, action: "edit item" });
  const { id } = await runNumbered(tx, viewer, access.project.id, number);
  const [run] = await tx.select().from(testRun).where(eq(testRun.id, id)).for("update");
  if (!mayRecord(viewer, access, run)) throw notAllowed("say what somebody else sees in a test");
  if (run.endedAt !== null)
    throw new Refused(
      refuse("conflict", "This run has ended.", "Start another one: it shows what failed here."),
    );
  return { access, run };
}

/** @throws Refused where a run was given up: nothing is said in it before it is gone on with */
export function mustGoOn({ givenUpAt }: Pick<RunRow, "givenUpAt">): void {
  if (givenUpAt !== null)
    throw new Refused(refuse("conflict", "This run was given up.", "Go on with it first."));
}

/** Keeps what was seen in a step, or takes it back. @throws Refused */
export async function recordStep(
  viewer: Viewer,
  at: Numbered,
  body: StepResultBody,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { access, run } = await enterRun(tx, viewer, at);
    mustGoOn(run);
    const { caseId, stepId, result, note, course, givenTo } = body;
    await stepOfRun(tx, run, { caseId, stepId });
    const failed = result === "failed";
    if (failed) await checkMembers(tx, access.project.id, [givenTo]);
    const place = and(
      eq(testStepResult.runId, run.id),
      eq(testStepResult.caseId, caseId),
      eq(testStepResult.stepId, stepId),
    );
    if (result === null) await tx.delete(testStepResult).where(place);
    else {
      const said = {
        ...{ result, note, at: now },
        ...{ course: failed ? course : null, givenTo: failed ? givenTo : null },
      };
      await tx
        .insert(testStepResult)
        .values({ runId: run.id, caseId, stepId, ...said })
        .onConflictDoUpdate({
          target: [testStepResult.runId, testStepResult.caseId, testStepResult.stepId],
          set: said,
        });
    }
    await announceTests(tx, access.project.id, { itemIds: [run.itemId], now });
  });
}

/** A step that stands in a run, as its case was when that began. @throws Refused */
export async function stepOfRun(
  reader: Reader,
  run: Pick<RunRow, "id">,
  { caseId, stepId }: { caseId: string; stepId: string },
) {
  const [row] = await reader
    .select({ version: testCaseVersion, runCase: testRunCase })
    .from(testRunCase)
    .innerJoin(
      testCaseVersion,
      and(
        eq(testCaseVersion.caseId, testRunCase.caseId),
        eq(testCaseVersion.version, testRunCase.version),
      ),
    )
    .where(and(eq(testRunCase.runId, run.id), eq(testRunCase.caseId, caseId)));
  const number = row?.version.steps.findIndex(({ id }) => id === stepId) ?? -1;
  if (number < 0) throw notFound("step");
  return { ...row, step: row.version.steps[number], number: number + 1 };
}

/** Gives a run up, or goes on with it. @throws Refused */
export async function giveUpRun(
  viewer: Viewer,
  at: Numbered,
  { givenUp }: { givenUp: boolean },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { access, run } = await enterRun(tx, viewer, at);
    await tx
      .update(testRun)
      .set({ givenUpAt: givenUp ? now : null })
      .where(eq(testRun.id, run.id));
    await announceTests(tx, access.project.id, { itemIds: [run.itemId], now });
  });
}
