import { and, eq, inArray, or } from "drizzle-orm";
import { type z } from "zod";
import type { MembersView } from "@/core/people/account";
import { DUTIES, dutyHolders, type Duty, type DutyHolder } from "@/core/people/duty";
import { savedChange } from "@/core/workflow/design-change";
import { transact, type Reader } from "@/db/connection";
import { duty, membership, person, project, team, teamMember } from "@/db/schema";
import { invalid } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { enterProject } from "./access";
import { loadDuties } from "./load-duties";
import { readMembers } from "./members";
import type { Viewer } from "./viewer";
import { type dutiesBody } from "@/core/people/request";

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

/** The duties that somebody is named for, by themselves or with a team of theirs, by project. */
export async function dutiesNamedFor(
  reader: Reader,
  personId: string,
  projectIds: readonly string[],
): Promise<(projectId: string, wanted: Duty) => boolean> {
  const teams = reader
    .select({ id: teamMember.teamId })
    .from(teamMember)
    .where(eq(teamMember.personId, personId));
  const rows = await reader
    .select({ projectId: duty.projectId, duty: duty.duty })
    .from(duty)
    .where(
      and(
        inArray(duty.projectId, [...projectIds]),
        or(
          and(eq(duty.holderKind, "person"), eq(duty.holderId, personId)),
          and(eq(duty.holderKind, "team"), inArray(duty.holderId, teams)),
        ),
      ),
    );
  return (projectId, wanted) =>
    rows.some((row) => row.projectId === projectId && row.duty === wanted);
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
): Promise<MembersView> {
  await transact(async (tx) => {
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
    const before = await loadDuties(tx, projectId);
    await tx.delete(duty).where(eq(duty.projectId, projectId));
    if (holders.length > 0)
      await tx
        .insert(duty)
        .values(holders.map((h) => ({ ...h, projectId })))
        .onConflictDoNothing();
    const after = await loadDuties(tx, projectId);
    const names = await namesOfHolders(tx, [...before, ...after]);
    const change = savedChange(
      { area: "people", what: "who has which duty" },
      namedByDuty(before, names),
      namedByDuty(after, names),
      DUTY_WORDS,
    );
    await keepDesignChange(tx, { projectId, byId: viewer.personId }, change);
    if (change) await announceDesign(tx, projectId, { kind: "project changed", data: {} });
  });
  return readMembers(viewer, projectKey);
}

const DUTY_WORDS = Object.fromEntries(DUTIES.map((one) => [one, one])) as Record<Duty, string>;

/** Who has each duty, by name. */
const namedByDuty = (
  holders: readonly DutyHolder[],
  nameOf: (holder: DutyHolder) => string,
): Record<Duty, string[]> =>
  Object.fromEntries(
    DUTIES.map((wanted) => [
      wanted,
      holders
        .filter((one) => one.duty === wanted)
        .map(nameOf)
        .sort(),
    ]),
  ) as Record<Duty, string[]>;

async function namesOfHolders(
  reader: Reader,
  holders: readonly DutyHolder[],
): Promise<(holder: DutyHolder) => string> {
  const ids = holders.map(({ holderId }) => holderId);
  const people = await reader
    .select({ id: person.id, name: person.name })
    .from(person)
    .where(inArray(person.id, ids));
  const teams = await reader.select().from(team).where(inArray(team.id, ids));
  return ({ holderKind, holderId }) =>
    (holderKind === "person" ? people : teams).find(({ id }) => id === holderId)?.name ?? holderId;
}
