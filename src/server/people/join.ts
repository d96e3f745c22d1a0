import { and, eq } from "drizzle-orm";
import { standingOf, type JoinRequest, type JoinView } from "@/core/people/invitation";
import { plainChange } from "@/core/workflow/design-change";
import { refuse } from "@/core/workflow/refusal";
import { database, transact, type Reader, type Transaction } from "@/db/connection";
import { invitation, membership, person, project } from "@/db/schema";
import { invalid, Refused } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import { checkFree } from "./accounts";
import { auth } from "./auth";
import { lockAccounts } from "./installation";
import { digestOf } from "./link-token";
import type { Viewer } from "./viewer";

const hasEnded = () =>
  new Refused(
    refuse(
      "not found",
      "This invitation has ended.",
      "It was used, or revoked, or its time is over. Ask whoever invited you for another one.",
    ),
  );

/** An invitation that can be used now. @throws Refused where there is none */
async function openInvitation(reader: Reader, token: string, now: number) {
  const [found] = await reader
    .select({ invitation, project: { id: project.id, key: project.key, name: project.name } })
    .from(invitation)
    .innerJoin(project, eq(project.id, invitation.projectId))
    .where(eq(invitation.digest, digestOf(token)));
  if (!found || standingOf(found.invitation, now) !== "open") throw hasEnded();
  return found;
}

/** What an invitation says to whoever holds its link. @throws Refused where it has ended */
export async function readJoin(
  token: string,
  viewer: Viewer | null,
  now = Date.now(),
): Promise<JoinView> {
  const db = database();
  const { invitation: of, project: into } = await openInvitation(db, token, now);
  const [by] = await db
    .select({ name: person.name })
    .from(person)
    .where(eq(person.id, of.madeById));
  return {
    projectName: into.name,
    role: of.role,
    by: by.name,
    email: of.email,
    signedInAs: viewer?.name ?? null,
  };
}

/** Comes into a project by an invitation. Whoever is in it already uses nothing up. */
export async function joinAs(
  viewer: Viewer,
  token: string,
  now = Date.now(),
): Promise<{ projectKey: string }> {
  return transact(async (tx) => {
    const { invitation: of, project: into } = await openInvitation(tx, token, now);
    const [who] = await tx
      .select({ email: person.email })
      .from(person)
      .where(eq(person.id, viewer.personId));
    if (of.email !== null && of.email !== who.email.toLowerCase())
      throw invalid(
        `This invitation is for ${of.email}.`,
        "Sign in with that address, or ask for one of your own.",
      );
    await enter(tx, of.id, { personId: viewer.personId, name: viewer.name, token, now });
    return { projectKey: into.key };
  });
}

/**
 * The same with a new account, whoever else may make one: the invitation is what lets them.
 * @throws Refused where it has ended, is for somebody else, or the name or address is taken
 */
export async function joinNew(
  token: string,
  request: JoinRequest,
  now = Date.now(),
): Promise<{ projectKey: string }> {
  return transact(async (tx) => {
    await lockAccounts(tx);
    const { invitation: of, project: into } = await openInvitation(tx, token, now);
    if (of.email !== null && of.email !== request.email)
      throw invalid(`This invitation is for ${of.email}.`, "Write that address.");
    await checkFree(tx, request);
    const { user } = await auth().api.signUpEmail({ body: request });
    // A letter found them there.
    if (of.email !== null)
      await database().update(person).set({ emailVerified: true }).where(eq(person.id, user.id));
    await enter(tx, of.id, { personId: user.id, name: request.name, token, now });
    return { projectKey: into.key };
  }, 1);
}

/** Gives the role that an invitation is for, and counts its use; one after the other. */
async function enter(
  tx: Transaction,
  id: string,
  { personId, name, token, now }: { personId: string; name: string; token: string; now: number },
): Promise<void> {
  await tx
    .select({ id: invitation.id })
    .from(invitation)
    .where(eq(invitation.id, id))
    .for("update");
  const { invitation: of } = await openInvitation(tx, token, now);
  const { projectId, role } = of;
  const own = and(eq(membership.projectId, projectId), eq(membership.personId, personId));
  const [there] = await tx.select({ role: membership.role }).from(membership).where(own);
  if (there) return;
  await tx.insert(membership).values({ projectId, personId, role });
  await tx
    .update(invitation)
    .set({ uses: of.uses + 1 })
    .where(eq(invitation.id, id));
  await keepDesignChange(
    tx,
    { projectId, byId: personId, at: now },
    plainChange("people", `${name} came as ${role} by an invitation`),
  );
  await announceDesign(tx, projectId, { kind: "project changed", data: {} });
}
