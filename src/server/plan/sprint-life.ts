import { and, asc, eq, isNull, ne } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { copiedFields } from "@/core/item/copy";
import type { Split, SprintAct } from "@/core/plan/request";
import { sprintStanding } from "@/core/plan/sprint";
import type { SprintView } from "@/core/plan/sprint-view";
import { plainChange } from "@/core/workflow/design-change";
import { transact, type Transaction } from "@/db/connection";
import { item, project, sprint } from "@/db/schema";
import { throughDoor } from "../item/door";
import { enterAlong, enterNew } from "../item/enter";
import { snapshotOf } from "../item/rows";
import { enterProject, isSeen, seesAnywhere, type ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { readSprint } from "./sprint-view";
import { loadSprints, takesItems } from "./timeboxes";

/**
 * Starts a sprint, ends it with what becomes of everything open in it, or brings it back.
 * @throws Refused where it stands otherwise, or something open would go where it cannot
 */
export async function actOnSprint(
  viewer: Viewer,
  { projectKey, sprintId }: { projectKey: string; sprintId: string },
  act: SprintAct,
  now = Date.now(),
): Promise<SprintView> {
  await transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "plan work",
    });
    const projectId = access.project.id;
    if (!(await takesItems(tx, "sprint", sprintId, projectId))) throw notFound("sprint");
    const [row] = await tx.select().from(sprint).where(eq(sprint.id, sprintId)).for("update");
    const standing = sprintStanding(row, isoDate(dayNumber(now, row.zone)));
    const set = (values: Partial<typeof sprint.$inferInsert>) =>
      tx.update(sprint).set(values).where(eq(sprint.id, sprintId));
    if (act.kind === "start") {
      if (standing !== "coming")
        throw invalid(`${row.name} runs already, or is over.`, "Start the one that comes next.");
      await refuseTwoAtOnce(tx, projectId, now);
      await set({ startedAt: now, startedBy: viewer.personId });
    } else if (act.kind === "end") {
      if (standing === "coming")
        throw invalid(`${row.name} has not begun.`, "Take it out instead, or start it first.");
      if (standing === "ended")
        throw invalid(`${row.name} has ended already.`, "Look at its report.");
      await set({
        endedAt: now,
        endedBy: viewer.personId,
        goalReached: act.reached,
        endWords: act.words,
      });
      await putOn(tx, { viewer, access, sprintId }, act);
    } else {
      if (standing !== "ended")
        throw invalid(`${row.name} has not ended.`, "Nothing to bring back.");
      await set({ endedAt: null, endedBy: null, goalReached: null, endWords: null });
    }
    const said = { start: "started", end: "ended", "bring back": "brought back" }[act.kind];
    const change = plainChange("sprints and releases", `${said} the sprint “${row.name}”`);
    await keepDesignChange(tx, { projectId, byId: viewer.personId, at: now }, change);
    await announceDesign(tx, projectId, { kind: "plan changed", data: {} });
  });
  return readSprint(viewer, projectKey, sprintId, now);
}

/** @throws Refused where another sprint of the project has not ended */
async function refuseTwoAtOnce(tx: Transaction, projectId: string, now: number): Promise<void> {
  const all = await loadSprints(tx, projectId);
  const [{ zone }] = await tx.select().from(project).where(eq(project.id, projectId));
  const today = isoDate(dayNumber(now, zone));
  const other = all.find((one) => ["running", "over"].includes(sprintStanding(one, today)));
  if (other)
    throw invalid(`${other.name} has not ended.`, "End it first: what is open in it can go on.");
}

/** Takes everything open out of a sprint that ends: nothing stays behind in it, seen or not. */
async function putOn(
  tx: Transaction,
  { viewer, access, sprintId }: { viewer: Viewer; access: ProjectAccess; sprintId: string },
  { to, exceptions }: Extract<SprintAct, { kind: "end" }>,
): Promise<void> {
  const rows = await tx
    .select({
      id: item.id,
      version: item.version,
      project,
      seen: isSeen(seesAnywhere(tx, viewer)),
    })
    .from(item)
    .innerJoin(project, eq(project.id, item.projectId))
    .where(
      and(eq(item.sprintId, sprintId), isNull(item.withdrawnAt), ne(item.stateKind, "finished")),
    )
    .orderBy(asc(item.id));
  const otherwise = new Map(exceptions.map((one) => [one.itemId, one]));
  // Of what somebody does not see, they cannot say where it goes by itself.
  const open = new Set(rows.filter(({ seen }) => seen).map(({ id }) => id));
  if (exceptions.some(({ itemId }) => !open.has(itemId)))
    throw invalid("Something of that is not open in it any more.", "Look at it once more.");
  for (const { id, version, project: of } of rows) {
    const exception = otherwise.get(id);
    const goesTo = exception ? exception.to : to;
    if (goesTo === sprintId)
      throw invalid("Nothing stays behind in a sprint that has ended.", "Choose another one.");
    await throughDoor(tx, viewer, {
      // Of other projects too, and what this person does not see.
      on: { itemId: id, access: { ...access, project: of, may: () => true } },
      commandId: newId(),
      ask: {
        kind: "edit",
        seenVersion: version,
        changes: exception?.split
          ? { estimate: exception.split.remains, sprintId: goesTo }
          : { sprintId: goesTo },
      },
    });
    if (exception?.split?.cutOff)
      await cutOff(tx, { viewer, access, from: id }, exception.split.cutOff);
  }
}

/** Makes what is cut off from an item one of its own: like it, in the backlog, linked to it. */
async function cutOff(
  tx: Transaction,
  { viewer, access, from }: { viewer: Viewer; access: ProjectAccess; from: string },
  { title, points }: NonNullable<Split["cutOff"]>,
): Promise<void> {
  const [row] = await tx.select().from(item).where(eq(item.id, from));
  if (row.projectId !== access.project.id)
    throw invalid(
      "Something of another project is not cut in two here.",
      "Let it go on whole, and split it in its own project.",
    );
  const commandId = newId();
  const made = await throughDoor(tx, viewer, {
    on: await enterNew(tx, access, row.typeId, newId()),
    commandId,
    ask: {
      kind: "create",
      fields: {
        ...copiedFields(snapshotOf(row), title, ["facts", "people"]),
        estimate: points,
        parentId: row.parentId,
      },
      place: "last",
    },
  });
  await throughDoor(tx, viewer, {
    on: await enterAlong(tx, { itemId: made.id, access }),
    commandId,
    ask: {
      kind: "link",
      linkKind: "came from",
      otherKey: `${access.project.key}-${row.number}`,
    },
  });
}
