import { and, eq, isNull, notInArray } from "drizzle-orm";
import { type z } from "zod";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { refuse } from "@/core/workflow/refusal";
import { database, transact } from "@/db/connection";
import { membership, person, project } from "@/db/schema";
import { invalid, Refused } from "../refused";
import { enterProject } from "./access";
import { roster } from "./roster";
import type { Viewer } from "./viewer";
import { type memberBody } from "@/core/people/request";
import type { MembersView } from "@/core/people/account";
import { keepDesignChange } from "../workflow/design-history";
import { hasOtherLead } from "./belonging";
import { loadDuties } from "./load-duties";

/** Who works in a project, and who could be added. */
export async function readMembers(viewer: Viewer, projectKey: string): Promise<MembersView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read project",
  });
  const { people, teams } = await roster(db, access.project.id);
  const mayEdit = access.may("edit members");
  const ids = people.map((p) => p.id);
  const others = mayEdit
    ? await db
        .select({ id: person.id, name: person.name, email: person.email })
        .from(person)
        .where(and(isNull(person.endedAt), ids.length > 0 ? notInArray(person.id, ids) : undefined))
        .orderBy(person.name)
        .limit(500)
    : [];
  const duties = await loadDuties(db, access.project.id);
  return { members: people, others, mayEdit, duties, teams };
}

/** Gives a person a role in a project, or takes them out. A project keeps at least one lead. */
export async function setMember(
  viewer: Viewer,
  projectKey: string,
  request: z.infer<typeof memberBody>,
): Promise<MembersView> {
  await transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit members",
    });
    const projectId = access.project.id;
    // Two leads who step down at the same time must not both find the other still there.
    await tx
      .select({ id: project.id })
      .from(project)
      .where(eq(project.id, projectId))
      .for("update");
    const [known] = await tx
      .select({ id: person.id, name: person.name })
      .from(person)
      .where(and(eq(person.id, request.personId), isNull(person.endedAt)));
    if (!known) throw invalid("There is no such person.", "Choose one from the list.");
    if (request.role !== "lead") {
      if (!(await hasOtherLead(tx, projectId, request.personId)))
        throw new Refused(
          refuse(
            "in use",
            "This project would be left without a lead.",
            "Make somebody else a lead first.",
          ),
        );
    }
    const own = and(eq(membership.projectId, projectId), eq(membership.personId, request.personId));
    const [was] = await tx.select().from(membership).where(own);
    const { role, trades } = request;
    if (role === null) await tx.delete(membership).where(own);
    else
      await tx
        .insert(membership)
        .values({ projectId, personId: request.personId, role, trades })
        .onConflictDoUpdate({
          target: [membership.projectId, membership.personId],
          set: { role, trades },
        });
    const by = { projectId, byId: viewer.personId };
    await keepDesignChange(tx, by, roleChange(known.name, was?.role ?? null, role));
    if (role !== null && trades)
      await keepDesignChange(tx, by, tradesChange(known.name, was?.trades ?? [], trades));
  });
  return readMembers(viewer, projectKey);
}

const tradesChange = (
  name: string,
  was: readonly string[],
  is: readonly string[],
): DesignChange | null =>
  savedChange(
    { area: "people", what: `what ${name} is good for` },
    { trades: was },
    { trades: is },
    { trades: "trades" },
  );

function roleChange(name: string, was: string | null, is: string | null): DesignChange | null {
  if (was === is) return null;
  if (is === null) return plainChange("people", `took ${name} out, who was ${was}`);
  return plainChange(
    "people",
    was === null ? `added ${name} as ${is}` : `made ${name}, who was ${was}, ${is}`,
  );
}
