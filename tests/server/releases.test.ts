import { and, eq, isNull, ne } from "drizzle-orm";
import { addDays } from "@/core/calendar/month";
import { database } from "@/db/connection";
import { item, release } from "@/db/schema";
import { releaseSchema } from "@/core/plan/sprint";
import { readCalendar } from "@/server/plan/calendar";
import { readRelease, readReleases } from "@/server/plan/releases";
import { editTimebox } from "@/server/plan/timeboxes";
import { ANSWERS, itemIn, move, refusalOf, send, TO_LIVE } from "./setup/board";
import { ARTHUR, INES, IVO, NOOR, OSKAR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const comes = async () =>
  (await readReleases(INES, "TIX")).releases.find(({ releasedAt }) => releasedAt === null)!;
const store = (
  of: { id: string; name: string; startsOn?: string | null; dueOn: string | null },
  why = "",
  released = false,
) =>
  editTimebox(INES, "TIX", {
    kind: "release",
    release: { ...of, released, why },
  });
const put = async (id: string, releaseId: string | null) => {
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, id));
  await send(INES, id, { kind: "edit", seenVersion, changes: { releaseId } });
};

test("a day that moves needs a reason, and the earlier ones are kept with theirs", async () => {
  const own = { id: "own-release", name: "Spring crossing", dueOn: "2027-03-01" };
  await store(own);
  const read = () => readRelease(INES, "TIX", own.id);
  expect((await read()).dates).toMatchObject([{ from: null, to: "2027-03-01", by: "Ines Dahl" }]);
  expect((await read()).release.moved).toBeNull();
  expect(await refusalOf(store({ ...own, dueOn: "2027-03-10" }))).toBe("invalid");
  expect((await read()).release.dueOn).toBe("2027-03-01");
  await store({ ...own, dueOn: "2027-03-10" }, "The crews train first.");
  // Another name is no other day.
  await store({ ...own, name: "First crossing of spring", dueOn: "2027-03-10" });
  const after = await read();
  expect(after.release).toMatchObject({
    name: "First crossing of spring",
    moved: "moved once, by 9 days",
  });
  expect(after.dates.map(({ from, to, why }) => [from, to, why])).toEqual([
    [null, "2027-03-01", ""],
    ["2027-03-01", "2027-03-10", "The crews train first."],
  ]);
  expect(await refusalOf(readRelease(INES, "TIX", "elsewhere"))).toBe("not found");
  expect(await refusalOf(readReleases(OSKAR, "TIDE"))).toBe("not found");
  expect((await readReleases(ARTHUR, "TIX")).rights.plan).toBe(false);
});

test("it is worked towards from a day on: how it got ready begins there, and the calendar says so", async () => {
  const own = { id: "begun-release", name: "Summer crossing", dueOn: "2027-06-20" };
  await store(own);
  expect((await readRelease(INES, "TIX", own.id)).release.startsOn).toBeNull();
  await store({ ...own, startsOn: "2027-06-01" });
  const [of] = (await readReleases(INES, "TIX")).releases.filter(({ id }) => id === own.id);
  expect(of).toMatchObject({ startsOn: "2027-06-01", moved: null });
  const { begins } = await readCalendar(INES, "TIX", "2027-06-10");
  expect(begins).toEqual([{ id: own.id, name: own.name, on: "2027-06-01" }]);
  // Left out it stays as it was.
  await store({ ...own, name: "High summer crossing" });
  expect((await readRelease(INES, "TIX", own.id)).release.startsOn).toBe("2027-06-01");
  const id = await itemIn(NOOR, "Bunting for the quay");
  await put(id, own.id);
  const today = new Date().toISOString().slice(0, 10);
  await store({ ...own, startsOn: addDays(today, -3) });
  expect(
    (await readRelease(INES, "TIX", own.id)).days.map(({ day, scope }) => [day, scope.items]),
  ).toEqual([
    [addDays(today, -3), 0],
    [addDays(today, -2), 0],
    [addDays(today, -1), 0],
    [today, 1],
  ]);
  const backwards = { ...own, startsOn: "2027-06-21", released: false };
  expect(releaseSchema.safeParse(backwards).success).toBe(false);
  expect(releaseSchema.safeParse({ ...backwards, dueOn: null }).success).toBe(true);
});

test("what is in it is counted for all and told to who sees it; how it got ready ends where it is", async () => {
  const { id } = await comes();
  const open = await itemIn(NOOR, "Sail of the new boat", "Ready", "Building");
  await put(open, id);
  const all = await readRelease(INES, "TIX", id);
  const last = all.days.at(-1)!;
  expect(last.scope.items).toBe(all.release.items);
  expect(last.done.items).toBe(all.release.done);
  expect(last.scope.points).toBe(all.release.points);
  expect(all.days.every(({ day }, i) => i === 0 || day === addDays(all.days[i - 1].day, 1))).toBe(
    true,
  );
  expect(all.items).toHaveLength(all.release.items);
  expect(all.unseen).toBe(0);
  const [{ version: seenVersion }] = await database().select().from(item).where(eq(item.id, open));
  await send(INES, open, { kind: "edit", seenVersion, changes: { restricted: true } });
  const seen = await readRelease(IVO, "TIX", id);
  expect(seen.release.items).toBe(all.release.items);
  expect(seen.unseen).toBe(1);
  expect(JSON.stringify(seen)).not.toContain(open);
  await put(open, null);
  const without = await readRelease(INES, "TIX", id);
  expect(without.release.items).toBe(all.release.items - 1);
  expect(without.items.some((one) => one.id === open)).toBe(false);
});

test("what was delivered and is in no release is a list, until it is put into one", async () => {
  const before = await readReleases(INES, "TIX");
  const id = await itemIn(NOOR, "Bell at the gate");
  for (const to of TO_LIVE) await move(INES, id, to, { ...ANSWERS, outcome: "delivered" });
  const after = await readReleases(INES, "TIX");
  expect(after.looseTotal).toBe(before.looseTotal + 1);
  expect(after.loose[0]).toMatchObject({ id, title: "Bell at the gate" });
  await put(id, (await comes()).id);
  expect((await readReleases(INES, "TIX")).loose.some((one) => one.id === id)).toBe(false);
});

test("a release that is out and holds something open says so", async () => {
  const next = await comes();
  const open = await database()
    .select({ id: item.id })
    .from(item)
    .where(
      and(eq(item.releaseId, next.id), isNull(item.withdrawnAt), ne(item.stateKind, "finished")),
    );
  expect(open.length).toBeGreaterThan(0);
  await store({ id: next.id, name: next.name, dueOn: next.dueOn }, "", true);
  const [row] = await database().select().from(release).where(eq(release.id, next.id));
  expect(row.releasedAt).not.toBeNull();
  const told = (await readReleases(INES, "TIX")).releases.find(({ id }) => id === next.id)!;
  expect(told.items - told.done).toBe(open.length);
  expect((await readRelease(INES, "TIX", next.id)).until).toBeNull();
});
