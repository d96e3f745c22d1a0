import { and, eq, inArray } from "drizzle-orm";
import type { Instant } from "@/core/calendar/instant";
import { cutText } from "@/core/formats/cut-text";
import { MOST_TITLE, type ItemSnapshot } from "@/core/item/fields";
import { NEW_ITEM, type NewItem } from "@/core/item/new-item";
import {
  endOfRun,
  findingDescription,
  findingTitle,
  type Failure,
  type Finding,
} from "@/core/ship/testing/run-end";
import type { EndRunBody } from "@/core/ship/testing/step-result";
import { caseKey } from "@/core/ship/testing/test-case";
import { runVerdict, verdictOf, type Verdict } from "@/core/ship/testing/verdict";
import { transitionBetween } from "@/core/workflow/workflow";
import { transact, type Transaction } from "@/db/connection";
import { itemFile, testRun, testRunCase, testStepResult } from "@/db/schema";
import { pullAtOnce, taskType } from "../../intake/accept";
import { typeOfReports } from "../../intake/report-promises";
import { throughDoor } from "../../item/door";
import { enterItem, enterNew, lockInOrder, type EnteredItem } from "../../item/enter";
import type { ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid } from "../../refused";
import { projectTypes } from "../../workflow/load";
import { announceTests } from "./announce-tests";
import { casesById } from "./case-rows";
import { contentsOfRuns, type RunContents } from "./run-contents";
import { enterRun, mustGoOn, type Numbered, type RunRow } from "./runs";
import { v7 as newId } from "uuid";

/** What came of the end of a run. */
export interface Ended {
  made: { key: string; title: string }[];
  /** Keys of the items that went somewhere. */
  moved: string[];
}

/**
 * Ends a run: what failed becomes tasks and bugs, the items that were tested hear of it, and those that
 * are to go somewhere go. All of it, or nothing. @throws Refused
 */
export async function endRun(
  viewer: Viewer,
  at: Numbered,
  body: EndRunBody,
  now = Date.now(),
): Promise<Ended> {
  return transact(async (tx) => {
    const { access, run } = await enterRun(tx, viewer, at);
    mustGoOn(run);
    const contents = await contentsOfRuns(tx, [run.id]);
    if (contents.steps.every(({ said }) => said === null))
      throw invalid("Nothing was tried yet.", "Try a step, or give the run up.");
    const ending: Ending = { tx, viewer, access, run, body, now };
    const verdicts = await keepVerdicts(ending, contents);
    const failures = await failuresOf(ending, contents);
    const itemIds = [...new Set(contents.cases.flatMap(({ runCase }) => runCase.itemId ?? []))];
    await lockInOrder(tx, itemIds);
    const items = new Map<string, EnteredItem>();
    for (const id of itemIds) items.set(id, await enterItem(tx, viewer, id, "edit item"));
    const befores = [...items.values()].map(({ before }) => before);
    const { findings, returns } = endOfRun(failures, befores, runWords(run));
    const made = await makeFindings(ending, { findings, items, contents });
    await tellItems(ending, { contents, verdicts });
    const moved = await moveItems(ending, new Map(returns.map((one) => [one.itemId, one.reason])));
    await announceTests(tx, access.project.id, { itemIds: [run.itemId, ...itemIds], now });
    return { made, moved };
  });
}

interface Ending {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  run: RunRow;
  body: EndRunBody;
  now: Instant;
}

const runWords = ({ number, build, environment }: RunRow): string =>
  `Test run ${number}` +
  (environment ? ` on ${environment}` : "") +
  (build ? `, build ${build}` : "");

/** @returns the verdicts of the cases */
async function keepVerdicts(
  { tx, run, now }: Ending,
  { cases, steps }: RunContents,
): Promise<Map<string, Verdict | null>> {
  const verdicts = new Map<string, Verdict | null>();
  for (const { runCase } of cases) {
    const own = steps.filter(({ caseId }) => caseId === runCase.caseId);
    const verdict = verdictOf(own.map(({ said }) => said?.result ?? null));
    verdicts.set(runCase.caseId, verdict);
    await tx
      .update(testRunCase)
      .set({ verdict })
      .where(and(eq(testRunCase.runId, run.id), eq(testRunCase.caseId, runCase.caseId)));
  }
  const verdict = runVerdict([...verdicts.values()]);
  await tx.update(testRun).set({ endedAt: now, verdict }).where(eq(testRun.id, run.id));
  return verdicts;
}

async function failuresOf(
  { tx, access }: Ending,
  { cases, steps }: RunContents,
): Promise<Failure[]> {
  const known = await casesById(
    tx,
    cases.map(({ runCase }) => runCase.caseId),
  );
  return steps.flatMap(({ caseId, number, step, said }): Failure[] => {
    if (said?.result !== "failed") return [];
    const { runCase, version } = cases.find((one) => one.runCase.caseId === caseId)!;
    const { number: caseNumber } = known.find(({ id }) => id === caseId)!;
    const { note, course, givenTo } = said;
    return [
      {
        ...{ caseId, caseKey: caseKey(access.project.key, caseNumber), caseTitle: version.title },
        ...{ step, number, note, course, givenTo, itemId: runCase.itemId },
      },
    ];
  });
}

interface Finds {
  findings: readonly Finding[];
  items: ReadonlyMap<string, EnteredItem>;
  contents: RunContents;
}

async function makeFindings(
  ending: Ending,
  { findings, items, contents }: Finds,
): Promise<Ended["made"]> {
  const { tx, access, run } = ending;
  const made: Ended["made"] = [];
  const keyOf = ({ number }: ItemSnapshot) => `${access.project.key}-${number}`;
  for (const finding of findings) {
    const { caseId, step } = finding.failure;
    const created =
      finding.kind === "task"
        ? await makeTask(ending, finding, items.get(finding.under)!.before)
        : await makeBug(ending, finding, items.get(finding.foundIn ?? "")?.before ?? null);
    await tx
      .update(testStepResult)
      .set({ becameId: created.id })
      .where(
        and(
          eq(testStepResult.runId, run.id),
          eq(testStepResult.caseId, caseId),
          eq(testStepResult.stepId, step.id),
        ),
      );
    await takePicturesAlong(ending, { to: created.id, caseId, stepId: step.id, contents });
    made.push({ key: keyOf(created), title: created.title });
  }
  const again = [...new Set(findings.flatMap((one) => (one.kind === "task" ? [one.under] : [])))];
  for (const under of again) {
    const task = await makeRetest(ending, items.get(under)!.before);
    if (task) made.push({ key: keyOf(task), title: task.title });
  }
  return made;
}

const make = async ({ tx, viewer, access, body }: Ending, fields: NewItem): Promise<ItemSnapshot> =>
  throughDoor(tx, viewer, {
    on: await enterNew(tx, access, fields.typeId, newId()),
    commandId: body.commandId,
    ask: { kind: "create", fields, place: "last" },
  });

/** A part of planned work is planned work: it changes what remains, not how much interrupted. */
async function makeTask(
  ending: Ending,
  { failure }: Finding,
  { id: parentId, teamId, restricted }: ItemSnapshot,
): Promise<ItemSnapshot> {
  return make(ending, {
    ...NEW_ITEM,
    ...{
      title: findingTitle(failure),
      description: findingDescription(failure, runWords(ending.run)),
    },
    ...{ typeId: await taskType(ending.tx, ending.access.project.id), parentId, teamId },
    ...{ assigneeId: failure.givenTo, restricted },
    remainingHours: ending.body.mendingHours,
  });
}

/** The tester's own time: it belongs to what remains too. */
async function makeRetest(
  ending: Ending,
  { id: parentId, title, teamId, restricted }: ItemSnapshot,
): Promise<ItemSnapshot | null> {
  const { retestHours } = ending.body;
  if (retestHours <= 0) return null;
  return make(ending, {
    ...NEW_ITEM,
    title: cutText(`Test again: ${title}`, MOST_TITLE),
    ...{ typeId: await taskType(ending.tx, ending.access.project.id), parentId, teamId },
    ...{ assigneeId: ending.run.testerId, restricted, remainingHours: retestHours },
  });
}

async function makeBug(
  ending: Ending,
  { failure, ...finding }: Finding,
  origin: ItemSnapshot | null,
): Promise<ItemSnapshot> {
  const { tx, viewer, access, body } = ending;
  const { types } = await projectTypes(tx, access.project.id);
  const expedite = finding.kind === "bug" && finding.expedite;
  const created = await make(ending, {
    ...NEW_ITEM,
    ...{
      title: findingTitle(failure),
      description: findingDescription(failure, runWords(ending.run)),
    },
    ...{
      typeId: typeOfReports(types.filter(({ removedAt }) => removedAt === null)).id,
      origin: "unplanned",
      assigneeId: failure.givenTo,
    },
    ...{ teamId: origin?.teamId ?? null, parts: origin?.parts ?? [] },
    ...{ restricted: origin?.restricted ?? false },
    ...(expedite ? { classOfService: "expedite" as const, estimate: 0 } : {}),
  });
  const along = { itemId: created.id, access };
  const { commandId } = body;
  const otherKey = origin && `${access.project.key}-${origin.number}`;
  const linked = otherKey
    ? await throughDoor(tx, viewer, {
        ...{ on: along, commandId },
        ask: { kind: "link", linkKind: "found in", otherKey },
      })
    : created;
  return expedite ? pullAtOnce(tx, viewer, along, { commandId }) : linked;
}

/** Whoever mends it sees what the tester saw: the pictures hang on what came of it too. */
async function takePicturesAlong(
  { tx, viewer, body, access }: Ending,
  {
    to,
    caseId,
    stepId,
    contents,
  }: { to: string; caseId: string; stepId: string; contents: RunContents },
): Promise<void> {
  const own = contents.pictures.filter((one) => one.caseId === caseId && one.stepId === stepId);
  for (const { name, mediaType, sha256, size, width, height, byId, at } of own) {
    const id = newId();
    await tx
      .insert(itemFile)
      .values({ id, itemId: to, name, mediaType, sha256, size, width, height, byId, at });
    await throughDoor(tx, viewer, {
      on: { itemId: to, access },
      commandId: body.commandId,
      ask: { kind: "prepared", command: { kind: "add file", fileId: id, name } },
    });
  }
}

/** Each item hears what its own cases came to. */
async function tellItems(
  { tx, viewer, run, body }: Ending,
  { contents, verdicts }: { contents: RunContents; verdicts: ReadonlyMap<string, Verdict | null> },
): Promise<void> {
  const itemIds = [...new Set(contents.cases.flatMap(({ runCase }) => runCase.itemId ?? []))];
  for (const itemId of itemIds.toSorted()) {
    const own = contents.cases.filter(({ runCase }) => runCase.itemId === itemId);
    const verdict = runVerdict(own.map(({ runCase }) => verdicts.get(runCase.caseId) ?? null));
    if (verdict !== "passed" && verdict !== "failed") continue;
    const fact = { kind: `test run ${verdict}` as const, run: String(run.number) };
    await throughDoor(tx, viewer, {
      on: await enterItem(tx, viewer, itemId, "edit item"),
      commandId: body.commandId,
      ask: { kind: "prepared", command: { kind: "report", facts: [fact], source: viewer.name } },
      made: { cause: "outside" },
    });
  }
}

/** @param reasons why items go back, by their ids */
async function moveItems(
  { tx, viewer, run, body, access }: Ending,
  reasons: ReadonlyMap<string, string>,
): Promise<string[]> {
  const moved: string[] = [];
  for (const [itemId, to] of Object.entries(body.moves)) {
    const on = await enterItem(tx, viewer, itemId, "move item");
    const { before, workflow } = on;
    if (!(await isTested(tx, run, itemId)))
      throw invalid("An item of this run is not the one to go.", "Look at it again.");
    if (before.stateKind === "finished")
      throw invalid("It is finished, and stays so.", "What was found becomes a bug of its own.");
    const transition = transitionBetween(workflow, before.stateId, to);
    const reason = reasons.get(itemId) ?? `${runWords(run)} passed.`;
    const asks = transition?.requirements.some((one) => one.kind === "comment");
    await throughDoor(tx, viewer, {
      on,
      commandId: body.commandId,
      ask: {
        ...{ kind: "move", from: before.stateId, to },
        answers: { reason, ...(asks ? { comment: reason } : {}) },
      },
    });
    moved.push(`${access.project.key}-${before.number}`);
  }
  return moved;
}

async function isTested(tx: Transaction, run: RunRow, itemId: string): Promise<boolean> {
  const rows = await tx
    .select({ caseId: testRunCase.caseId })
    .from(testRunCase)
    .where(and(eq(testRunCase.runId, run.id), inArray(testRunCase.itemId, [itemId])));
  return rows.length > 0;
}
