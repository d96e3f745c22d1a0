import { and, eq, isNull, max, sql } from "drizzle-orm";
import type { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { caseOfMachine } from "@/core/ship/testing/machine-test";
import type { suiteBody } from "@/core/ship/testing/step-result";
import { saysTheSame, type CaseBody } from "@/core/ship/testing/test-case";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Reader, type Transaction } from "@/db/connection";
import {
  itemTestCase,
  machineTest,
  project,
  projectTerm,
  testCase,
  testCaseVersion,
  testSuite,
} from "@/db/schema";
import { enterByKey } from "../../item/by-key";
import { enterProject, type ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid, notFound, Refused } from "../../refused";
import { repositoriesOf } from "../repository";
import { announceTests } from "./announce-tests";
import { mustSeeCases } from "./hidden-cases";
import type { Numbered } from "./runs";
import { casesById, itemsOfCases, type CaseNow } from "./case-rows";

/** Enters a project to change its cases; one such change after the other. */
async function enterCases(
  tx: Transaction,
  viewer: Viewer,
  projectKey: string,
): Promise<ProjectAccess> {
  const where = { key: projectKey };
  const access = await enterProject({ reader: tx, viewer, where, action: "edit item" });
  await tx.select().from(project).where(eq(project.id, access.project.id)).for("update");
  return access;
}

/**
 * Makes a case, or writes it anew: what it said before stays a version. Where it was written by somebody
 * else meanwhile nothing is stored. @throws Refused
 */
export async function saveCase(
  viewer: Viewer,
  projectKey: string,
  body: CaseBody,
  now = Date.now(),
): Promise<{ number: number }> {
  return transact(async (tx) => {
    const { project: at } = await enterCases(tx, viewer, projectKey);
    await mustBeThere(tx, at.id, body);
    const [known] = await casesById(tx, [body.id]);
    if (known && known.projectId !== at.id) throw notFound("test case");
    if (!known && body.seenVersion !== null) throw notFound("test case");
    if (known) await mustSeeCases(tx, viewer, [known.id]);
    const number = known
      ? await writeAnew(tx, { known, body, by: viewer.personId, now })
      : await make(tx, { projectId: at.id, body, by: viewer.personId, now });
    await matchMachines(tx, at, { id: body.id, projectKey: at.key, number, title: body.title });
    const linked =
      body.itemKey === null ? null : await linkTo(tx, viewer, { body, itemKey: body.itemKey, now });
    const tested = (await itemsOfCases(tx, [body.id])).get(body.id) ?? [];
    await announceTests(tx, at.id, { itemIds: [...tested, ...(linked ? [linked] : [])], now });
    return { number };
  });
}

/** What a case names is of its project. */
async function mustBeThere(tx: Transaction, projectId: string, { suiteId, part }: CaseBody) {
  if (suiteId !== null) {
    const [suite] = await tx
      .select()
      .from(testSuite)
      .where(
        and(
          eq(testSuite.id, suiteId),
          eq(testSuite.projectId, projectId),
          isNull(testSuite.putAwayAt),
        ),
      );
    if (!suite) throw invalid("There is no such suite.", "Choose one from the list.");
  }
  if (part === null) return;
  const [known] = await tx
    .select()
    .from(projectTerm)
    .where(
      and(
        eq(projectTerm.projectId, projectId),
        eq(projectTerm.kind, "part"),
        eq(projectTerm.name, part),
      ),
    );
  if (!known) throw invalid("There is no such part of the product.", "Choose one from the list.");
}

interface Writing {
  body: CaseBody;
  by: string;
  now: Instant;
}

async function make(
  tx: Transaction,
  { projectId, body, by, now }: Writing & { projectId: string },
): Promise<number> {
  const [{ last }] = await tx
    .select({ last: max(testCase.number) })
    .from(testCase)
    .where(eq(testCase.projectId, projectId));
  const number = (last ?? 0) + 1;
  const { id, suiteId, part } = body;
  await tx.insert(testCase).values({
    ...{ id, projectId, number, suiteId, part, version: 1, createdBy: by, createdAt: now },
  });
  await keepVersion(tx, 1, { body, by, now });
  return number;
}

async function writeAnew(
  tx: Transaction,
  { known, body, by, now }: Writing & { known: CaseNow },
): Promise<number> {
  const { id, suiteId, part } = body;
  const same = saysTheSame(known, body);
  // Sent twice, or said by two: what is there says it already.
  if (!same && body.seenVersion !== known.version)
    throw new Refused(
      refuse(
        "conflict",
        "Somebody else has written this case anew.",
        "Look at what it says now; what you wrote stands here still.",
      ),
    );
  const version = same ? known.version : known.version + 1;
  await tx.update(testCase).set({ suiteId, part, version }).where(eq(testCase.id, id));
  if (!same) await keepVersion(tx, version, { body, by, now });
  return known.number;
}

const keepVersion = (tx: Transaction, version: number, { body, by, now }: Writing) =>
  tx.insert(testCaseVersion).values({
    ...{ caseId: body.id, version, by, at: now },
    ...{ title: body.title, before: body.before, steps: body.steps },
  });

/** Machines' tests that carry out a case, by its key or its title, are known to from now on. */
async function matchMachines(
  tx: Transaction,
  { id: projectId }: { id: string },
  known: Parameters<typeof caseOfMachine>[1][number],
): Promise<void> {
  const repositories = await repositoriesOf(tx, projectId);
  for (const { id: repositoryId } of repositories) {
    const free = await tx
      .select()
      .from(machineTest)
      .where(and(eq(machineTest.repositoryId, repositoryId), isNull(machineTest.caseId)));
    const own = free.filter((one) => caseOfMachine(one, [known]) !== null).map(({ id }) => id);
    if (own.length > 0)
      await tx
        .update(machineTest)
        .set({ caseId: known.id })
        .where(sql`${machineTest.id} = any(${sql.param(own)}::uuid[])`);
  }
}

async function linkTo(
  tx: Transaction,
  viewer: Viewer,
  { body, itemKey, now }: { body: CaseBody; itemKey: string; now: Instant },
): Promise<string> {
  const { itemId } = await enterByKey(tx, viewer, itemKey, "edit item");
  await tx
    .insert(itemTestCase)
    .values({ itemId, caseId: body.id, linkedBy: viewer.personId, linkedAt: now })
    .onConflictDoNothing();
  return itemId;
}

/** A case of a project by its number. @throws Refused */
export async function caseNumbered(
  reader: Reader,
  projectId: string,
  number: string,
): Promise<typeof testCase.$inferSelect> {
  const [found] = /^\d{1,7}$/.test(number)
    ? await reader
        .select()
        .from(testCase)
        .where(and(eq(testCase.projectId, projectId), eq(testCase.number, Number(number))))
    : [];
  if (!found) throw notFound("test case");
  return found;
}

/** Puts a case away, or brings it back: what came of it stays known. @throws Refused */
export async function putAwayCase(
  viewer: Viewer,
  { key, number }: Numbered,
  { putAway }: { putAway: boolean },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project: at } = await enterCases(tx, viewer, key);
    const { id } = await caseNumbered(tx, at.id, number);
    await mustSeeCases(tx, viewer, [id]);
    await tx
      .update(testCase)
      .set({ putAwayAt: putAway ? now : null })
      .where(eq(testCase.id, id));
    const itemIds = (await itemsOfCases(tx, [id])).get(id) ?? [];
    await announceTests(tx, at.id, { itemIds, now });
  });
}

/** Says that a case tests an item, or does not any more. @throws Refused */
export async function linkCase(
  viewer: Viewer,
  itemKey: string,
  { caseId, on }: { caseId: string; on: boolean },
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { itemId, access } = await enterByKey(tx, viewer, itemKey, "edit item");
    const [known] = await casesById(tx, [caseId]);
    if (!known || known.projectId !== access.project.id) throw notFound("test case");
    await mustSeeCases(tx, viewer, [caseId]);
    if (on)
      await tx
        .insert(itemTestCase)
        .values({ itemId, caseId, linkedBy: viewer.personId, linkedAt: now })
        .onConflictDoNothing();
    else
      await tx
        .delete(itemTestCase)
        .where(and(eq(itemTestCase.itemId, itemId), eq(itemTestCase.caseId, caseId)));
    await announceTests(tx, access.project.id, { itemIds: [itemId], now });
  });
}

/** Makes a suite, calls it something else, or puts it away; its cases stay. @throws Refused */
export async function saveSuite(
  viewer: Viewer,
  projectKey: string,
  { id, name, putAway }: z.output<typeof suiteBody>,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project: at } = await enterCases(tx, viewer, projectKey);
    const [known] = await tx.select().from(testSuite).where(eq(testSuite.id, id));
    if (known && known.projectId !== at.id) throw notFound("suite");
    const [same] = await tx
      .select()
      .from(testSuite)
      .where(
        and(
          eq(testSuite.projectId, at.id),
          sql`lower(${testSuite.name}) = lower(${name})`,
          sql`${testSuite.id} <> ${id}`,
          isNull(testSuite.putAwayAt),
        ),
      );
    if (same && !putAway) throw invalid(`There is a suite ${name} already.`, "Use another name.");
    const putAwayAt = putAway ? now : null;
    await tx
      .insert(testSuite)
      .values({ id, projectId: at.id, name, putAwayAt })
      .onConflictDoUpdate({ target: testSuite.id, set: { name, putAwayAt } });
    await announceTests(tx, at.id, { itemIds: [], now });
  });
}
