import { and, eq, inArray } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Recipient } from "@/core/workflow/follow-ups/tell";
import type { Transaction } from "@/db/connection";
import { membership, report, teamMember } from "@/db/schema";
import { putNews } from "../intake/news";
import { keepAlerts } from "./keep";

/**
 * Has the process tell people of an item: those who work in its project find it among their alerts,
 * whoever reported it on their private page. Nobody is told of what they did themselves.
 */
export async function tell({
  tx,
  moved,
  whom,
  text,
  byId,
  at,
  otherIds = [],
}: {
  tx: Transaction;
  moved: ItemSnapshot;
  whom: readonly Recipient[];
  text: string;
  byId: string | null;
  at: number;
  /** Other items that it is about. */
  otherIds?: string[];
}): Promise<void> {
  const ids = new Set<string>();
  const add = (id: string | null) => void (id && id !== byId && ids.add(id));
  for (const told of whom) {
    if (told.kind === "assignee") add(moved.assigneeId);
    else if (told.kind === "reviewer") add(moved.reviewerId);
    else if (told.kind === "creator") add(moved.createdBy);
    else if (told.kind === "person") add(told.personId);
    else if (told.kind === "leads")
      (
        await tx
          .select({ id: membership.personId })
          .from(membership)
          .where(and(eq(membership.projectId, moved.projectId), eq(membership.role, "lead")))
      ).forEach((r) => add(r.id));
    else if (told.kind === "team")
      (
        await tx
          .select({ id: teamMember.personId })
          .from(teamMember)
          .where(eq(teamMember.teamId, told.teamId))
      ).forEach((r) => add(r.id));
    else {
      // Whoever has an account is told like everybody; whoever reported it, on the private page.
      add(moved.createdBy);
      for (const { id } of await tx
        .select({ id: report.id })
        .from(report)
        .where(eq(report.itemId, moved.id)))
        await putNews(tx, id, text, at);
    }
  }
  if (ids.size === 0) return;
  // Somebody who left the project is not told what goes on in it.
  const members = await tx
    .select({ id: membership.personId })
    .from(membership)
    .where(and(eq(membership.projectId, moved.projectId), inArray(membership.personId, [...ids])));
  const told = members.map(({ id }) => ({ personId: id, rules: ["told"], said: text, otherIds }));
  const expedite = moved.classOfService === "expedite" && moved.stateKind !== "finished";
  await keepAlerts(tx, { itemId: moved.id, expedite }, told, at);
}
