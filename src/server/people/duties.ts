import { and, eq, inArray } from "drizzle-orm";
import { type z } from "zod";
import { dutyHolders, type Duty, type DutyHolder } from "@/core/people/duty";
import { transact, type Reader } from "@/db/connection";
import { duty, membership, person, project, team, teamMember } from "@/db/schema";
import { invalid } from "../refused";
import { enterProject } from "./access";
import type { Viewer } from "./viewer";
import { type dutiesBody } from "@/core/people/request";

/** Who is named for which duty of a project. */
export async function loadDuties(reader: Reader, projectId: string): Promise<DutyHolder[]> {
  return reader
    .select({ duty: duty.duty, holderKind: duty.holderKind, holderId: duty.holderId })
    .from(duty)
    .where(eq(duty.projectId, projectId))
    .orderBy(duty.duty, duty.holderKind, duty.holderId);
}

/** Who is named for a duty of a project, by themselves or with their team; maybe nobody. */
export async function dutyHoldersNamed(
  reader: Reader,
  projectId: string,
  wanted: Duty,
): Promise<string[]> {
  const named = (await loadDuties(reader, projectId)).filter((one) => one.duty === wanted);
  const idsOf = (kind: DutyHolder["holderKind"]) =>
    named.filter((one) => one.holderKind === kind).map((one) => one.holderId);
  const [people, teams] = [idsOf("person"), idsOf("team")];
  const members =
    teams.length === 0
      ? []
      : await reader
          .select({ id: teamMember.personId })
          .from(teamMember)
          .where(inArray(teamMember.teamId, teams));
  return [...new Set([...people, ...members.map(({ id }) => id)])];
}

/** Who has a duty in a project; where nobody is named, every one of its members. */
export async function dutyBound(
  reader: Reader,
  projectId: string,
  wanted: Duty,
): Promise<{ id: string; name: string }[]> {
  const holders = await loadDuties(reader, projectId);
  const people = await reader
    .select({ id: person.id, name: person.name, role: membership.role })
    .from(membership)
    .innerJoin(person, eq(person.id, membership.personId))
    .where(eq(membership.projectId, projectId))
    .orderBy(person.name);
  const teams = await reader.select().from(teamMember);
  const bound = dutyHolders(
    wanted,
    holders,
    people.map((p) => ({
      ...p,
      teamIds: teams.filter((t) => t.personId === p.id).map((t) => t.teamId),
    })),
  );
  return bound.map(({ id, name }) => ({ id, name }));
}

/**
 * Names who has which duty, in place of all who were named. @throws Refused when somebody does not
 * belong to the project, or there is no such team
 */
export async function setDuties(
  viewer: Viewer,
  projectKey: string,
  { holders }: z.infer<typeof dutiesBody>,
): Promise<DutyHolder[]> {
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit members",
    });
    const projectId = access.project.id;
    await tx.select().from(project).where(eq(project.id, projectId)).for("update");
    const idsOf = (kind: DutyHolder["holderKind"]) => [
      ...new Set(holders.filter((h) => h.holderKind === kind).map((h) => h.holderId)),
    ];
    const [people, teams] = [idsOf("person"), idsOf("team")];
    const members = await tx
      .select({ id: membership.personId })
      .from(membership)
      .where(and(eq(membership.projectId, projectId), inArray(membership.personId, people)));
    const known = await tx.select({ id: team.id }).from(team).where(inArray(team.id, teams));
    if (members.length < people.length)
      throw invalid(
        "Somebody who is named does not belong to this project.",
        "Add them to the project first.",
      );
    if (known.length < teams.length)
      throw invalid("There is no such team.", "Choose one from the list.");
    await tx.delete(duty).where(eq(duty.projectId, projectId));
    if (holders.length > 0)
      await tx
        .insert(duty)
        .values(holders.map((h) => ({ ...h, projectId })))
        .onConflictDoNothing();
    return loadDuties(tx, projectId);
  });
}
