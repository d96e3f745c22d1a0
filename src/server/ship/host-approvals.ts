import { and, desc, eq, inArray, ne } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { HostApproval } from "@/core/workflow/requirements/kind";
import type { Reader } from "@/db/connection";
import { codeChange, codeReview, itemCode, membership } from "@/db/schema";
import { peopleOfMails } from "./code-people";

/**
 * Who approved the changes of an item at the code host, as far as they belong to its project: by the last that each
 * said of each change; of what was given up nothing counts.
 */
export async function hostApprovals(
  reader: Reader,
  { id, projectId }: Pick<ItemSnapshot, "id" | "projectId">,
): Promise<HostApproval[]> {
  const said = await reader
    .selectDistinctOn([codeReview.changeId, codeReview.byMail], {
      mail: codeReview.byMail,
      verdict: codeReview.verdict,
      seen: codeReview.head,
      head: codeChange.head,
    })
    .from(itemCode)
    .innerJoin(
      codeChange,
      and(
        eq(codeChange.repositoryId, itemCode.repositoryId),
        eq(codeChange.name, itemCode.name),
        ne(codeChange.status, "abandoned"),
      ),
    )
    .innerJoin(codeReview, eq(codeReview.changeId, codeChange.id))
    .where(and(eq(itemCode.itemId, id), eq(itemCode.kind, "change")))
    .orderBy(codeReview.changeId, codeReview.byMail, desc(codeReview.at));
  const approved = said.filter(({ verdict }) => verdict === "approved");
  if (approved.length === 0) return [];
  const personOf = await peopleOfMails(
    reader,
    approved.map(({ mail }) => mail),
  );
  const known = approved.flatMap(({ mail, seen, head }) => {
    const { personId } = personOf(mail, "");
    return personId === null ? [] : [{ byId: personId, ofHead: seen !== null && seen === head }];
  });
  const members = await reader
    .select({ id: membership.personId, role: membership.role })
    .from(membership)
    .where(
      and(
        eq(membership.projectId, projectId),
        ne(membership.role, "observer"),
        inArray(
          membership.personId,
          known.map(({ byId }) => byId),
        ),
      ),
    );
  return known.flatMap((one): HostApproval[] => {
    const role = members.find(({ id: who }) => who === one.byId)?.role;
    return role === "lead" || role === "member" ? [{ ...one, role }] : [];
  });
}
