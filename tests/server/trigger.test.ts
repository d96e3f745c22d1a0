import { historyOf } from "@/server/item/history";
import type { EventOf, ItemEvent } from "@/core/item/event";
import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { DAY } from "@/core/calendar/instant";
import { addState, changeTransition, connect } from "@/core/workflow/edit";
import type { FollowUp } from "@/core/workflow/follow-ups/table";
import { LONGEST_CHAIN } from "@/core/workflow/occurrence";
import { same } from "@/core/workflow/same";
import type { Trigger } from "@/core/workflow/trigger";
import type { Transition } from "@/core/workflow/workflow";
import { database } from "@/db/connection";
import {
  item,
  itemEvent,
  itemLink,
  report,
  reportMessage,
  state,
  workflowVersion,
} from "@/db/schema";
import { readItem } from "@/server/item/read";
import { toldTo } from "./setup/told";
import { enterSource } from "@/server/events/take";
import { signatureOf } from "@/server/events/signature";
import { sayMore, moveAsRequester, readPrivatePage } from "@/server/intake/private-page";
import { checkItems } from "@/server/item/check";
import { createItem } from "@/server/item/create";
import { fireTimers, moveByTrigger } from "@/server/item/trigger";
import { itemIn, move, refusalOf, send, stateId } from "./setup/board";
import { delivery, depths, pipeline, post, settle } from "./setup/events";
import { placeConsumersAtTheEnd, rememberPlaces, unfollowed } from "./setup/unfollowed";
import { INES, IVO, NOOR } from "./setup/people";
import { publishChange, runningWorkflow } from "./setup/process";
import { givenTestDatabase } from "./setup/test-database";

givenTestDatabase();
beforeAll(placeConsumersAtTheEnd);

const snapshot = async (id: string) =>
  (await database().select().from(item).where(eq(item.id, id)))[0];
const nameOf = async (id: string) =>
  (
    await database()
      .select({ name: state.name })
      .from(item)
      .innerJoin(state, eq(state.id, item.stateId))
      .where(eq(item.id, id))
  )[0].name;
const keyOf = async (id: string) => `TIX-${(await snapshot(id)).number}`;
const building = (title = "On the way") => itemIn(NOOR, title, "Ready", "Building");
const eventsOf = async <K extends "moved" | "held">(id: string, kind: K) =>
  (await historyOf(database(), id)).filter((e): e is EventOf<K> & ItemEvent => e.kind === kind);
const lastOf = async (id: string, kind: "moved" | "held") => (await eventsOf(id, kind)).at(-1)!;
const HAND = "Hand to review";

/** Sees to it that a move of TIX's workflow has these rules and no others. */
async function rules(verb: string, change: Partial<Transition>): Promise<void> {
  const now = (await runningWorkflow()).transitions.find((t) => t.verb === verb)!;
  const wanted = { ...now, who: [], requirements: [], followUps: [], triggers: [], ...change };
  if (!same(now, wanted)) await publishChange((w) => changeTransition(w, now.id, wanted));
}

describe("every trigger, through the real write path", () => {
  const CHANGE = () => `c${randomUUID().slice(0, 6)}`;
  const outside: [Trigger, (key: string, change: string) => object[], string][] = [
    [
      { kind: "change opened" },
      (key, change) => [
        delivery("change.created", { id: change }, { branch: `${key} readable in sun` }),
      ],
      "was opened.",
    ],
    [
      { kind: "change merged" },
      (key, change) => [
        delivery("change.created", { id: change }, { items: [key] }),
        delivery("change.merged", { id: change }),
      ],
      "was merged.",
    ],
    [
      { kind: "checks passed" },
      (key, change) => [
        delivery("change.created", { id: change }, { items: [key] }),
        delivery(
          "pipelinerun.finished",
          { id: "run", content: { outcome: "success" } },
          { change },
        ),
      ],
      "passed.",
    ],
    [
      { kind: "checks failed" },
      (key, change) => [
        delivery("change.created", { id: change }, { items: [key] }),
        delivery(
          "pipelinerun.finished",
          { id: "run", content: { outcome: "failure" } },
          { change },
        ),
      ],
      "failed.",
    ],
    [
      { kind: "review approved" },
      (key, change) => [
        delivery("change.created", { id: change }, { items: [key] }),
        delivery("change.reviewed", { id: change }, { verdict: "approved" }),
      ],
      "was approved in review.",
    ],
    [
      { kind: "review sent back" },
      (key, change) => [
        delivery("change.created", { id: change }, { items: [key] }),
        delivery("change.reviewed", { id: change }, { verdict: "sent back" }),
      ],
      "was sent back in review.",
    ],
    [
      { kind: "test run passed" },
      (key) => [
        delivery(
          "testsuiterun.finished",
          { id: "night", content: { outcome: "pass" } },
          { items: [key] },
        ),
      ],
      "Test run night passed.",
    ],
    [
      { kind: "test run failed" },
      (key) => [
        delivery(
          "testsuiterun.finished",
          { id: "night", content: { outcome: "fail" } },
          { items: [key] },
        ),
      ],
      "Test run night failed.",
    ],
    [
      { kind: "deployed", environment: "Production" },
      (key) => [
        delivery(
          "service.deployed",
          { id: "app", content: { environment: { id: "production" } } },
          { items: [key] },
        ),
      ],
      "It was deployed to production.",
    ],
  ];

  test.each(outside)("%j", async (trigger, events, words) => {
    await rules(HAND, { triggers: [trigger] });
    const [id, other] = [await building(), await building("Not meant")];
    const taken = await post(...events(await keyOf(id), CHANGE()));
    expect(taken.items).toEqual([await keyOf(id)]);
    expect(await nameOf(id)).toBe("Building");
    await settle();
    expect([await nameOf(id), await nameOf(other)]).toEqual(["Waiting for review", "Building"]);
    const moved = await lastOf(id, "moved");
    expect(moved).toMatchObject({ cause: "trigger", actorId: null });
    expect(moved.note).toContain(words);
  });

  test("one merged change of two moves nothing, the last does; a deployment elsewhere neither", async () => {
    await rules(HAND, {
      triggers: [{ kind: "change merged" }, { kind: "deployed", environment: "production" }],
    });
    const id = await building();
    const key = await keyOf(id);
    await post(
      delivery("change.created", { id: "a1" }, { items: [key] }),
      delivery("change.created", { id: "a2" }, { items: [key] }),
      delivery("change.merged", { id: "a1" }),
    );
    await post(
      delivery(
        "service.deployed",
        { id: "app", content: { environment: { id: "staging" } } },
        { items: [key] },
      ),
    );
    await settle();
    expect(await nameOf(id)).toBe("Building");
    await post(delivery("change.merged", { id: "a2" }));
    await settle();
    expect(await nameOf(id)).toBe("Waiting for review");
    expect((await snapshot(id)).outside).toEqual({
      changes: [
        { id: "a1", status: "merged", checks: null, review: null },
        { id: "a2", status: "merged", checks: null, review: null },
      ],
      deployedTo: ["staging"],
      testResult: null,
    });
  });

  test("two of a kind in one post each make their move; the history tells of both under one command", async () => {
    const was = (await runningWorkflow()).transitions.find((t) => t.verb === "Start review")!;
    await rules(HAND, { triggers: [{ kind: "deployed", environment: "staging" }] });
    await rules("Start review", { triggers: [{ kind: "deployed", environment: "production" }] });
    const id = await building();
    const key = await keyOf(id);
    const before = await snapshot(id);
    const deployed = (environment: string) =>
      delivery(
        "service.deployed",
        { id: "app", content: { environment: { id: environment } } },
        { items: [key] },
      );
    await post(deployed("staging"), deployed("production"));
    const heard = (await historyOf(database(), id)).filter(({ seq }) => seq > before.version);
    expect(heard).toMatchObject([
      { kind: "reported", new: { kind: "deployed", environment: "staging" } },
      { kind: "reported", new: { kind: "deployed", environment: "production" } },
    ]);
    expect(new Set(heard.map(({ commandId }) => commandId)).size).toBe(1);
    await settle();
    expect(await nameOf(id)).toBe("In review");
    await rules("Start review", was);
  });

  test("all sub-tasks finished, and the item above finished", async () => {
    await rules(HAND, { triggers: [{ kind: "sub-tasks finished" }] });
    const parent = await building();
    const tasks = await Promise.all(
      ["one", "two"].map(
        async (title) =>
          (
            await createItem(NOOR, {
              commandId: randomUUID(),
              projectKey: "TIX",
              parentId: parent,
              fields: { title, typeId: "task" },
            })
          ).card,
      ),
    );
    const [done] = await database()
      .select({ id: state.id })
      .from(state)
      .where(and(eq(state.workflowId, "tix-tasks"), eq(state.name, "Done")));
    const finish = (task: { id: string; stateId: string }) =>
      send(NOOR, task.id, {
        kind: "move",
        from: task.stateId,
        to: done.id,
        answers: { outcome: "delivered" },
      });
    await finish(tasks[0]);
    await settle();
    expect(await nameOf(parent)).toBe("Building");
    await finish(tasks[1]);
    await settle();
    expect(await nameOf(parent)).toBe("Waiting for review");

    await rules(HAND, { triggers: [{ kind: "parent finished" }] });
    const [above, below] = [await building("Above"), await building("Below")];
    await database().update(item).set({ parentId: above }).where(eq(item.id, below));
    await move(NOOR, above, "Closed", { outcome: "obsolete", reason: "Not wanted." });
    await settle();
    expect(await nameOf(below)).toBe("Waiting for review");
    expect((await lastOf(below, "moved")).note).toBe(`${await keyOf(above)} above it is finished.`);
    await database().update(item).set({ parentId: null }).where(eq(item.id, below));
  });

  test("the end of what it waits for, once all of it has ended as the rule says", async () => {
    const rule = (how: "delivered" | "any end") =>
      rules(HAND, { triggers: [{ kind: "linked ended", way: "waits for", how }] });
    const wait = async (id: string, other: string) =>
      send(NOOR, id, { kind: "link", linkKind: "waits for", otherKey: await keyOf(other) });
    const end = async (id: string) => {
      await move(NOOR, id, "Closed", { outcome: "obsolete", reason: "Not wanted." });
      await settle();
    };
    await rule("delivered");
    const [follower, first, second] = [
      await building("Follows"),
      await building("A"),
      await building("B"),
    ];
    await wait(follower, first);
    await wait(follower, second);
    await end(first);
    await end(second);
    // Neither was delivered.
    expect(await nameOf(follower)).toBe("Building");
    await rule("any end");
    const third = await building("C");
    await wait(follower, third);
    const fourth = await building("D");
    await wait(follower, fourth);
    await end(third);
    expect(await nameOf(follower)).toBe("Building");
    await end(fourth);
    expect(await nameOf(follower)).toBe("Waiting for review");
    expect((await lastOf(follower, "moved")).note).toBe(
      `All that it waits for has ended, ${await keyOf(fourth)} last.`,
    );
  });

  test("first given to somebody, and only then", async () => {
    await rules("Pull", { triggers: [{ kind: "first assigned" }] });
    const id = await itemIn(NOOR, "Nobody's yet");
    const give = async (assigneeId: string | null) => {
      await send(NOOR, id, {
        kind: "edit",
        seenVersion: (await snapshot(id)).version,
        changes: { assigneeId },
      });
      await settle();
    };
    await give("ivo");
    expect(await nameOf(id)).toBe("Ready");
    await move(NOOR, id, "Backlog");
    await give(null);
    await give("noor");
    expect(await nameOf(id)).toBe("Backlog");
    await rules("Pull", {});
  });

  test("the requester answers, on their private page", async () => {
    await rules(HAND, { triggers: [{ kind: "requester answered" }] });
    const id = await building();
    const token = "a".repeat(32);
    await database().insert(report).values({
      id: randomUUID(),
      projectId: "tix",
      reference: "R-ANSWER",
      token,
      title: "Ticket dark",
      happened: "It is dark.",
      reproduce: "",
      place: "",
      mail: "",
      status: "accepted",
      itemId: id,
      receivedAt: 0,
      version: 1,
    });
    await send(NOOR, id, { kind: "ask", body: "Which telephone is it?" });
    expect((await readPrivatePage(token)).awaitsAnswer).toBe(true);
    await sayMore(token, "An old one.");
    expect((await readPrivatePage(token)).awaitsAnswer).toBe(false);
    await settle();
    expect(await nameOf(id)).toBe("Waiting for review");
    expect(
      await database()
        .select({ kind: itemEvent.kind, cause: itemEvent.cause })
        .from(itemEvent)
        .where(and(eq(itemEvent.itemId, id), eq(itemEvent.cause, "requester"))),
    ).toEqual([{ kind: "commented", cause: "requester" }]);
    const { comments } = (await readItem(NOOR, `TIX-${(await snapshot(id)).number}`)).talk;
    expect(comments.find((c) => c.body === "An old one.")?.author).toBe("The requester");
  });

  test("what the process writes is signed by it, not by the requester", async () => {
    await rules(HAND, {
      triggers: [{ kind: "days in state", days: 3 }],
      followUps: [{ kind: "comment", text: "It waited too long." }],
    });
    const id = await building("Left alone");
    await fireTimers(Date.now() + 3.1 * DAY);
    const { comments } = (await readItem(NOOR, `TIX-${(await snapshot(id)).number}`)).talk;
    expect(comments.find((c) => c.body === "It waited too long.")?.author).toBe("The process");
  });

  test("so many days in a state, once a stay; a date reached, once", async () => {
    await rules(HAND, { triggers: [{ kind: "days in state", days: 3 }] });
    const id = await building();
    await fireTimers(Date.now() + 2.9 * DAY);
    expect(await nameOf(id)).toBe("Building");
    await fireTimers(Date.now() + 3.1 * DAY);
    expect(await nameOf(id)).toBe("Waiting for review");
    expect((await lastOf(id, "moved")).note).toBe("It had been here for 3 days.");

    await rules(HAND, { triggers: [{ kind: "date reached", field: "dueOn" }] });
    const dated = await building("By Friday");
    await send(NOOR, dated, {
      kind: "edit",
      seenVersion: (await snapshot(dated)).version,
      changes: { dueOn: "2026-12-04" },
    });
    await fireTimers(Date.parse("2026-12-03T23:00:00Z"));
    expect(await nameOf(dated)).toBe("Building");
    await fireTimers(Date.parse("2026-12-04T00:30:00Z"));
    expect(await nameOf(dated)).toBe("Waiting for review");
    await move(NOOR, dated, "Building");
    await fireTimers(Date.parse("2026-12-05T00:30:00Z"));
    expect(await nameOf(dated)).toBe("Building");
  });
});

test("more refused moves than are looked at together keep no other waiting", async () => {
  await rules(HAND, {
    requirements: [{ kind: "filled", field: "severity" }],
    triggers: [{ kind: "days in state", days: 1 }],
  });
  const ids: string[] = [];
  for (let i = 0; i < 205; i++) ids.push(await building(`Held ${i}`));
  const last = ids.at(-1)!;
  await send(NOOR, last, {
    kind: "edit",
    seenVersion: (await snapshot(last)).version,
    changes: { severity: "minor" },
  });
  await fireTimers(Date.now() + 1.5 * DAY);
  expect(await nameOf(ids[0])).toBe("Building");
  expect(await nameOf(last)).toBe("Waiting for review");
  await rules(HAND, {});
});

test("a move that its own rules refuse is not made, and the history says why; it is tried again the next day", async () => {
  await rules(HAND, {
    requirements: [{ kind: "filled", field: "severity" }],
    triggers: [{ kind: "days in state", days: 1 }],
  });
  const id = await building();
  const later = Date.now() + 1.5 * DAY;
  await fireTimers(later);
  await fireTimers(later + 1000);
  expect(await nameOf(id)).toBe("Building");
  const held = await eventsOf(id, "held");
  expect(held.map((h) => h.note)).toEqual([
    "It had been here for 1 day. It needs a severity. Say how bad it is for those who meet it.",
  ]);
  await send(NOOR, id, {
    kind: "edit",
    seenVersion: (await snapshot(id)).version,
    changes: { severity: "minor" },
  });
  await fireTimers(later + DAY);
  expect(await nameOf(id)).toBe("Waiting for review");
});

test("a change's events are taken once, whoever sends them how often; the worker's crash in between loses and doubles nothing", async () => {
  await rules(HAND, { triggers: [{ kind: "change opened" }] });
  const id = await building();
  await placeConsumersAtTheEnd();
  const putBack = await rememberPlaces();
  const event = delivery("change.created", { id: "once" }, { items: [await keyOf(id)] });
  await Promise.all([post(event), post(event), post(event)]);
  const { version } = await snapshot(id);
  await post(event);
  expect((await snapshot(id)).version).toBe(version);
  await settle();
  // All is followed again, as after a crash before it was noted how far the worker had come.
  expect(await unfollowed()).toBe(0);
  await putBack();
  expect(await unfollowed()).toBeGreaterThan(0);
  await settle();
  const moves = await database()
    .select()
    .from(itemEvent)
    .where(
      and(eq(itemEvent.itemId, id), eq(itemEvent.kind, "moved"), eq(itemEvent.cause, "trigger")),
    );
  expect(moves).toHaveLength(1);
});

test("requirement: the linked change is merged and its checks passed", async () => {
  await rules(HAND, { requirements: [{ kind: "change merged", checks: true }] });
  const id = await building();
  const key = await keyOf(id);
  const say = async () => {
    try {
      await move(NOOR, id, "Waiting for review", {});
    } catch (error) {
      return (error as { refusal: { sentence: string } }).refusal.sentence;
    }
    return "made";
  };
  expect(await say()).toBe("No merged change belongs to it.");
  await post(delivery("change.created", { id: "m1" }, { items: [key] }));
  expect(await say()).toBe("Change m1 is not merged yet.");
  await post(delivery("change.merged", { id: "m1" }));
  expect(await say()).toBe("The checks of its changes have not passed yet.");
  await post(
    delivery(
      "pipelinerun.finished",
      { id: "r", content: { outcome: "failure" } },
      { change: "m1" },
    ),
  );
  expect(await say()).toBe("A check of its changes failed.");
  await post(
    delivery(
      "pipelinerun.finished",
      { id: "r", content: { outcome: "success" } },
      { change: "m1" },
    ),
  );
  expect(await say()).toBe("made");
});

test("follow-up: people are told, once each and not of what they did themselves; the requester on the private page", async () => {
  const tellAll: FollowUp = {
    kind: "tell",
    whom: [
      { kind: "assignee" },
      { kind: "leads" },
      { kind: "team", teamId: "ticketing" },
      { kind: "requester" },
    ],
    text: "Somebody has to review this.",
  };
  await rules(HAND, { followUps: [tellAll] });
  const id = await building();
  const token = "b".repeat(32);
  await database().insert(report).values({
    id: randomUUID(),
    projectId: "tix",
    reference: "R-TOLD",
    token,
    title: "x",
    happened: "x",
    reproduce: "",
    place: "",
    mail: "",
    status: "accepted",
    itemId: id,
    receivedAt: 0,
    version: 1,
  });
  await move(NOOR, id, "Waiting for review", {});
  const own = async (viewer: typeof NOOR) =>
    (await toldTo(viewer)).filter(({ words }) => words === tellAll.text).length;
  expect([await own(INES), await own(IVO), await own(NOOR)]).toEqual([1, 1, 0]);
  expect((await readPrivatePage(token)).messages.map((m) => m.body)).toContain(tellAll.text);
});

test("a move for whoever asked: on the private page by its token, refused for everybody else", async () => {
  await rules(HAND, { who: [{ kind: "requester" }] });
  const id = await building();
  const token = "c".repeat(32);
  await database().insert(report).values({
    id: randomUUID(),
    projectId: "tix",
    reference: "R-MOVE",
    token,
    title: "x",
    happened: "x",
    reproduce: "",
    place: "",
    mail: "",
    status: "accepted",
    itemId: id,
    receivedAt: 0,
    version: 1,
  });
  expect(await refusalOf(move(IVO, id, "Waiting for review", {}))).toBe("not for you");
  const page = await readPrivatePage(token);
  expect(page.moves).toEqual([
    {
      from: await stateId("Building"),
      to: await stateId("Waiting for review"),
      verb: HAND,
      asksWhy: false,
    },
  ]);
  expect(
    await refusalOf(
      moveAsRequester(token, { from: page.moves[0].from, to: await stateId("Ready"), words: "" }),
    ),
  ).toBe("not for you");
  await moveAsRequester(token, { from: page.moves[0].from, to: page.moves[0].to, words: "" });
  expect(await nameOf(id)).toBe("Waiting for review");
});

test("undoing a move takes back what followed: approvals, sub-tasks, duplicates", async () => {
  await rules(HAND, {});
  await rules("Take back", {
    followUps: [
      { kind: "create sub-tasks", titles: ["Tell the crew"] },
      { kind: "finish duplicates" },
    ],
  });
  const [id, twin] = [await building(), await building("The same again")];
  await database()
    .insert(itemLink)
    .values({ id: randomUUID(), fromItemId: twin, toItemId: id, kind: "duplicates" });
  await move(NOOR, id, "Waiting for review", {});
  await send(IVO, id, { kind: "approve", on: true });
  const { approvals } = await snapshot(id);
  const commandId = randomUUID();
  await send(
    NOOR,
    id,
    {
      kind: "move",
      from: await stateId("Waiting for review"),
      to: await stateId("Building"),
      answers: {},
    },
    commandId,
  );
  const made = () => database().select().from(item).where(eq(item.parentId, id));
  expect([
    (await made())[0].title,
    (await snapshot(twin)).stateKind,
    (await snapshot(id)).approvals,
  ]).toEqual(["Tell the crew", "finished", []]);
  await send(NOOR, id, { kind: "undo", commandId });
  expect((await made())[0].withdrawnAt).not.toBeNull();
  expect((await snapshot(twin)).stateKind).toBe("working");
  expect((await snapshot(id)).approvals).toEqual(approvals);
});

test("moves that set each other off end after some steps, and the item says so", async () => {
  const chain = Array.from({ length: LONGEST_CHAIN + 2 }, (_, n) => `step-${n}`);
  // A row of states, each of which is left when a test run passes, here as if each move had brought
  // about the next.
  await publishChange((w) => {
    let made = w;
    let after = w.states.find((s) => s.name === "Building")!.id;
    for (const id of chain) {
      made = addState(made, after, {
        id,
        name: id,
        kind: "working",
        stage: null,
        moveIds: [randomUUID(), randomUUID()],
      });
      after = id;
    }
    return chain
      .slice(1)
      .reduce(
        (now, id, i) => connect(now, { id: `t-${id}`, from: chain[i], to: id, verb: `To ${id}` }),
        made,
      );
  });
  await publishChange((w) => ({
    ...w,
    transitions: w.transitions.map((t) =>
      t.to.startsWith("step-")
        ? { ...t, triggers: [{ kind: "test run passed" }] }
        : { ...t, triggers: [] },
    ),
  }));
  const id = await building();
  for (let depth = 1; depth <= LONGEST_CHAIN + 1; depth++)
    await moveByTrigger(
      id,
      { kind: "test run passed", run: "r" },
      { depth, setOffBy: null },
      `chain ${depth}`,
    );
  expect(await nameOf(id)).toBe(chain[LONGEST_CHAIN - 1]);
  expect((await lastOf(id, "held")).note).toBe(
    "5 moves in a row have happened by themselves. The next waits for somebody to look.",
  );
  expect((await depths(id)).slice(-LONGEST_CHAIN - 1)).toEqual([1, 2, 3, 4, 5, 0]);
});

test("events that are unsigned, signed wrongly, too old or for nobody are not taken", async () => {
  const { id, secret } = await pipeline();
  const now = Date.now();
  const at = (ms: number) => String(Math.floor(ms / 1000));
  const enter = (
    headers: { id: string; timestamp: string; signature: string },
    body = "{}",
    source = id,
  ) =>
    enterSource({ sourceId: source, headers, body, address: "203.0.113.7", now }).then(
      (e) => e.kind,
    );
  const good = { id: "m", timestamp: at(now), signature: signatureOf(secret, "m", at(now), "{}") };
  expect(await enter(good)).toBe("source");
  expect(await enter({ ...good, signature: `v1,aaaa ${good.signature}` })).toBe("source");
  expect(await enter({ ...good, signature: "" })).toBe("unknown");
  expect(await enter(good, '{"a":1}')).toBe("unknown");
  expect(await enter({ ...good, id: "other" })).toBe("unknown");
  const old = at(now - 6 * 60_000);
  expect(
    await enter({ id: "m", timestamp: old, signature: signatureOf(secret, "m", old, "{}") }),
  ).toBe("unknown");
  expect(await enter(good, "{}", "nobody")).toBe("unknown");
});

test("the history of all of it agrees with what is stored", async () => {
  expect(
    (
      await database()
        .select({ v: workflowVersion.version })
        .from(workflowVersion)
        .where(eq(workflowVersion.workflowId, "tix-main"))
    ).length,
  ).toBeGreaterThan(15);
  expect(
    (await database().select().from(reportMessage).where(eq(reportMessage.kind, "answer"))).length,
  ).toBeGreaterThan(0);
  // Two items were put under another by hand above, past their history.
  expect((await checkItems()).findings.filter((f) => !f.includes("parentId"))).toEqual([]);
});
