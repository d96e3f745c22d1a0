import { and, eq, inArray, isNull } from "drizzle-orm";
import { workflowSchema } from "@/core/workflow/definition";
import { checkWorkflow } from "@/core/workflow/check";
import { differences } from "@/core/workflow/difference";
import { refuse } from "@/core/workflow/refusal";
import type { Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import { transact, type Transaction } from "@/db/connection";
import {
  columnState,
  item,
  itemType,
  state,
  workflow,
  workflowDraft,
  workflowVersion,
} from "@/db/schema";
import { endLimits, setStateLimits, withLimitsInForce } from "../board/limits";
import { showStates } from "../board/show-states";
import { allThroughDoor } from "../item/door";
import type { Errand } from "../item/errand";
import { snapshotOf } from "../item/rows";
import type { ProjectAccess } from "../people/access";
import type { Viewer } from "../people/viewer";
import { invalid, Refused } from "../refused";
import { announceDesign } from "./announce";
import { changedMeanwhile, lockWorkflow, readDraft } from "./draft";
import { publishedWorkflow } from "./load";
import { stopMoves } from "./move-lock";
import type { PublishRequest } from "@/core/workflow/request";
import { checkSurroundings } from "./surroundings";
import { v7 as newId } from "uuid";

/**
 * Publishes a draft: from now on everybody is bound by it. One transaction: moves in hand are
 * stored first by the version they were decided by, items in states that are gone get the new
 * states that were chosen for them, boards follow, and the version before stays as it was.
 */
export async function publishDraft(
  viewer: Viewer,
  request: PublishRequest,
): Promise<{ version: number; movedItems: number }> {
  return transact(async (tx) => {
    await stopMoves(tx, request.workflowId);
    const { access, version } = await lockWorkflow(tx, viewer, request.workflowId);
    const draft = await readDraft(tx, request.workflowId);
    if (!draft || draft.revision !== request.seenRevision || draft.baseVersion !== version)
      throw new Refused(changedMeanwhile());
    const published = await publishedWorkflow(tx, request.workflowId, version);
    const before = await withLimitsInForce(tx, published);
    const after: Workflow = { ...workflowSchema.parse(draft.definition), version: version + 1 };
    const around = await checkSurroundings(tx, access.project.id);
    const trap = checkWorkflow(after, around).find((f) => f.severity === "trap");
    if (trap)
      throw new Refused(
        refuse(
          "invalid",
          trap.sentence,
          "Mend it first: nothing may be published that traps items.",
        ),
      );
    const changes = differences(before, after, around.vocabulary);
    if (changes.length === 0)
      throw invalid(
        "The draft is the same as what runs.",
        "Change something first, or throw the draft away.",
      );

    await storeStates(tx, before, after);
    await tx
      .update(workflow)
      .set({ version: after.version, name: after.name })
      .where(eq(workflow.id, after.id));
    await tx.insert(workflowVersion).values({
      workflowId: after.id,
      version: after.version,
      definition: after,
      at: Date.now(),
      byId: viewer.personId,
      note: request.note.trim(),
      summary: changes
        .map((c) => c.sentence)
        .join(" ")
        .slice(0, LONGEST_SUMMARY),
    });
    const movedItems = await placeItems({
      tx,
      viewer,
      access,
      before,
      after,
      newStates: request.newStates,
    });
    await tx.delete(workflowDraft).where(eq(workflowDraft.workflowId, after.id));
    const gone = goneStates(before, after);
    await setStateLimits(tx, access.project.id, after);
    await endLimits(tx, "state", gone);
    if (gone.length > 0) await tx.delete(columnState).where(inArray(columnState.stateId, gone));
    await showStates({
      tx,
      projectId: access.project.id,
      before,
      after,
    });
    await announceDesign(tx, access.project.id, {
      kind: "workflow published",
      data: { workflowId: after.id, version: after.version, movedItems },
    });
    return { version: after.version, movedItems };
  });
}

const LONGEST_SUMMARY = 2_000;

const goneStates = (before: Workflow, after: Workflow): StateId[] =>
  before.states.filter((s) => !after.states.some((a) => a.id === s.id)).map((s) => s.id);

async function storeStates(tx: Transaction, before: Workflow, after: Workflow): Promise<void> {
  for (const { id, name, kind, stage, position, byReviewer } of after.states) {
    const [stored] = await tx
      .insert(state)
      .values({ id, name, kind, stage, position, byReviewer, workflowId: after.id })
      .onConflictDoUpdate({
        target: state.id,
        set: { name, kind, stage, position, byReviewer, removedIn: null },
        setWhere: eq(state.workflowId, after.id),
      })
      .returning({ id: state.id });
    if (!stored) throw invalid(`The state ${name} belongs to another workflow.`, "Add it anew.");
  }
  const gone = goneStates(before, after);
  if (gone.length > 0)
    await tx.update(state).set({ removedIn: after.version }).where(inArray(state.id, gone));
}

/**
 * Items in states that are gone, or that are of another kind now, enter their new state; their
 * history says why.
 */
async function placeItems({
  tx,
  viewer,
  access,
  before,
  after,
  newStates,
}: {
  tx: Transaction;
  viewer: Viewer;
  access: ProjectAccess;
  before: Workflow;
  after: Workflow;
  newStates: Record<StateId, StateId>;
}): Promise<number> {
  const gone = goneStates(before, after);
  const otherKind = after.states
    .filter((s) => before.states.some((b) => b.id === s.id && b.kind !== s.kind))
    .map((s) => s.id);
  if (gone.length + otherKind.length === 0) return 0;
  const types = (
    await tx
      .select({ id: itemType.id })
      .from(itemType)
      .where(and(eq(itemType.projectId, access.project.id), eq(itemType.workflowId, after.id)))
  ).map((t) => t.id);
  const rows = await tx
    .select()
    .from(item)
    .where(
      and(
        eq(item.projectId, access.project.id),
        inArray(item.typeId, types),
        inArray(item.stateId, [...gone, ...otherKind]),
        isNull(item.withdrawnAt),
      ),
    )
    .orderBy(item.id)
    .for("update");
  const nameBefore = (id: StateId) => before.states.find((s) => s.id === id)?.name ?? "a state";
  const errands: Errand[] = [];
  for (const snapshot of rows.map(snapshotOf)) {
    const to = gone.includes(snapshot.stateId) ? newStates[snapshot.stateId] : snapshot.stateId;
    if (!to || !after.states.some((s) => s.id === to)) {
      const n = rows.filter((r) => r.stateId === snapshot.stateId).length;
      throw invalid(
        `${n === 1 ? "1 item is" : `${n} items are`} in ${nameBefore(snapshot.stateId)}, which is going.`,
        "Choose the state they go to.",
      );
    }
    const note = gone.includes(snapshot.stateId)
      ? `${nameBefore(snapshot.stateId)} was taken out of the process.`
      : `${nameBefore(to)} became another kind of state.`;
    errands.push({
      on: { itemId: snapshot.id, access, workflow: after, before: snapshot },
      commandId: newId(),
      ask: { kind: "prepared", command: { kind: "place in state", to, note } },
      made: { cause: "workflow change" },
    });
  }
  await allThroughDoor(tx, viewer, errands);
  return rows.length;
}
