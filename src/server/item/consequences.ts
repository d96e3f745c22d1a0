import { eq } from "drizzle-orm";
import type { ItemSnapshot } from "@/core/item/fields";
import type { Transaction } from "@/db/connection";
import { report, reportMessage } from "@/db/schema";
import { reportThroughDoor } from "../intake/door";
import { writeToRequester } from "../mail/write";
import type { Principal } from "../people/viewer";
import { invalid } from "../refused";
import type { Passed } from "./decide-errand";
import type { Errand } from "./errand";
import { turnFile } from "./file-command";
import { followDependencies, liftBlockers } from "./follow-dependencies";
import { followOthers } from "./follow-others";
import { fromOtherEnd } from "./links";
import { takeAlongBelow } from "./take-along";
import { undoOthers } from "./undo-others";
import { bringBackBelow, withdrawBelow } from "./withdraw-below";

/**
 * What follows from an errand beyond its item: what is written to people is written here; what it
 * means for other items comes back as errands, one after the other, so that each is worked out
 * after those before it have been through the door.
 */
export async function* consequences(
  tx: Transaction,
  by: Principal,
  passed: Passed,
): AsyncGenerator<Errand> {
  const { errand, entered, command, transition, after } = passed;
  if (passed.events.length === 0) return;
  if (errand.ask.kind === "ask") await askRequester(tx, by, after, errand.ask.body);
  if (errand.ask.kind === "undo")
    yield* await undoOthers(tx, entered.access, errand, errand.ask.commandId);
  if (command.kind === "add file" || command.kind === "remove file")
    await turnFile(tx, command, after.updatedAt);
  if (errand.ask.kind === "withdraw") yield* await withdrawBelow(tx, passed, errand.ask);
  if (errand.ask.kind === "bring back") yield* await bringBackBelow(tx, passed);
  if (errand.ask.kind === "change project")
    yield* await takeAlongBelow(tx, passed, errand.ask.projectKey);
  yield* followDependencies(tx, by, passed);
  if (errand.ask.kind === "link" || errand.ask.kind === "unlink") {
    if (command.kind !== "link" && command.kind !== "unlink") return;
    if (command.kind === "unlink" && command.linkKind === "waits for") {
      const [waiting, wanted] = command.outward
        ? [after.id, command.otherId]
        : [command.otherId, after.id];
      yield* await liftBlockers(tx, passed, wanted, waiting);
    }
    const one = { id: after.id, key: `${entered.access.project.key}-${after.number}` };
    yield {
      ...errand,
      on: { itemId: command.otherId, access: entered.access },
      ask: { kind: "prepared", command: fromOtherEnd(command, one) },
    };
  }
  if (transition) yield* followOthers(tx, by, passed, transition);
}

/**
 * A question to whoever reported the item: it goes to them by mail, stands on their private page,
 * and waits for an answer.
 */
async function askRequester(
  tx: Transaction,
  by: Principal,
  asked: ItemSnapshot,
  body: string,
): Promise<void> {
  const reports = await tx
    .select()
    .from(report)
    .where(eq(report.itemId, asked.id))
    .orderBy(report.id)
    .for("update");
  if (reports.length === 0)
    throw invalid("Nobody outside has reported this item.", "Write a comment instead.");
  const at = asked.updatedAt;
  await tx.insert(reportMessage).values(
    reports.map(({ id }) => ({
      reportId: id,
      kind: "question" as const,
      body: body.trim(),
      authorId: by.personId,
      at,
    })),
  );
  const actor = by.personId === null ? null : { personId: by.personId };
  for (const row of reports) {
    await reportThroughDoor({ tx, by: actor, row, command: { kind: "ask" }, now: at });
    await writeToRequester(tx, row, { kind: "question", text: body.trim(), at }, { now: at });
  }
}
