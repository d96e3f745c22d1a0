import { eq } from "drizzle-orm";
import { v7 as newId } from "uuid";
import { environmentKey } from "@/core/ship/environment";
import { closedBecause } from "@/core/ship/acceptance/showing";
import type { AcceptanceBody } from "@/core/ship/acceptance/shown-item";
import type { OutsideFact } from "@/core/item/outside";
import type { Reader, Transaction } from "@/db/connection";
import { acceptanceAnswer, shownItem } from "@/db/schema";
import { throughDoor } from "../../item/door";
import { enterItem, lockInOrder } from "../../item/enter";
import { AUTOMATION } from "../../people/viewer";
import { invalid, notFound } from "../../refused";
import { environmentsOf } from "../environments";
import { readPresence } from "../presence";
import { repositoriesOf } from "../repository";
import { buildsNow, whereToTest } from "../testing/tested-items";
import { announceTests } from "../testing/announce-tests";
import { acceptedNow } from "./accepted-now";
import { deployedCommits, type ShowingRow } from "./rows";

/**
 * Takes what somebody says of what is shown to them: it is kept with what they could see then, and the items hear
 * of it. @throws Refused
 */
export async function takeAnswer(
  tx: Transaction,
  of: ShowingRow,
  { itemIds: wanted, accepted, name, words }: AcceptanceBody,
  now: number,
): Promise<void> {
  const closed = closedBecause(of, now);
  if (closed !== null)
    throw invalid(
      closed === "over" ? "This page is not open any more." : "This page was taken back.",
      "Ask whoever wrote to you for a new one.",
    );
  const shown = await tx
    .select({ itemId: shownItem.itemId })
    .from(shownItem)
    .where(eq(shownItem.showingId, of.id));
  const itemIds = [...new Set(wanted)];
  if (itemIds.some((id) => !shown.some(({ itemId }) => itemId === id))) throw notFound("item");
  await lockInOrder(tx, itemIds);
  const seen = await deployedCommits(tx, itemIds);
  const where = await placesOf(tx, of.projectId, itemIds);
  await tx.insert(acceptanceAnswer).values(
    itemIds.map((itemId) => ({
      ...{ id: newId(), showingId: of.id, itemId, accepted, name, words, at: now },
      ...where.get(itemId)!,
      seen: seen.get(itemId) ?? [],
    })),
  );
  for (const itemId of itemIds)
    await tellItem(tx, itemId, accepted ? "accepted" : "something missing", of.personId);
  await announceTests(tx, of.projectId, { itemIds, now });
}

/** On which environment each could be seen, by which build. */
async function placesOf(
  reader: Reader,
  projectId: string,
  itemIds: readonly string[],
): Promise<Map<string, { environment: string | null; build: string | null }>> {
  const [presence, environments, repositories] = await Promise.all([
    readPresence(reader, itemIds),
    environmentsOf(reader, projectId),
    repositoriesOf(reader, projectId),
  ]);
  const builds = await buildsNow(
    reader,
    repositories.map(({ id }) => id),
  );
  return new Map(
    itemIds.map((id) => {
      const there = whereToTest(id, presence, environments);
      const build = there && (builds.get(environmentKey(there.name))?.build ?? null);
      return [id, { environment: there?.name ?? null, build }];
    }),
  );
}

/**
 * The item hears of it, and goes where its process says; what was withdrawn meanwhile stays so.
 * @param setOffBy whoever said it, where they have an account: they are not told of it
 */
export async function tellItem(
  tx: Transaction,
  itemId: string,
  said: "accepted" | "something missing",
  setOffBy: string | null,
): Promise<void> {
  const on = await enterItem(tx, AUTOMATION, itemId, "edit item");
  if (on.before.withdrawnAt !== null) return;
  const fact: OutsideFact =
    said === "accepted" ? { kind: said, ...(await acceptedNow(tx, itemId)) } : { kind: said };
  await throughDoor(tx, AUTOMATION, {
    on,
    commandId: newId(),
    ask: { kind: "prepared", command: { kind: "report", facts: [fact], source: "Acceptance" } },
    made: { cause: "outside", setOffBy },
  });
}
