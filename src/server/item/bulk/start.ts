import { and, desc, eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import type { BulkDoing } from "@/core/item/bulk/act";
import type { BulkRequest } from "@/core/item/bulk/contract";
import { transact, type Transaction } from "@/db/connection";
import { bulkItem, bulkJob } from "@/db/schema";
import { namedSql } from "@/db/statement";
import type { Viewer } from "../../people/viewer";
import { invalid, notFound } from "../../refused";
import { onlyProject } from "../../across/ground";
import { enterList, type EnteredList } from "../list/enter";
import { itemsMeant } from "./items";
import { holdNextPart } from "./lock";

/** Starts, cancels or takes back a job of one's own. */
export async function changeBulk(
  viewer: Viewer,
  projectKey: string,
  request: BulkRequest,
  now = Date.now(),
): Promise<void> {
  const entered = await enterList(viewer, projectKey, now);
  onlyProject(entered.ground);
  if (request.kind === "cancel") return cancelJob(entered, request.id, now);
  if (request.kind === "start") {
    const ids = await itemsMeant(entered, request.items);
    if (ids.length === 0) throw invalid("None of these items is there.", "Choose others.");
    return makeJob(entered, { id: request.id, doing: request.act, ids, now });
  }
  await transact((tx) => undoJob(tx, entered, request, now));
}

interface NewJob {
  id: string;
  doing: BulkDoing;
  ids: readonly string[];
  now: number;
}

/** What goes to the top one by one would end the wrong way round. */
const asTheyAreDone = ({ doing, ids }: NewJob): readonly string[] =>
  doing.kind === "rank" && doing.end === "top" ? ids.toReversed() : ids;

async function makeJob({ viewer, ground }: EnteredList, job: NewJob): Promise<void> {
  const { project } = onlyProject(ground);
  const { id, doing, now } = job;
  const head = { id, projectId: project.id, personId: viewer.personId, doing, madeAt: now };
  await transact((tx) => storeJob(tx, head, asTheyAreDone(job)));
}

type Head = Omit<typeof bulkJob.$inferInsert, "state">;

/** A job with its items in the order in which they are done; one that is there already stays. */
export async function storeJob(
  tx: Transaction,
  head: Head,
  itemIds: readonly string[],
): Promise<void> {
  const made = await tx
    .insert(bulkJob)
    .values({ ...head, state: "waiting" })
    .onConflictDoNothing()
    .returning({ id: bulkJob.id });
  if (made.length === 0) return;
  await STORE_ITEMS(tx, [head.id, [...itemIds], itemIds.map(() => newId())]);
}

const STORE_ITEMS = namedSql(
  "store the items of a job",
  `insert into bulk_item (job_id, position, item_id, command_id)
  select $1::uuid, told.at - 1, told.item_id, told.command_id
  from unnest($2::uuid[], $3::uuid[]) with ordinality as told (item_id, command_id, at)`,
);

/** A job of the person's own. @throws Refused where there is none */
async function ownJob(tx: Transaction, { viewer, ground }: EnteredList, id: string) {
  const [job] = await tx
    .select()
    .from(bulkJob)
    .where(
      and(
        eq(bulkJob.id, id),
        eq(bulkJob.projectId, ground.id),
        eq(bulkJob.personId, viewer.personId),
      ),
    )
    .for("update");
  if (!job) throw notFound("job");
  return job;
}

/** What is in hand is finished; nothing more is begun. */
async function cancelJob(entered: EnteredList, id: string, now: number): Promise<void> {
  await transact(async (tx) => {
    await holdNextPart(tx, id);
    const job = await ownJob(tx, entered, id);
    if (job.state === "done") return;
    await tx
      .update(bulkJob)
      .set({ state: "cancelled", endedAt: now })
      .where(eq(bulkJob.id, job.id));
  });
}

/** A job that takes back what another one did, the last first. */
async function undoJob(
  tx: Transaction,
  entered: EnteredList,
  { id, of }: Extract<BulkRequest, { kind: "undo" }>,
  now: number,
): Promise<void> {
  const job = await ownJob(tx, entered, of);
  if (job.state === "waiting" || job.state === "running")
    throw invalid("It is still being done.", "Stop it first, or wait for its end.");
  if (job.doing.kind === "undo")
    throw invalid("This took something back itself.", "Do it once more instead.");
  const done = await tx
    .select({ itemId: bulkItem.itemId })
    .from(bulkItem)
    .where(and(eq(bulkItem.jobId, of), eq(bulkItem.outcome, "done")))
    .orderBy(desc(bulkItem.position));
  if (done.length === 0) throw invalid("It changed nothing.", "There is nothing to take back.");
  const { projectId, personId } = job;
  const head = { id, projectId, personId, doing: { kind: "undo", of }, undoOf: of, madeAt: now };
  await storeJob(
    tx,
    head as Head,
    done.map((row) => row.itemId),
  );
}
