import { and, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { maskIds } from "@/core/flow/outside-view";
import { HABIT_DAYS, habitsOf, maskHabits, type Habits } from "@/core/workflow/habits";
import { database, type Reader } from "@/db/connection";
import { item, itemType, stay, workflow } from "@/db/schema";
import { enterProject, hiddenItems } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";
import { publishedWorkflow } from "./load";

/** How a process was really walked lately; what runs counts, not a draft. */
export async function readHabits(
  viewer: Viewer,
  projectKey: string,
  { workflow: workflowId }: { workflow: string },
  now = Date.now(),
): Promise<Habits> {
  const reader = database();
  const { project } = await enterProject({
    reader,
    viewer,
    where: { key: projectKey },
    action: "read flow",
  });
  const [head] = await reader
    .select({ version: workflow.version })
    .from(workflow)
    .where(and(eq(workflow.id, workflowId), eq(workflow.projectId, project.id)));
  if (!head) throw notFound("workflow");
  const [running, passages, hidden] = await Promise.all([
    publishedWorkflow(reader, workflowId, head.version),
    passagesOf(reader, { projectId: project.id, workflowId, since: now - HABIT_DAYS * DAY }),
    hiddenItems(reader, viewer, project.id),
  ]);
  return maskHabits(habitsOf(running, passages), (ids) => maskIds(ids, hidden));
}

/** The steps that items of a workflow made since an instant. */
async function passagesOf(
  reader: Reader,
  { projectId, workflowId, since }: { projectId: string; workflowId: string; since: number },
) {
  const types = reader
    .select({ id: itemType.id })
    .from(itemType)
    .where(and(eq(itemType.projectId, projectId), eq(itemType.workflowId, workflowId)));
  // Only of what moved lately the whole way is read: where it came from may be longer ago.
  const moved = reader.select({ id: stay.itemId }).from(stay).where(gte(stay.enteredAt, since));
  const steps = reader
    .select({
      itemId: stay.itemId,
      to: stay.stateId,
      enteredAt: stay.enteredAt,
      from: sql<
        string | null
      >`lag(${stay.stateId}) over (partition by ${stay.itemId} order by ${stay.enteredSeq})`.as(
        "from_state",
      ),
    })
    .from(stay)
    .innerJoin(item, eq(item.id, stay.itemId))
    .where(
      and(
        eq(item.projectId, projectId),
        isNull(item.withdrawnAt),
        inArray(item.typeId, types),
        inArray(item.id, moved),
      ),
    )
    .as("steps");
  const rows = await reader
    .select({ itemId: steps.itemId, from: steps.from, to: steps.to })
    .from(steps)
    .where(gte(steps.enteredAt, since));
  return rows.flatMap(({ from, ...row }) => (from === null ? [] : [{ ...row, from }]));
}
