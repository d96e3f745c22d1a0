import { eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { differsQuestion } from "@/core/intake/reproduction";
import { database, transact } from "@/db/connection";
import { item, mailOut } from "@/db/schema";
import { readDesk } from "@/server/intake/desk";
import { followItem, wakeParkedReports } from "@/server/intake/follow-up";
import { readPrivatePage, sayMore } from "@/server/intake/private-page";
import { readReport } from "@/server/intake/read-report";
import { undoVerdict } from "@/server/intake/triage-report";
import { itemIn, move, refusalOf } from "./setup/board";
import { settle } from "./setup/events";
import { NOOR, TOMAS } from "./setup/people";
import { reportRow, sent, verdictOn } from "./setup/reports";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
const day = (days: number) => new Date(Date.now() + days * DAY).toISOString().slice(0, 10);
const watch = { kind: "park", until: day(20), itemId: null, watched: true } as const;
const watched = async (title: string, happened: string, place = "in the app") => {
  const row = await sent({ title: [title], happened: [happened], place: [place] });
  const { verdictId } = await verdictOn(row.id, watch);
  return { ...row, verdictId };
};
const queued = async (id: string) =>
  (await readDesk(TOMAS, "TIX")).queue.find((r) => r.id === id)?.returnedWhy;

test("it comes back when one like it arrives, saying which; what is unlike wakes nothing", async () => {
  const row = await watched(
    "Wheelchair ramp icon flickers",
    "The icon of the wheelchair ramp flickers on the map of the harbour.",
  );
  expect((await readPrivatePage(row.token)).status.headline).toBe("Put aside for now");
  await settle();
  expect(await queued(row.id)).toBeUndefined();
  await sent({ title: ["Soup was cold"], happened: ["The soup in the saloon was cold."] });
  await settle();
  expect(await queued(row.id)).toBeUndefined();
  const like = await sent({
    title: ["Icon of the wheelchair ramp flickers"],
    happened: ["On the map of the harbour the wheelchair ramp icon flickers."],
  });
  await settle();
  expect(await queued(row.id)).toBe("one like it came");
  expect((await readReport(TOMAS, row.id)).broughtBack).toEqual({
    why: "one like it came",
    key: like.reference,
    id: like.id,
    about: "report",
  });
});

test("it comes back when something of the same place is delivered, not when it ends otherwise", async () => {
  const row = await watched("Bell rings twice", "The bell rings twice at night.", "Lantern steps");
  const plain = await sent({ place: ["Lantern steps"] });
  await verdictOn(plain.id, { ...watch, watched: false });
  const changed = async (outcome: "delivered" | "obsolete") => {
    const id = await itemIn(NOOR, "New clock for the tower", "Ready", "Building");
    await database().update(item).set({ place: "Lantern steps" }).where(eq(item.id, id));
    await move(NOOR, id, "Closed", { outcome, reason: "As agreed." });
    await settle();
    return id;
  };
  await changed("obsolete");
  expect(await queued(row.id)).toBeUndefined();
  const id = await itemIn(NOOR, "New bell", "Ready", "Building", "Waiting for review");
  await database()
    .update(item)
    .set({ place: "lantern steps ", stateKind: "finished", outcome: "delivered" })
    .where(eq(item.id, id));
  // A word on what was delivered long since wakes nothing; its delivery does.
  await transact((tx) => followItem(tx, id, Date.now(), false));
  expect(await queued(row.id)).toBeUndefined();
  await transact((tx) => followItem(tx, id, Date.now(), true));
  expect(await queued(row.id)).toBe("its part changed");
  expect((await readReport(TOMAS, row.id)).broughtBack).toMatchObject({ about: "item", id });
  // What is parked for another reason stays where it is.
  expect(await queued(plain.id)).toBeUndefined();
});

test("nothing comes: it ends on the day that was said, and an answer opens it again", async () => {
  const row = await watched("Once only", "It happened once.", "on the upper deck");
  const other = await sent({ title: ["Comes back"] });
  await verdictOn(other.id, { ...watch, watched: false });
  expect(await wakeParkedReports(Date.now() + 10 * DAY)).toBe(0);
  await wakeParkedReports(Date.now() + 22 * DAY);
  expect(await reportRow(row.id)).toMatchObject({ status: "declined" });
  expect(await reportRow(other.id)).toMatchObject({ status: "unjudged" });
  const letters = await database().select().from(mailOut).where(eq(mailOut.reportId, row.id));
  expect(letters.map((l) => l.body).join()).toMatch(/We watch for it until .*We watched for it/s);
  await sayMore(row.token, "Again, today at noon.");
  expect(await queued(row.id)).toBe("answered");
});

test("watching is for a day, and is undone like every verdict", async () => {
  const row = await watched("Undone", "It did not happen here.");
  await undoVerdict(TOMAS, row.id, row.verdictId);
  expect(await reportRow(row.id)).toMatchObject({ status: "unjudged", parkedUntil: null });
  // Only the verdict that stands last counts, also where an older one names the same day.
  const woken = await watched("Bell on the upper deck hums", "It hums in the rain.", "Bell deck");
  const like = { title: ["Bell on the upper deck hums"], happened: ["It hums in the rain."] };
  await sent(like);
  await settle();
  expect(await queued(woken.id)).toBe("one like it came");
  await verdictOn(woken.id, { ...watch, watched: false });
  await sent(like);
  await settle();
  expect(await reportRow(woken.id)).toMatchObject({ status: "parked" });
  const awaited = await itemIn(NOOR, "To wait for", "Ready");
  expect(await refusalOf(verdictOn(row.id, { ...watch, until: null, itemId: awaited }))).toBe(
    "invalid",
  );
});

test("whoever reported it is asked what differs, by the last try that failed", () => {
  const tried = {
    tried: "Gate 2",
    version: "4.12",
    steps: "Hold it\nWait",
    result: "did not happen",
  } as const;
  const question = differsQuestion([tried, { ...tried, tried: "Quay 1", result: "happened" }]);
  expect(question).toContain("We tried it: Gate 2, 4.12.\n\nWhat we did:\nHold it\nWait");
  expect(question).toContain("What was different with you?");
  expect(differsQuestion([])).toMatch(/^We tried it, and it did not happen\./);
});
