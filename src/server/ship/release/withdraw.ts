import { and, eq, isNull } from "drizzle-orm";
import { grouped } from "@/core/item/grouped";
import { reopeningMove, type TakenBack, type WithdrawBody } from "@/core/ship/release/withdrawal";
import { plainChange } from "@/core/workflow/design-change";
import { transact, type Transaction } from "@/db/connection";
import { item, release } from "@/db/schema";
import { takeBackWithdrawn, tellWithdrawn } from "../../intake/released";
import { tellFollowersOf } from "../../alerts/tell-followers";
import { seesAnywhere, type ProjectAccess } from "../../people/access";
import type { Viewer } from "../../people/viewer";
import { invalid } from "../../refused";
import { announceDesign } from "../../workflow/announce";
import { keepDesignChange } from "../../workflow/design-history";
import { enterRelease, nextRelease, type OfRelease } from "./enter-release";
import { leavingBy, leavingFor, storeLeaving } from "./leaving";

/**
 * Takes a release back that was out: the day that it was out stays, its items stay finished, and each goes where it
 * is said, in jobs that can be taken back; whoever reported something of it gets one letter. Or says that it is out
 * after all. @throws Refused
 */
export async function withdrawRelease(
  viewer: Viewer,
  at: OfRelease,
  body: WithdrawBody,
  now = Date.now(),
): Promise<{ moving: number }> {
  return transact(async (tx) => {
    const { access, row } = await enterRelease(tx, viewer, at);
    if (row.releasedAt === null)
      throw invalid(`${row.name} is not out.`, "Only what was out can be taken back.");
    if ((row.withdrawnAt !== null) === body.withdrawn) return { moving: 0 };
    const { id, name } = row;
    const set = body.withdrawn
      ? { withdrawnAt: now, withdrawnWhy: body.why }
      : { withdrawnAt: null, withdrawnWhy: null };
    await tx.update(release).set(set).where(eq(release.id, id));
    if (body.withdrawn) {
      await tellWithdrawn(tx, { id, name, why: body.why }, now);
      const said = `${name}, which it went out with, was taken back: ${body.why}`;
      await tellFollowersOf(tx, id, { said, byId: viewer.personId, now });
    } else
      await takeBackWithdrawn(
        tx,
        { id, name, why: row.withdrawnWhy!, withdrawnAt: row.withdrawnAt! },
        now,
      );
    const projectId = access.project.id;
    const words = body.withdrawn ? `took ${name} back` : `said that ${name} is out after all`;
    await keepDesignChange(
      tx,
      { projectId, byId: viewer.personId, at: now },
      plainChange("sprints and releases", words),
    );
    const moving = body.withdrawn ? await moveFinished(tx, viewer, access, { id, body, now }) : 0;
    await announceDesign(tx, projectId, { kind: "plan changed", data: {} });
    return { moving };
  });
}

/** Jobs for what is finished: what is taken up again, and what goes out with the next release. */
async function moveFinished(
  tx: Transaction,
  viewer: Viewer,
  { project }: ProjectAccess,
  { id, body, now }: { id: string; body: WithdrawBody; now: number },
): Promise<number> {
  const finished = await tx
    .select({ id: item.id, parentId: item.parentId, stateId: item.stateId })
    .from(item)
    .where(
      and(
        eq(item.releaseId, id),
        eq(item.projectId, project.id),
        isNull(item.withdrawnAt),
        eq(item.stateKind, "finished"),
        seesAnywhere(tx, viewer),
      ),
    );
  const answerOf = ({ id: itemId, parentId }: (typeof finished)[number]): TakenBack =>
    body.except[itemId] ?? body.except[parentId ?? ""] ?? body.finished;
  const answered = grouped(finished, answerOf);
  const again = answered.get("goes out again") ?? [];
  const next = again.length > 0 ? await nextRelease(tx, project.id, id) : null;
  if (again.length > 0 && next === null)
    throw invalid("There is no release to come.", "Make one first, or choose otherwise.");
  const jobs = [
    leavingFor(next, again),
    // Where no move leads out of its end an item stays.
    ...(await leavingBy(tx, project.id, answered.get("is reopened") ?? [], {
      leadsTo: reopeningMove,
      answers: { reason: body.why, comment: body.why },
    })),
  ];
  return storeLeaving(tx, jobs, {
    ...{ projectId: project.id, personId: viewer.personId, madeAt: now },
  });
}
