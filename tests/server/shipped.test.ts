import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import type { FailureKind } from "@/core/ship/delivery-figures";
import type { FlowQuery } from "@/core/flow/request";
import { database } from "@/db/connection";
import { item, release } from "@/db/schema";
import { readLearn } from "@/server/flow/read";
import { createItem } from "@/server/item/create";
import { editTimebox } from "@/server/plan/timeboxes";
import type { Viewer } from "@/server/people/viewer";
import { editEnvironments } from "@/server/ship/environments";
import { setOut } from "@/server/ship/release/change-release";
import { withdrawRelease } from "@/server/ship/release/withdraw";
import { editShipSettings } from "@/server/ship/settings";
import { ANSWERS, itemIn, move, refusalOf, send, TO_LIVE } from "./setup/board";
import { commit, pushed, type SaidCommit } from "./setup/code-host";
import { delivery, post } from "./setup/events";
import { ARTHUR, INES, NOOR } from "./setup/people";
import { givenTestDatabase } from "./setup/test-database";
import { placeConsumersAtTheEnd } from "./setup/unfollowed";

/*
 * How what was delivered came to be live, as Learn shows it: over a repository and environments of this test's own, so
 * that every figure is known.
 */

givenTestDatabase();
const LIVE = "open to all";
const NAME = "shipped-app";
const START = Date.now() - 6 * 3_600_000;
let minute = 0;
const time = () => new Date(START + ++minute * 60_000).toISOString();
let last: SaidCommit[] = [];

const merge = async (words: string) => {
  last = [commit(words, { after: last, authoredAt: new Date(START - 3_600_000).toISOString() })];
  await post(pushed("main", last, { repository: NAME, main: true, time: time() }));
  return last[0];
};
const deploy = ({ id }: SaidCommit) =>
  post({
    ...delivery(
      "service.deployed",
      { id: NAME, content: { repository: { id: NAME }, environment: { id: LIVE } } },
      { commit: id },
    ),
    time: time(),
  });
const keyOf = async (id: string) =>
  `TIX-${(await database().select().from(item).where(eq(item.id, id)))[0].number}`;
const shippedOf = async (more: Partial<FlowQuery> = {}, by: Viewer = INES) =>
  (await readLearn(by, "TIX", { period: "4 weeks", ...more })).shipped;
const figuresOf = async (more: Partial<FlowQuery> = {}) =>
  (await shippedOf(more)).deliveries!.figures;
const named = (failures: FailureKind[]) => editShipSettings(INES, "TIX", { failures });

let story: string;

beforeAll(async () => {
  await placeConsumersAtTheEnd();
  await editEnvironments(INES, "TIX", {
    environments: [{ id: randomUUID(), name: LIVE, address: "", live: true, freezes: [] }],
  });
  // With the first came what was live before anybody told of it: it counts, and its commits do not.
  await deploy(await merge("What there was"));
  story = await itemIn(NOOR, "Pay with a shell", ...TO_LIVE.slice(0, -1));
  const made = await merge(`${await keyOf(story)}: pay`);
  await move(NOOR, story, "Live", { ...ANSWERS, outcome: "delivered" });
  await deploy(made);
});

test("each deployment counts, and the times from commit and from done to live", async () => {
  const { deployments, failed, leadTime } = await figuresOf();
  expect([deployments, failed]).toEqual([2, 0]);
  // Written an hour before the events began; merged in their third minute, live in the fourth.
  expect(leadTime).toBe(64 * 60_000);
  const { doneToLive, untested } = await shippedOf();
  // It was live, by the pipeline's own clock, before somebody said that it is done.
  expect(doneToLive.ids).toContain(story);
  expect(untested.ids).toContain(story);
  const before = untested.n;
  expect(before).toBeLessThanOrEqual(untested.of);
});

test("every filter applies: of a kind only the deployments that brought something of it", async () => {
  expect((await figuresOf({ type: "story" })).deployments).toBe(1);
  expect((await figuresOf({ type: "bug" })).deployments).toBe(0);
  expect((await shippedOf({ type: "bug" })).doneToLive.ids).not.toContain(story);
  expect((await figuresOf({ class: "expedite" })).deployments).toBe(0);
});

test("something expedite that is found in it names it a failure, until its mending is live", async () => {
  const { card } = await createItem(NOOR, {
    ...{ commandId: randomUUID(), projectKey: "TIX", parentId: null },
    fields: { title: "Shells are refused", typeId: "bug", classOfService: "expedite" },
  });
  await send(NOOR, card.id, { kind: "link", linkKind: "found in", otherKey: await keyOf(story) });
  expect(await figuresOf()).toMatchObject({ failed: 1, failureShare: 0.5, timeToRestore: null });
  const { deliveries } = (await shippedOf()).deliveries!;
  expect(deliveries[0].failure).toEqual({ kind: "hotfix", endedAt: null });
  await deploy(await merge(`${await keyOf(card.id)}: mended`));
  const { failed, deployments, timeToRestore } = await figuresOf();
  // From the fourth minute to the sixth.
  expect([failed, deployments, timeToRestore]).toEqual([1, 3, 2 * 60_000]);
});

test("what names a failure is said by a lead", async () => {
  await named(["rolled back"]);
  expect((await figuresOf()).failed).toBe(0);
  expect(await refusalOf(editShipSettings(ARTHUR, "TIX", { failures: [] }))).toBe("not allowed");
  await named(["hotfix", "withdrawn"]);
  expect((await figuresOf()).failed).toBe(1);
});

test("a release that is taken back names the deployment that it went out with", async () => {
  await named(["withdrawn"]);
  const id = randomUUID();
  await editTimebox(INES, "TIX", {
    kind: "release",
    release: { id, name: "Crossing of shells", dueOn: null, released: false, why: "" },
  });
  const at = { key: "TIX", release: id };
  await setOut(INES, at, { id: randomUUID(), out: true, unfinished: "stays", except: {} });
  await withdrawRelease(INES, at, {
    ...{ withdrawn: true, why: "Shells broke", finished: "stays as it is", except: {} },
  });
  const { deliveries } = (await shippedOf()).deliveries!;
  expect(deliveries.map(({ failure }) => failure?.kind ?? null)).toEqual(["withdrawn", null, null]);
  await database()
    .update(release)
    .set({ withdrawnAt: null, withdrawnWhy: null })
    .where(eq(release.id, id));
  expect((await figuresOf()).failed).toBe(0);
});

test("what somebody may not see counts, and is not named to them", async () => {
  await database()
    .update(item)
    .set({ restricted: true, createdBy: "ines", assigneeId: null, reviewerId: null })
    .where(eq(item.id, story));
  const [theirs, all] = [await shippedOf({}, NOOR), await shippedOf()];
  expect(theirs.doneToLive.of).toBe(all.doneToLive.of);
  expect(theirs.doneToLive.median).toBe(all.doneToLive.median);
  expect(theirs.doneToLive.ids).not.toContain(story);
  expect([theirs.untested.n, theirs.untested.ids.includes(story)]).toEqual([all.untested.n, false]);
});
