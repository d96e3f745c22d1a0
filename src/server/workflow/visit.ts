import { and, eq, gte, ne } from "drizzle-orm";
import type { DraftVisit, DraftVisitor } from "@/core/workflow/draft-visit";
import { transact } from "@/db/connection";
import { draftPlace, person, workflow } from "@/db/schema";
import { announce } from "../events/announce";
import { enterProject } from "../people/access";
import type { Viewer } from "../people/viewer";
import { notFound } from "../refused";

/** Whoever said so in the last seconds is still there. */
const PRESENT_MS = 50_000;

/**
 * Says where somebody is at a draft, or that they leave it. Others are told when it is another
 * place than before.
 * @returns who else is there, and where
 */
export async function visitDraft(
  viewer: Viewer,
  projectKey: string,
  { workflowId, chosenId, leaves }: DraftVisit,
  now = Date.now(),
): Promise<DraftVisitor[]> {
  return transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const [known] = await tx
      .select({ id: workflow.id })
      .from(workflow)
      .where(and(eq(workflow.id, workflowId), eq(workflow.projectId, project.id)));
    if (!known) throw notFound("workflow");
    const present = gte(draftPlace.at, now - PRESENT_MS);
    const mine = eq(draftPlace.personId, viewer.personId);
    const here = eq(draftPlace.workflowId, workflowId);
    const [before] = await tx.select().from(draftPlace).where(and(mine, present));
    const moved = before?.workflowId !== workflowId || before.chosenId !== chosenId;
    if (leaves) await tx.delete(draftPlace).where(and(mine, here));
    else
      await tx
        .insert(draftPlace)
        .values({ personId: viewer.personId, workflowId, chosenId, at: now })
        .onConflictDoUpdate({
          target: draftPlace.personId,
          set: { workflowId, chosenId, at: now },
        });
    if (leaves ? before?.workflowId === workflowId : moved)
      await announce(
        tx,
        project.id,
        { kind: "workflow draft visited", data: { workflowId, personId: viewer.personId } },
        now,
      );
    return tx
      .select({ personId: person.id, name: person.name, chosenId: draftPlace.chosenId })
      .from(draftPlace)
      .innerJoin(person, eq(person.id, draftPlace.personId))
      .where(and(here, present, ne(draftPlace.personId, viewer.personId)))
      .orderBy(person.name);
  });
}
