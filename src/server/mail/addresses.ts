import { and, asc, count, desc, eq, isNull, or } from "drizzle-orm";
import { database, transact } from "@/db/connection";
import { item, mailAddress, mailIn, mailOut, report, team } from "@/db/schema";
import { ANSWERS_TO } from "../alerts/send-mail";
import { keyColumn } from "../item/key";
import { enterProject, seesAnywhere, seesReport } from "../people/access";
import { roster } from "../people/roster";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { mailSettings } from "./settings";
import type { AddressRequest } from "@/core/intake/request";
import type { MailboxView } from "@/core/intake/mailbox-view";

const SHOWN = 50;

export async function readMailbox(
  viewer: Viewer,
  projectKey: string,
  now = Date.now(),
): Promise<MailboxView> {
  const db = database();
  const access = await enterProject({
    reader: db,
    viewer,
    where: { key: projectKey },
    action: "read intake",
  });
  const { project } = access;
  const settings = mailSettings();
  const seen = seesReport(db, viewer);
  const [addresses, received, written, [{ waiting }], { teams }] = await Promise.all([
    db
      .select({ name: mailAddress.name, teamId: mailAddress.teamId, open: mailAddress.open })
      .from(mailAddress)
      .where(eq(mailAddress.projectId, project.id))
      .orderBy(asc(mailAddress.createdAt), asc(mailAddress.name)),
    db
      .select({
        at: mailIn.at,
        sender: mailIn.sender,
        subject: mailIn.subject,
        became: mailIn.became,
        reference: report.reference,
        reportId: report.id,
        why: mailIn.why,
        words: mailIn.words,
        key: keyColumn,
      })
      .from(mailIn)
      .leftJoin(report, eq(report.id, mailIn.reportId))
      .leftJoin(item, eq(item.id, mailIn.itemId))
      .where(
        and(
          eq(mailIn.projectId, project.id),
          or(isNull(mailIn.reportId), seen),
          or(isNull(mailIn.itemId), seesAnywhere(db, viewer)),
        ),
      )
      .orderBy(desc(mailIn.at))
      .limit(SHOWN),
    db
      .select({
        id: mailOut.id,
        at: mailOut.at,
        recipient: mailOut.recipient,
        subject: mailOut.subject,
        body: mailOut.body,
        reference: report.reference,
        sentAt: mailOut.sentAt,
        dueAt: mailOut.dueAt,
        failed: mailOut.failed,
      })
      .from(mailOut)
      .innerJoin(report, eq(report.id, mailOut.reportId))
      .where(and(eq(report.projectId, project.id), seen))
      .orderBy(desc(mailOut.id))
      .limit(SHOWN),
    db
      .select({ waiting: count() })
      .from(mailOut)
      .innerJoin(report, eq(report.id, mailOut.reportId))
      .where(
        and(eq(report.projectId, project.id), seen, isNull(mailOut.sentAt), isNull(mailOut.failed)),
      ),
    roster(db, project.id),
  ]);
  return {
    project: { key: project.key, name: project.name, zone: project.zone },
    domain: settings.domain,
    addresses,
    teams,
    received: received.map(({ key: itemKey, ...one }) => ({ ...one, itemKey })),
    // The address of a private page opens it for anybody: it stays between us and its requester.
    written: written.map((w) => ({
      ...w,
      body: w.body.replace(/\/r\/[A-Za-z0-9_-]{32}/g, "/r/…"),
    })),
    waiting,
    sends: settings.outgoing !== null,
    takes: settings.doorPort !== null,
    standIn: process.env.MAILBOX_URL || null,
    mayEdit: access.may("edit workflow"),
    now,
  };
}

const MOST_ADDRESSES = 20;

/** Adds, opens, closes, changes or takes out an address of a project. */
export async function editAddress(
  viewer: Viewer,
  projectKey: string,
  request: AddressRequest,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    if (request.kind !== "remove" && request.teamId) {
      const [known] = await tx
        .select({ id: team.id })
        .from(team)
        .where(eq(team.id, request.teamId));
      if (!known) throw invalid("There is no such team.", "Choose another, or none.");
    }
    if (request.kind === "add" && request.name === ANSWERS_TO)
      throw invalid(`The address ${ANSWERS_TO} is for answers to alerts.`, "Choose another.");
    if (request.kind === "add") {
      const [{ n }] = await tx
        .select({ n: count() })
        .from(mailAddress)
        .where(eq(mailAddress.projectId, project.id));
      if (n >= MOST_ADDRESSES)
        throw invalid(
          `A project has at most ${MOST_ADDRESSES} addresses.`,
          "Take one out that is not used any more.",
        );
      const added = await tx
        .insert(mailAddress)
        .values({
          name: request.name,
          projectId: project.id,
          teamId: request.teamId,
          open: true,
          createdAt: now,
        })
        .onConflictDoNothing()
        .returning();
      if (added.length === 0)
        throw invalid(`The address ${request.name} is taken.`, "Choose another.");
    } else {
      const own = and(eq(mailAddress.name, request.name), eq(mailAddress.projectId, project.id));
      const changed =
        request.kind === "remove"
          ? await tx.delete(mailAddress).where(own).returning()
          : await tx
              .update(mailAddress)
              .set({
                ...(request.teamId === undefined ? {} : { teamId: request.teamId }),
                ...(request.open === undefined ? {} : { open: request.open }),
              })
              .where(own)
              .returning();
      if (changed.length === 0) throw notFound("address");
    }
    await announceDesign(tx, project.id, {
      kind: "mail address changed",
      data: { name: request.name },
    });
  });
}
