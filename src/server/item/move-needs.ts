import { dayNumber, isoDate } from "@/core/calendar/zone";
import { SHOWN_TO_NOBODY, type Accepted } from "@/core/ship/acceptance/enough";
import type { KnownTest } from "@/core/ship/testing/known-test";
import { frozenOn, type FrozenEnvironment } from "@/core/ship/environment";
import { isRead } from "@/core/condition/condition";
import { and, desc, eq, exists, inArray, isNull, lt, not, or, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { NOTHING_AROUND, type AskedItem } from "@/core/condition/facts";
import type { OwnField } from "@/core/item/own-field";
import { demandedOwnField } from "@/core/workflow/requirement";
import type { Asker } from "@/core/condition/evaluate";
import type { ItemSnapshot } from "@/core/item/fields";
import { standingEvents } from "@/core/item/standing-events";
import { NO_FOLLOW_UP_CONTEXT } from "@/core/workflow/follow-ups/apply";
import type { FollowUpContext } from "@/core/workflow/follow-ups/kind";
import type { HostApproval } from "@/core/workflow/requirements/kind";
import type { Actor } from "@/core/workflow/decide-move";
import type { Transition } from "@/core/workflow/workflow";
import type { Transaction } from "@/db/connection";
import { item, itemEvent, membership, teamMember } from "@/db/schema";
import { askedFor } from "../condition/asked-items";
import type { ProjectAccess } from "../people/access";
import { membersAmong } from "../people/belonging";
import type { Principal } from "../people/viewer";
import { environmentsOf } from "../ship/environments";
import { acceptedNow } from "../ship/acceptance/accepted-now";
import { hostApprovals } from "../ship/host-approvals";
import { knownTests } from "../ship/testing/failing-tests";
import { hasEnded, sprintsNow } from "../plan/timeboxes";
import { waitedFor } from "./around";
import { loadOwnFields } from "./own-fields";
import { readEvents, wasUndone } from "./history";
import { v7 as newId } from "uuid";

/** What a move needs to know beside the item: read only as far as its transition asks for it. */
export interface MoveNeeds {
  actor: Actor;
  around: Omit<AskedItem, "item">;
  asker: Asker;
  teamsOf: (personId: string) => readonly string[];
  followUps: FollowUpContext;
  frozen: readonly FrozenEnvironment[];
  tests: readonly KnownTest[];
  acceptance: Accepted;
  reviews: readonly HostApproval[];
  ownFields: readonly OwnField[];
  inEndedSprint: boolean;
}

export async function moveNeeds({
  tx,
  viewer,
  access,
  before,
  transition,
}: {
  tx: Transaction;
  viewer: Principal;
  access: ProjectAccess;
  before: ItemSnapshot | null;
  transition: Transition | undefined;
}): Promise<MoveNeeds> {
  const requirements = transition?.requirements ?? [];
  const asksTeams =
    transition?.who.some((m) => m.kind === "team") ||
    requirements.some((r) => r.kind === "condition");
  const conditions = requirements.flatMap((r) =>
    r.kind === "condition" && isRead(r.condition) ? [r.condition] : [],
  );
  const asksAround = requirements.some(
    (r) => r.kind === "condition" || r.kind === "sub-tasks finished",
  );
  const asksOwn = requirements.some(
    (r) => r.kind === "condition" || (r.kind === "filled" && demandedOwnField(r.field) !== null),
  );
  const ownFields = asksOwn ? await loadOwnFields(tx, access.project.id) : [];
  const now = Date.now();
  const sprints = requirements.some((r) => r.kind === "condition")
    ? await sprintsNow(tx, access.project, now)
    : undefined;
  const teamIds = asksTeams ? await teamsOfPerson(tx, viewer.personId) : [];
  const reviews =
    before && requirements.some((r) => r.kind === "approvals" && r.host)
      ? await hostApprovals(tx, before)
      : [];
  const approvers = [...(before?.approvals ?? []), ...reviews].map((a) => a.byId);
  const approverTeams = requirements.some((r) => r.kind === "approvals" && r.teamId !== null)
    ? await teamsOfPeople(tx, approvers)
    : new Map<string, string[]>();
  return {
    actor: {
      personId: viewer.personId,
      role: access.may("override limit") ? "lead" : "member",
      teamIds,
      requester: viewer.requester,
    },
    around: before && asksAround ? (await askedFor(conditions, tx, [before]))[0] : NOTHING_AROUND,
    asker: { personId: viewer.personId, teamIds, now, zone: access.project.zone, sprints },
    ownFields,
    // Only of what is finished, and may be open again by it, is it asked.
    inEndedSprint:
      transition !== undefined && before?.stateKind === "finished" && before.sprintId !== null
        ? await hasEnded(tx, before.sprintId)
        : false,
    teamsOf: (id) => approverTeams.get(id) ?? [],
    frozen: requirements.some((r) => r.kind === "not frozen")
      ? frozenOn(
          await environmentsOf(tx, access.project.id),
          isoDate(dayNumber(now, access.project.zone)),
        )
      : [],
    tests:
      before && requirements.some((r) => r.kind === "failing test")
        ? await knownTests(tx, before.id)
        : [],
    reviews,
    acceptance:
      before && requirements.some((r) => r.kind === "accepted")
        ? await acceptedNow(tx, before.id)
        : SHOWN_TO_NOBODY,
    followUps:
      before && transition
        ? await followUpContext({ tx, viewer, before, transition })
        : NO_FOLLOW_UP_CONTEXT,
  };
}

async function teamsOfPerson(tx: Transaction, personId: string | null): Promise<string[]> {
  if (personId === null) return [];
  return (
    await tx
      .select({ id: teamMember.teamId })
      .from(teamMember)
      .where(eq(teamMember.personId, personId))
  ).map((r) => r.id);
}

async function teamsOfPeople(
  tx: Transaction,
  personIds: readonly string[],
): Promise<Map<string, string[]>> {
  const teams = new Map<string, string[]>();
  if (personIds.length === 0) return teams;
  for (const { personId, teamId } of await tx
    .select()
    .from(teamMember)
    .where(inArray(teamMember.personId, [...personIds])))
    teams.set(personId, [...(teams.get(personId) ?? []), teamId]);
  return teams;
}

async function followUpContext({
  tx,
  viewer,
  before,
  transition,
}: {
  tx: Transaction;
  viewer: Principal;
  before: ItemSnapshot;
  transition: Transition;
}): Promise<FollowUpContext> {
  const assignees = transition.followUps.flatMap((f) => (f.kind === "assign" ? [f.to] : []));
  const context: FollowUpContext = {
    ...NO_FOLLOW_UP_CONTEXT,
    actorId: viewer.personId,
    leastLoaded: {},
    nextInTurn: {},
    newCommentId: newId,
    newBlockId: newId,
    waitsFor: transition.followUps.some((f) => f.kind === "block by dependencies")
      ? await waitedFor(tx, before.id)
      : [],
  };
  for (const to of assignees) {
    if (to.kind === "previous assignee")
      context.previousAssigneeId = await previousAssignee(tx, before);
    if (to.kind === "least loaded")
      context.leastLoaded[to.teamId] = await leastLoaded(tx, before.projectId, to.teamId);
    if (to.kind === "in turn")
      context.nextInTurn[to.teamId] = await nextInTurn(tx, before.projectId, to.teamId);
  }
  return context;
}

/**
 * Whoever had the item last before its present assignee and still belongs to the project; what was
 * undone gave it to nobody.
 */
async function previousAssignee(tx: Transaction, before: ItemSnapshot): Promise<string | null> {
  const events = await readEvents(
    tx,
    and(
      eq(itemEvent.itemId, before.id),
      or(
        eq(itemEvent.kind, "undone"),
        and(eq(itemEvent.kind, "changed"), eq(itemEvent.field, "assigneeId")),
      ),
    ),
  );
  const had = standingEvents(events).flatMap((e) =>
    e.kind === "changed" && typeof e.old === "string" && e.old !== before.assigneeId ? [e.old] : [],
  );
  const members = await membersAmong(tx, before.projectId, had);
  return had.findLast((id) => members.has(id)) ?? null;
}

/**
 * People of a team who work in the project, so that an item is never given to somebody who cannot
 * see it.
 */
const workers = (projectId: string, teamId: string) =>
  and(
    eq(teamMember.teamId, teamId),
    sql`exists (select 1 from ${membership} where ${membership.personId} = ${teamMember.personId} and ${membership.projectId} = ${projectId} and ${membership.role} <> 'observer')`,
  );

async function leastLoaded(
  tx: Transaction,
  projectId: string,
  teamId: string,
): Promise<string | null> {
  const load = sql<number>`count(${item.id})::int`;
  const [first] = await tx
    .select({ id: teamMember.personId, load })
    .from(teamMember)
    .leftJoin(
      item,
      and(
        eq(item.assigneeId, teamMember.personId),
        inArray(item.stateKind, ["waiting", "working"]),
        isNull(item.withdrawnAt),
      ),
    )
    .where(workers(projectId, teamId))
    .groupBy(teamMember.personId)
    .orderBy(load, teamMember.personId)
    .limit(1);
  return first?.id ?? null;
}

/**
 * The member of a team after the one who was given an item last by such a rule, in the order of
 * their ids. What a rule gave stands after the move in the same command; what people gave each
 * other does not count.
 */
async function nextInTurn(
  tx: Transaction,
  projectId: string,
  teamId: string,
): Promise<string | null> {
  const people = (
    await tx
      .select({ id: teamMember.personId })
      .from(teamMember)
      .where(workers(projectId, teamId))
      .orderBy(teamMember.personId)
  ).map((r) => r.id);
  if (people.length === 0) return null;
  // Two moves at once must not both read the same last one.
  await tx.execute(
    sql`select pg_advisory_xact_lock(hashtextextended(${`turn of ${projectId} ${teamId}`}, 0))`,
  );
  const moved = alias(itemEvent, "moved");
  const afterMove = exists(
    tx
      .select({ one: sql`1` })
      .from(moved)
      .where(
        and(
          eq(moved.itemId, itemEvent.itemId),
          eq(moved.commandId, itemEvent.commandId),
          eq(moved.kind, "moved"),
          lt(moved.seq, itemEvent.seq),
        ),
      ),
  );
  const [last] = await tx
    .select({ id: sql<string>`${itemEvent.new} #>> '{}'` })
    .from(itemEvent)
    .innerJoin(item, eq(item.id, itemEvent.itemId))
    .where(
      and(
        eq(item.projectId, projectId),
        eq(itemEvent.kind, "changed"),
        eq(itemEvent.field, "assigneeId"),
        inArray(sql`${itemEvent.new} #>> '{}'`, people),
        afterMove,
        not(wasUndone(tx)),
      ),
    )
    .orderBy(desc(itemEvent.at), desc(itemEvent.seq))
    .limit(1);
  return people[(people.indexOf(last?.id ?? "") + 1) % people.length];
}
