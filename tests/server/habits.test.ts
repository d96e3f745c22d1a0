import { asc, eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import { grouped } from "@/core/item/grouped";
import { HABIT_DAYS } from "@/core/workflow/habits";
import { database } from "@/db/connection";
import { item, stay } from "@/db/schema";
import { readHabits } from "@/server/workflow/habits";
import { readItem } from "@/server/item/read";
import { itemIn, refusalOf, send, stateId } from "./setup/board";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();

const read = (viewer = NOOR, workflow = "tix-main") => readHabits(viewer, "TIX", { workflow });

test("steps back over the demo as a second computation counts them", async () => {
  const now = Date.now();
  const rows = await database()
    .select({ itemId: stay.itemId, stateId: stay.stateId, at: stay.enteredAt })
    .from(stay)
    .innerJoin(item, eq(item.id, stay.itemId))
    .where(eq(item.projectId, "tix"))
    .orderBy(asc(stay.itemId), asc(stay.enteredSeq));
  const [test, building] = [await stateId("In test"), await stateId("Building")];
  let [back, left] = [0, 0];
  for (const [, stays] of grouped(rows, ({ itemId }) => itemId))
    for (const [i, { at, stateId: to }] of stays.entries()) {
      if (i === 0 || at < now - HABIT_DAYS * DAY || stays[i - 1].stateId !== test) continue;
      left += 1;
      if (to === building) back += 1;
    }
  const { backwards } = await readHabits(NOOR, "TIX", { workflow: "tix-main" }, now);
  const found = backwards.find((one) => one.from === test && one.to === building);
  expect(back).toBeGreaterThan(5);
  expect([found?.times, found?.of]).toEqual([back, left]);
});

test("a step back made now counts at once; of an item that one may not see only that it counts", async () => {
  const [building, ready] = [await stateId("Building"), await stateId("Ready")];
  const timesOf = async (viewer = NOOR) =>
    (await read(viewer)).backwards.find((one) => one.from === building && one.to === ready);
  const before = (await timesOf())?.times ?? 0;
  const id = await itemIn(NOOR, "Back and forth", "Ready", "Building", "Ready");
  expect(await timesOf()).toMatchObject({ times: before + 1 });
  expect((await timesOf(ARTHUR))?.itemIds).toContain(id);
  const [{ number, version }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion: version, changes: { restricted: true } });
  const seen = await timesOf(ARTHUR);
  expect(seen?.times).toBe(before + 1);
  expect(seen?.itemIds).not.toContain(id);
  expect(seen?.itemIds).toContain(OUTSIDE_VIEW);
  expect((await readItem(INES, `TIX-${number}`)).item.restricted).toBe(true);
});

test("of a workflow of another project nothing is told", async () => {
  expect(await refusalOf(read(NOOR, "gate-main"))).toBe("not found");
});
