import { and, desc, eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { DAY } from "@/core/calendar/instant";
import {
  standingOf,
  type Invitations,
  type InvitationsView,
  type InviteRequest,
} from "@/core/people/invitation";
import { plainChange } from "@/core/workflow/design-change";
import { database, transact, type Reader, type Transaction } from "@/db/connection";
import { invitation, person } from "@/db/schema";
import { appAddress } from "../mail/settings";
import { notFound } from "../refused";
import { keepDesignChange } from "../workflow/design-history";
import { enterProject, type ProjectAccess } from "./access";
import { keepLetter, mailGoesOut } from "./letters";
import { digestOf, newToken } from "./link-token";
import type { Viewer } from "./viewer";

const MOST_SHOWN = 100;

/** The invitations to a project, for those who may add people. @throws Refused */
export async function readInvitations(
  viewer: Viewer,
  key: string,
  now = Date.now(),
): Promise<InvitationsView> {
  const db = database();
  const { project } = await enterProject({
    reader: db,
    viewer,
    where: { key },
    action: "edit members",
  });
  return { invitations: await rowsOf(db, project.id, now), mailGoesOut: mailGoesOut() };
}

async function rowsOf(
  reader: Reader,
  projectId: string,
  now: number,
): Promise<InvitationsView["invitations"]> {
  const rows = await reader
    .select({
      id: invitation.id,
      role: invitation.role,
      email: invitation.email,
      by: person.name,
      madeAt: invitation.madeAt,
      until: invitation.until,
      uses: invitation.uses,
      mostUses: invitation.mostUses,
      revokedAt: invitation.revokedAt,
    })
    .from(invitation)
    .innerJoin(person, eq(person.id, invitation.madeById))
    .where(eq(invitation.projectId, projectId))
    .orderBy(desc(invitation.madeAt), desc(invitation.id))
    .limit(MOST_SHOWN);
  const told = rows.map((row) => ({ ...row, standing: standingOf(row, now) }));
  const isOpen = ({ standing }: (typeof told)[number]) => standing === "open";
  return [...told.filter(isOpen), ...told.filter((row) => !isOpen(row))];
}

/**
 * Invites people to a project, or revokes an invitation: whoever has come by it stays.
 * @returns with the links that have to be handed over, which are shown now and never again
 * @throws Refused
 */
export async function invite(
  viewer: Viewer,
  key: string,
  request: InviteRequest,
  now = Date.now(),
): Promise<Invitations> {
  return transact(async (tx) => {
    const access = await enterProject({
      reader: tx,
      viewer,
      where: { key },
      action: "edit members",
    });
    const links =
      request.kind === "revoke"
        ? await revoke(tx, viewer, access, { id: request.id, now })
        : await make(tx, viewer, access, { request, now });
    const invitations = await rowsOf(tx, access.project.id, now);
    return { invitations, mailGoesOut: mailGoesOut(), links };
  });
}

type Made = Invitations["links"];

async function make(
  tx: Transaction,
  viewer: Viewer,
  { project }: ProjectAccess,
  { request, now }: { request: Exclude<InviteRequest, { kind: "revoke" }>; now: number },
): Promise<Made> {
  const { role, days } = request;
  const until = now + days * DAY;
  const recipients = request.kind === "mail" ? [...new Set(request.emails)] : [null];
  const links: Made = [];
  for (const email of recipients) {
    const token = newToken();
    await tx.insert(invitation).values({
      id: newId(),
      projectId: project.id,
      role,
      digest: digestOf(token),
      email,
      madeById: viewer.personId,
      madeAt: now,
      until,
      mostUses: request.kind === "link" ? request.uses : 1,
    });
    if (email !== null && mailGoesOut())
      await keepLetter(
        tx,
        letterTo(email, { token, by: viewer.name, to: project.name, days }),
        now,
      );
    else links.push({ email, token, until });
  }
  await keepDesignChange(
    tx,
    { projectId: project.id, byId: viewer.personId, at: now },
    plainChange(
      "people",
      request.kind === "link"
        ? `made a link that lets in up to ${request.uses} as ${role}`
        : `invited ${recipients.length === 1 ? "somebody" : `${recipients.length} people`} by mail as ${role}`,
    ),
  );
  return links;
}

function letterTo(
  email: string,
  { token, by, to, days }: { token: string; by: string; to: string; days: number },
) {
  const body = [
    `${by} invites you to work on “${to}” in Zigzag Lane.`,
    "",
    "This link lets you in, once:",
    appAddress(`/join/${token}`),
    "",
    `It ends in ${days === 1 ? "one day" : `${days} days`}. If you know nothing of this, leave it.`,
  ];
  return { recipient: email, subject: `${by} invites you to ${to}`, body: body.join("\n") };
}

async function revoke(
  tx: Transaction,
  viewer: Viewer,
  { project }: ProjectAccess,
  { id, now }: { id: string; now: number },
): Promise<Made> {
  const own = and(eq(invitation.id, id), eq(invitation.projectId, project.id));
  const [known] = await tx.select().from(invitation).where(own).for("update");
  if (!known) throw notFound("invitation");
  if (known.revokedAt !== null) return [];
  await tx.update(invitation).set({ revokedAt: now }).where(own);
  await keepDesignChange(
    tx,
    { projectId: project.id, byId: viewer.personId, at: now },
    plainChange("people", "revoked an invitation"),
  );
  return [];
}
