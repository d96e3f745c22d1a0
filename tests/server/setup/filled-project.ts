import { v7 as newId } from "uuid";
import { and, eq, isNull } from "drizzle-orm";
import fc from "fast-check";
import { database } from "@/db/connection";
import { timeboxProject, item, ownField, release, sprint, itemLink } from "@/db/schema";
import { PROMISE_BANDS, type PromiseBand } from "@/core/item/promise-band";
import type { AskedItem } from "@/core/condition/facts";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { askedWithRelatives } from "@/server/condition/asked-items";
import { loadVocabulary } from "@/server/condition/vocabulary";
import { snapshotOf } from "@/server/item/rows";
import { anyCriteria, anyOutside, anyOwn, OWN_FIELDS } from "../../core/setup/conditions";

/** The items of the project that is filled. */
export const FILLED = and(eq(item.projectId, "gate"), isNull(item.withdrawnAt));

const GATES = { ownerKind: "project", ownerId: "gate", zone: "Europe/London" } as const;

/**
 * Fills a project so that every fact is said by some of its items: own fields, sprints, a release,
 * and values for what the demo leaves empty, chosen by a fixed seed.
 */
export async function fillProject(): Promise<{
  asked: AskedItem[];
  vocabulary: Vocabulary;
  promises: Map<string, PromiseBand>;
}> {
  const db = database();
  await db.insert(ownField).values(OWN_FIELDS.map((f) => ({ ...f, projectId: "gate" })));
  await db.insert(sprint).values(
    [1, 2].map((n) => ({
      id: `sp${n}`,
      ...GATES,
      name: `Sprint ${n}`,
      goal: "",
      startsOn: `2026-0${n}-02`,
      endsOn: `2026-0${n}-15`,
    })),
  );
  await db.insert(release).values({ id: "r1", ...GATES, name: "Spring" });
  await db.insert(timeboxProject).values([
    { box: "sprint", boxId: "sp1", projectId: "gate" },
    { box: "sprint", boxId: "sp2", projectId: "gate" },
    { box: "release", boxId: "r1", projectId: "gate" },
  ]);
  const ids = (await db.select({ id: item.id }).from(item).where(FILLED).orderBy(item.number)).map(
    (r) => r.id,
  );
  const values = fc.sample(
    fc.record({
      own: anyOwn,
      outside: anyOutside,
      labels: fc.subarray(["ticket", "Gate", "a"]),
      parts: fc.subarray(["ticket", "Gate"]),
      sprintId: fc.constantFrom(null, "sp1", "sp2"),
      releaseId: fc.constantFrom(null, "r1"),
      criteria: anyCriteria,
    }),
    { seed: 7, numRuns: ids.length },
  );
  for (const [i, id] of ids.entries())
    await db
      .update(item)
      .set(JSON.parse(JSON.stringify({ ...values[i], ...values[i].criteria })))
      .where(eq(item.id, id));
  await db.insert(itemLink).values(
    ids.slice(1).flatMap((toItemId, i) =>
      i % 3 === 0
        ? [
            { id: newId(), fromItemId: ids[i], toItemId, kind: "waits for" as const },
            {
              id: newId(),
              fromItemId: ids[ids.length - 1 - i],
              toItemId,
              kind: "waits for" as const,
            },
          ].filter(({ fromItemId }) => fromItemId !== toItemId)
        : [],
    ),
  );
  const asked = await askedWithRelatives(
    db,
    (await db.select().from(item).where(FILLED)).map(snapshotOf),
    OWN_FIELDS,
  );
  const promises = new Map(
    ids.flatMap((id, i): [string, PromiseBand][] =>
      i % 4 < PROMISE_BANDS.length ? [[id, PROMISE_BANDS[i % 4]]] : [],
    ),
  );
  return {
    asked: asked.map((one) => ({ ...one, promise: promises.get(one.item.id) ?? null })),
    vocabulary: await loadVocabulary(db, "gate"),
    promises,
  };
}
