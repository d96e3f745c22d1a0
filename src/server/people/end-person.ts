import { and, eq, isNull } from "drizzle-orm";
import { refuse } from "@/core/workflow/refusal";
import { transact, type Transaction } from "@/db/connection";
import { duty, membership, passwordLink, person, project, session } from "@/db/schema";
import { notFound, Refused } from "../refused";
import { onlyAdministrators } from "./accounts";
import { lockAccounts } from "./installation";
import type { Viewer } from "./viewer";
import type { EndPersonRequest } from "@/core/people/request";
import { hasOtherLead } from "./belonging";
import { handOn } from "./hand-on";

/**
 * Ends somebody who left, or brings them back. Whoever is ended cannot sign in, is signed out
 * everywhere, and belongs to no project and has no duty; what they had in hand is handed on, and what
 * they did keeps their name. One who comes back is added to projects anew.
 * @throws Refused for yourself, and for the only lead of a project
 */
export async function endPerson(
  viewer: Viewer,
  personId: string,
  { ended, handOn: to }: EndPersonRequest,
  now = Date.now(),
): Promise<{ handedOn: number; left: number }> {
  onlyAdministrators(viewer);
  if (personId === viewer.personId)
    throw new Refused(refuse("invalid", "Nobody ends themselves.", "Ask another administrator."));
  return transact(async (tx) => {
    await lockAccounts(tx);
    const [known] = await tx.select().from(person).where(eq(person.id, personId)).for("update");
    if (!known) throw notFound("person");
    if ((known.endedAt !== null) === ended) return NOTHING;
    await tx
      .update(person)
      .set({ endedAt: ended ? now : null })
      .where(eq(person.id, personId));
    if (!ended) return NOTHING;
    await checkOtherLeads(tx, known);
    const handed = await handOn(tx, viewer, personId, to);
    await tx.delete(membership).where(eq(membership.personId, personId));
    await tx.delete(duty).where(and(eq(duty.holderKind, "person"), eq(duty.holderId, personId)));
    await tx.delete(session).where(eq(session.userId, personId));
    await tx
      .delete(passwordLink)
      .where(and(eq(passwordLink.personId, personId), isNull(passwordLink.usedAt)));
    return handed;
  });
}

const NOTHING = { handedOn: 0, left: 0 };

async function checkOtherLeads(
  tx: Transaction,
  { id, name }: { id: string; name: string },
): Promise<void> {
  const led = await tx
    .select({ id: project.id, key: project.key })
    .from(project)
    .innerJoin(
      membership,
      and(
        eq(membership.projectId, project.id),
        eq(membership.personId, id),
        eq(membership.role, "lead"),
      ),
    )
    .orderBy(project.id)
    .for("update", { of: project });
  for (const { id: projectId, key } of led) {
    if (!(await hasOtherLead(tx, projectId, id)))
      throw new Refused(
        refuse(
          "in use",
          `${key} would be left without a lead: ${name} is its only one.`,
          "Make somebody else a lead of it first.",
        ),
      );
  }
}
