import fc from "fast-check";
import { overlap } from "@/core/calendar/instant";
import type { ItemCommand } from "@/core/item/command";
import type { ItemEvent } from "@/core/item/event";
import { decide } from "@/core/item/decide";
import {
  compareRanks,
  rankBetween,
  ranksBetween,
  ranksForOrder,
  type Neighbours,
} from "@/core/item/rank";
import type { ItemSnapshot } from "@/core/item/fields";
import { refuseWithoutDate } from "@/core/item/fixed-date";
import { flowRecord } from "@/core/item/flow-record";
import { blockedEndedBy, passageIn, readyEndedBy, type RecordedPassage } from "@/core/item/passage";
import { applyEvent, blocksOf, readiesOf, replay, staysOf } from "@/core/item/snapshot";
import { finishesOf } from "@/core/item/start-finish";
import { eventWords } from "@/core/item/words";
import { transitionsFrom } from "@/core/workflow/workflow";
import { isInProgress, type StateKind } from "@/core/workflow/state";
import { context, created, Subject, workflow } from "./setup/make";
import { runs } from "./setup/runs";

/** Answers that satisfy every rule of the workflow, so that a random walk is never refused. */
const ANSWERS = { assigneeId: "noor", reviewerId: "ivo", howToTest: "try it", reason: "it failed" };

/** Random commands, as choices that are turned into a command when the item's state is known. */
const step = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant("move" as const), which: fc.nat(9) }) },
  fc.record({
    kind: fc.constant("edit" as const),
    title: fc.string({ minLength: 1, maxLength: 20 }),
    estimate: fc.option(fc.nat(13)),
  }),
  fc.record({
    kind: fc.constant("block" as const),
    cause: fc.constantFrom("waits for feed", "no device"),
  }),
  fc.record({ kind: fc.constant("lift" as const) }),
  { weight: 2, arbitrary: fc.record({ kind: fc.constant("ready" as const), on: fc.boolean() }) },
  fc.record({ kind: fc.constant("comment" as const) }),
  fc.record({ kind: fc.constant("go" as const) }),
);

/** To the other of two projects, where everything is called as it is here. */
const goesOver = ({ projectId, number, stateId }: ItemSnapshot): ItemCommand => {
  const [was, is] = projectId === "tix" ? ["tix", "gate"] : ["gate", "tix"];
  const at = (id: string, n: number) => ({ projectId: id, number: n, key: `${id}-${n}` });
  return {
    kind: "change project",
    was: at(was, number),
    becomes: at(is, number + 1),
    projectName: is,
    to: stateId,
    fields: {},
    own: {},
    leaves: null,
  };
};

function walk(
  steps: {
    kind: string;
    which?: number;
    title?: string;
    estimate?: number | null;
    cause?: string;
    on?: boolean;
  }[],
): Subject {
  const subject = new Subject();
  let ids = 0;
  for (const s of steps) {
    const item = subject.item!;
    let command: ItemCommand | null = null;
    if (s.kind === "move") {
      const out = transitionsFrom(workflow, item.stateId);
      const t = out[s.which! % out.length];
      const outcome = t.requirements.find((r) => r.kind === "outcome");
      command = {
        kind: "move",
        from: item.stateId,
        to: t.to,
        answers: {
          ...ANSWERS,
          ...(outcome?.kind === "outcome" ? { outcome: outcome.allowed[0] } : {}),
        },
      };
    } else if (s.kind === "edit" && s.title!.trim())
      command = {
        kind: "edit",
        seenVersion: item.version,
        changes: { title: s.title, estimate: s.estimate },
      };
    else if (s.kind === "block" && isInProgress(item.stateKind))
      command = { kind: "block", blockId: `b${ids++}`, cause: s.cause!, waitingFor: null };
    else if (s.kind === "lift" && item.openBlockers[0])
      command = { kind: "lift", blockId: item.openBlockers[0].id };
    else if (s.kind === "ready" && isInProgress(item.stateKind) && item.openBlockers.length === 0)
      command = { kind: "ready", on: s.on! };
    else if (s.kind === "go") command = goesOver(item);
    else if (s.kind === "comment")
      command = { kind: "comment", commentId: `c${ids++}`, body: "seen" };
    if (command) subject.do(command);
  }
  return subject;
}

/** Why an item is not marked ready. */
const refused = ({ item }: Subject) =>
  decide(item, { kind: "ready", on: true }, context({ at: 99_000 }));

describe("history and snapshot", () => {
  test("replaying any history gives the snapshot, and its stays, blocks and clock fit together", () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const { events, item } = walk(steps);
        expect(replay(events)).toEqual(item);
        const stays = staysOf(events);
        const { stateId, projectId } = item!;
        expect(stays.at(-1)).toMatchObject({ stateId, projectId, to: null });
        for (const { enteredSeq, projectId: then } of stays)
          expect(replay(events.slice(0, enteredSeq)).projectId).toBe(then);
        stays.slice(1).forEach((stay, i) => expect(stay.from).toBe(stays[i].to));
        const inProgress = stays.filter((s) => isInProgress(s.kind));
        const covered = inProgress.reduce((sum, s) => sum + ((s.to ?? 1e9) - s.from), 0);
        expect(item!.clock.reduce((sum, i) => sum + ((i.to ?? 1e9) - i.from), 0)).toBe(covered);
        expect(
          blocksOf(events)
            .filter((b) => b.to === null)
            .map((b) => b.blockId),
        ).toEqual(item!.openBlockers.map((b) => b.id));
        expect(item!.blockedSince === null).toBe(item!.openBlockers.length === 0);
        const readies = readiesOf(events);
        expect(readies.find((r) => r.to === null)?.from ?? null).toBe(item!.readySince);
        // It is never ready and blocked at once, nor ready where nobody works on it.
        for (const ready of readies) {
          for (const other of [...blocksOf(events), ...stays.filter((s) => !isInProgress(s.kind))])
            expect(overlap(ready, other, 1e9)).toBe(0);
        }
        const finishes = finishesOf(stays);
        expect(item).toMatchObject({
          firstStartedAt: inProgress[0]?.from ?? null,
          deliveredAt: finishes.find((f) => f.kind === "delivered")?.at ?? null,
          finishedAt:
            item!.stateKind === "finished"
              ? (finishes
                  .filter((f) => stays.every((s) => s.kind === "finished" || s.from < f.at))
                  .at(-1)?.at ?? null)
              : null,
        });
      }),
      { numRuns: runs(200) },
    );
  });

  test("passages and blocked time kept step by step are those of the whole history", () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const { events } = walk(steps);
        const kept: RecordedPassage[] = [];
        const blocked = new Map<number, number>();
        const ready = new Map<number, number>();
        let item: ItemSnapshot | null = null;
        let stay = 1;
        for (const command of new Set(events.map((e) => e.commandId))) {
          const own = events.filter((e) => e.commandId === command);
          const before: ItemSnapshot | null = item;
          for (const event of own) {
            if (item) {
              const ended = blockedEndedBy(item, event);
              blocked.set(stay, (blocked.get(stay) ?? 0) + ended);
              ready.set(stay, (ready.get(stay) ?? 0) + readyEndedBy(item, event));
            }
            item = applyEvent(item, event);
            if (event.kind === "moved") stay = event.seq;
          }
          const step = passageIn(before, own, item!);
          if (!step) continue;
          const passage = { ...step, projectId: item!.projectId };
          const last = kept.flatMap((p) => (p.kind === "start" ? [] : [p.elapsedMs])).at(-1) ?? 0;
          kept.push(
            passage.kind === "start"
              ? passage
              : { ...passage, sinceLastMs: passage.elapsedMs - last },
          );
        }
        const record = flowRecord(events);
        expect(record.passages).toEqual(kept);
        for (const { enteredSeq: seq, blockedMs, readyMs } of record.stays)
          expect([seq, blockedMs, readyMs]).toEqual([
            seq,
            blocked.get(seq) ?? 0,
            ready.get(seq) ?? 0,
          ]);
      }),
      { numRuns: runs(200) },
    );
  });

  test("ready ends by a move, by taking it back and by a blocker; an undone move brings it back", () => {
    const subject = new Subject({ assigneeId: "noor" }).move("Ready").move("Building"); // at 3 s
    subject.do({ kind: "ready", on: true }); // 4 s
    expect(subject.item).toMatchObject({ readySince: 4_000, clock: [{ from: 2_000, to: null }] });
    subject.do({ kind: "ready", on: false }); // 5 s
    subject.do({ kind: "ready", on: true }); // 6 s
    subject.do({ kind: "block", blockId: "b", cause: "storm", waitingFor: null }); // 7 s
    expect(subject.item!.readySince).toBeNull();
    expect(refused(subject)).toMatchObject({
      sentence: "It is blocked: storm.",
    });
    subject.do({ kind: "lift", blockId: "b" }); // 8 s
    subject.do({ kind: "ready", on: true }); // 9 s
    subject.move("Ready", { reason: "no gauge" }); // 10 s
    expect(readiesOf(subject.events)).toEqual([
      { from: 4_000, to: 5_000 },
      { from: 6_000, to: 7_000 },
      { from: 9_000, to: 10_000 },
    ]);
    const [, , building] = flowRecord(subject.events).stays;
    expect(building).toMatchObject({ stateId: "Building", readyMs: 3_000, blockedMs: 1_000 });
    subject.undo();
    expect(subject.item).toMatchObject({ stateId: "Building", readySince: 9_000 });
    expect(readiesOf(subject.events).at(-1)).toEqual({ from: 9_000, to: null });
  });

  test("what nobody has started is not blocked, and by each other item once", () => {
    const dependency = { itemId: "other", key: "TIX-9" };
    const block = {
      kind: "block",
      blockId: "b",
      cause: "x",
      waitingFor: null,
      dependency,
    } as const;
    const asked = ({ item }: Subject) => decide(item, block, context({ at: 99_000 }));
    const subject = new Subject();
    expect(asked(subject)).toMatchObject({ sentence: "What nobody has started is not blocked." });
    subject.move("Ready").do(block);
    expect(subject.item!.openBlockers).toMatchObject([{ id: "b", dependencyId: "other" }]);
    expect(asked(subject)).toMatchObject({ sentence: "This blocks it already." });
  });

  test("only what is in progress can be ready", () => {
    const sentence = "Only what is in progress can be ready for its next step.";
    const subject = new Subject();
    expect(refused(subject)).toMatchObject({ sentence });
    subject.move("Closed", { outcome: "declined" });
    expect(refused(subject)).toMatchObject({ sentence });
  });

  test("overlapping blockers count once, what still goes on not yet, and each stay has its part", () => {
    const subject = new Subject({ assigneeId: "noor" }).move("Ready"); // at 2 s
    const block = (blockId: string) =>
      subject.do({ kind: "block", blockId, cause: "storm", waitingFor: null });
    const lift = (blockId: string) => subject.do({ kind: "lift", blockId });
    block("a"); // 3 s
    block("b"); // 4 s
    lift("a"); // 5 s
    subject.move("Building"); // 6 s: blocked for 3 s in Ready
    lift("b"); // 7 s: and 1 s in Building
    block("c"); // 8 s: goes on
    const blocked = flowRecord(subject.events).stays.map((s) => [s.stateId, s.blockedMs]);
    expect(blocked).toEqual([
      ["Backlog", 0],
      ["Ready", 3_000],
      ["Building", 1_000],
    ]);
  });

  test("going back to unstarted stops the clock, the next commitment starts it again, both intervals count", () => {
    const subject = new Subject().move("Ready").move("Backlog").move("Ready");
    expect(subject.item!.clock).toEqual([
      { from: 2_000, to: 3_000 },
      { from: 4_000, to: null },
    ]);
  });

  test("reopening keeps one history and clears the outcome", () => {
    const subject = new Subject()
      .move("Ready")
      .move("Closed", { outcome: "obsolete" })
      .move("Backlog", { reason: "wanted after all" });
    expect(subject.item).toMatchObject({ outcome: null, stateKind: "unstarted", returns: 1 });
    subject.move("Ready");
    expect(subject.item!.clock).toHaveLength(2);
  });

  const live = (outcome?: "delivered" | "obsolete") =>
    new Subject()
      .move("Ready")
      .move("Building", ANSWERS)
      .move("Waiting for review")
      .move("In review", ANSWERS)
      .move("Waiting for test", ANSWERS)
      .move("In test")
      .move("Ready to deploy")
      .move("Live", { outcome });

  test("the first delivery is kept through reopening, and only undoing takes it back", () => {
    const subject = live("delivered");
    const first = subject.item!.deliveredAt;
    expect(first).toBe(subject.item!.finishedAt);
    subject.move("Backlog", { reason: "not right yet" });
    expect(subject.item).toMatchObject({
      firstStartedAt: 2_000,
      deliveredAt: first,
      finishedAt: null,
    });
    subject.undo();
    expect(subject.item).toMatchObject({
      deliveredAt: first,
      finishedAt: first,
      outcome: "delivered",
    });
    const undone = live("delivered").undo();
    expect(undone.item).toMatchObject({
      firstStartedAt: 2_000,
      deliveredAt: null,
      finishedAt: null,
    });
    // What ends otherwise is finished, and not delivered.
    expect(live("obsolete").item).toMatchObject({ deliveredAt: null, finishedAt: 9_000 });
  });

  test("a step undone before histories told of milestones leaves the item as its clock says", () => {
    const subject = live("delivered");
    const [undone] = subject.undo().events.slice(-1);
    if (undone.kind !== "undone") throw new Error("nothing undone");
    const { firstStartedAt: _a, deliveredAt: _b, finishedAt: _c, ...older } = undone.new;
    expect(replay([...subject.events.slice(0, -1), { ...undone, new: older }])).toEqual(
      subject.item,
    );
  });

  test("an outcome named after the move, as follow-ups do, belongs to that finish and to no other", () => {
    const at = (seq: number, event: object) =>
      ({
        itemId: "item",
        seq,
        at: seq * 1_000,
        actorId: null,
        cause: "person",
        commandId: `${seq}`,
        ...event,
      }) as ItemEvent;
    const move = (seq: number, from: StateKind, to: StateKind) =>
      at(seq, {
        kind: "moved",
        old: { stateId: from, kind: from },
        new: { stateId: to, kind: to, isReturn: false, rank: null },
        note: null,
      });
    const outcome = (seq: number, old: string | null, is: string | null, when = seq) =>
      at(seq, { kind: "changed", field: "outcome", old, new: is, at: when * 1_000 });
    const begin = [
      at(1, { kind: "created", new: { ...created, stateKind: "working" } }),
      move(2, "working", "finished"),
      outcome(3, null, "declined", 2),
    ];
    expect(replay(begin)).toMatchObject({ finishedAt: 2_000, deliveredAt: null });
    const reopened = [...begin, outcome(4, "declined", null, 5), move(5, "finished", "working")];
    expect(replay(reopened)).toMatchObject({ finishedAt: null, deliveredAt: null });
    const delivered = [
      ...reopened,
      move(6, "working", "finished"),
      outcome(7, null, "delivered", 6),
    ];
    expect(replay(delivered)).toMatchObject({ finishedAt: 6_000, deliveredAt: 6_000 });
    expect(finishesOf(staysOf(delivered)).map((f) => [f.at, f.outcome, f.kind])).toEqual([
      [2_000, "declined", "stopped"],
      [6_000, "delivered", "delivered"],
    ]);
  });

  test("finishing lifts what blocks", () => {
    const subject = new Subject().move("Ready");
    subject.do({ kind: "block", blockId: "b", cause: "no device", waitingFor: null });
    subject.move("Closed", { outcome: "declined" });
    expect(subject.item).toMatchObject({ openBlockers: [], blockedSince: null });
  });

  test("events out of order, twice or without a beginning are errors", () => {
    const { events, item } = new Subject().move("Ready");
    expect(() => replay(events.slice(1))).toThrow("does not begin");
    expect(() => applyEvent(item, events[1])).toThrow("after");
    expect(() => replay([])).toThrow("without events");
  });
});

const edit = (subject: Subject, seenVersion: number, changes: object, changedSince: string[]) =>
  decide(
    subject.item,
    { kind: "edit", seenVersion, changes },
    context({ changedSince: () => changedSince as never }),
  );

describe("edits by several people", () => {
  test("a stale edit of the same field is shown, one of another field goes through", () => {
    const subject = new Subject();
    subject.do({ kind: "edit", seenVersion: 1, changes: { title: "Theirs" } });
    expect(edit(subject, 1, { title: "Mine" }, ["title"])).toMatchObject({
      refused: true,
      code: "conflict",
      conflict: [{ field: "title", current: "Theirs" }],
    });
    expect(edit(subject, 1, { estimate: 3 }, ["title"])).toMatchObject([
      { kind: "changed", field: "estimate", old: null, new: 3 },
    ]);
  });
  test("the same change made twice is no conflict and no event", () => {
    const subject = new Subject();
    subject.do({ kind: "edit", seenVersion: 1, changes: { title: "Same" } });
    expect(edit(subject, 1, { title: "Same" }, ["title"])).toEqual([]);
    expect(edit(subject, 1, { title: "  Same " }, ["title"])).toEqual([]);
  });
  test("a version from the future is refused", () => {
    expect(edit(new Subject(), 99, { title: "x" }, [])).toMatchObject({
      refused: true,
      code: "invalid",
    });
  });
});

describe("a fixed date", () => {
  const change = (subject: Subject, changes: object) =>
    edit(subject, subject.item!.version, changes, []);
  const asks = { refused: true, asks: [{ field: "dueOn", label: "Due" }] };

  test("is not without its date, neither at first nor later", () => {
    const subject = new Subject();
    expect(change(subject, { classOfService: "fixed date" })).toMatchObject(asks);
    const dated = { classOfService: "fixed date", dueOn: "2026-12-01" };
    expect(change(subject, dated)).toMatchObject([
      { kind: "changed", field: "classOfService" },
      { kind: "changed", field: "dueOn" },
    ]);
    const fixed = new Subject({ classOfService: "fixed date", dueOn: "2026-12-01" });
    expect(change(fixed, { dueOn: null })).toMatchObject(asks);
    expect(change(fixed, { dueOn: null, classOfService: "standard" })).toHaveLength(2);
  });

  test("that never had one can be changed in everything else", () => {
    const item = { ...new Subject().item!, classOfService: "fixed date" as const, dueOn: null };
    expect(refuseWithoutDate(item, { ...item })).toBeNull();
    expect(refuseWithoutDate(null, item)).toMatchObject(asks);
  });
});

describe("undo", () => {
  /** All that figures are made of, without the marks that something was undone. */
  const standing = ({ item, events }: Subject) => {
    const { version: _, updatedAt: _at, ...about } = item!;
    return { about, stays: staysOf(events), blocks: blocksOf(events) };
  };

  test("takes back a move with what it set; the history keeps both", () => {
    const subject = new Subject().move("Ready");
    const was = standing(subject);
    subject.do({ kind: "move", from: "Ready", to: "Building", answers: { assigneeId: "noor" } });
    subject.undo();
    expect(standing(subject)).toEqual(was);
    expect(subject.events.map((e) => e.kind)).toEqual([
      "created",
      "moved",
      "changed",
      "moved",
      "undone",
    ]);
  });

  test("is as if it had not been, whatever the step: snapshot, time in states, blockers, returns, clock", () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 25 }), fc.nat(3), (steps, more) => {
        const subject = walk(steps);
        const last = subject.events.at(-1)!;
        const own = subject.events.filter((e) => e.commandId === last.commandId);
        if (own.some((e) => e.kind === "created") || own.every((e) => e.kind === "commented"))
          return;
        const earlier = subject.events.slice(0, -own.length);
        const was = standing({ item: replay(earlier), events: earlier } as Subject);
        const is = standing(subject);
        subject.undo();
        expect(standing(subject)).toEqual(was);
        expect(replay(subject.events)).toEqual(subject.item);
        // Undoing that again, and again, goes back and forth and never astray.
        for (let i = 0; i < more; i++)
          expect(standing(subject.undo())).toEqual(i % 2 === 0 ? is : was);
      }),
      { numRuns: runs(200) },
    );
  });

  test("a finish by mistake leaves no finish, no return, and what blocked it blocks it since before", () => {
    const subject = new Subject().move("Ready");
    subject.do({ kind: "block", blockId: "b", cause: "no device", waitingFor: null });
    const since = subject.item!.blockedSince;
    subject.move("Closed", { outcome: "declined" }).undo();
    expect(subject.item).toMatchObject({
      stateId: "Ready",
      outcome: null,
      blockedSince: since,
      openBlockers: [{ id: "b" }],
      clock: [{ from: 2_000, to: null }],
      returns: 0,
    });
    expect(blocksOf(subject.events)).toMatchObject([{ blockId: "b", to: null }]);
    expect(staysOf(subject.events).map((s) => s.stateId)).toEqual(["Backlog", "Ready"]);
  });

  test("what came after an undone step counts from where the item really was", () => {
    const subject = new Subject()
      .move("Ready")
      .move("Building", { assigneeId: "noor" })
      .undo()
      .move("Building", { assigneeId: "ivo" });
    expect(staysOf(subject.events).map(({ stateId, from, to }) => [stateId, from, to])).toEqual([
      ["Backlog", 1_000, 2_000],
      ["Ready", 2_000, 5_000],
      ["Building", 5_000, null],
    ]);
  });

  test("not when something came after, not by another person, not a comment, a link or its making", () => {
    const subject = new Subject().move("Ready");
    const undoneId = subject.events.at(-1)!.commandId;
    const undo = (change = {}, id = undoneId) =>
      decide(
        subject.item,
        { kind: "undo", undoneId: id, history: subject.events },
        context(change),
      );
    expect(undo({ actorId: "ivo" })).toMatchObject({ code: "not allowed" });
    expect(undo({}, "unknown")).toMatchObject({ code: "conflict" });
    subject.do({ kind: "comment", commentId: "c", body: "hm" });
    expect(undo()).toMatchObject({ code: "conflict" });
    expect(undo({}, subject.events.at(-1)!.commandId)).toMatchObject({ code: "invalid" });
    subject.do({
      kind: "link",
      linkId: "l",
      linkKind: "duplicates",
      otherId: "x",
      otherKey: "TIX-9",
      outward: true,
    });
    expect(undo({}, subject.events.at(-1)!.commandId)).toMatchObject({ code: "invalid" });
    const fresh = new Subject();
    expect(
      decide(
        fresh.item,
        { kind: "undo", undoneId: fresh.events[0].commandId, history: fresh.events },
        context(),
      ),
    ).toMatchObject({ code: "invalid" });
  });
});

test("a withdrawn item takes no more commands, and only an unstarted one can be withdrawn", () => {
  const subject = new Subject();
  subject.do({ kind: "withdraw", note: "undone" });
  expect(staysOf(subject.events).at(-1)!.to).toBe(subject.item!.withdrawnAt);
  expect(
    decide(subject.item, { kind: "comment", commentId: "c", body: "x" }, context()),
  ).toMatchObject({ code: "withdrawn" });
  expect(
    decide(new Subject().move("Ready").item, { kind: "withdraw", note: "" }, context()),
  ).toMatchObject({ code: "in use" });
});

test("history reads as sentences", () => {
  const names = {
    state: (id: string) => id,
    person: (id: string) => id,
    team: (id: string) => id,
    type: (id: string) => id,
    sprint: (id: string) => id,
    release: (id: string) => id,
    own: () => undefined,
  };
  const subject = new Subject().move("Ready").move("Building", { assigneeId: "Noor" });
  subject.do({ kind: "block", blockId: "b", cause: "no device", waitingFor: "the supplier" });
  subject.do({
    kind: "link",
    linkId: "l",
    linkKind: "duplicates",
    otherId: "x",
    otherKey: "TIX-9",
    outward: false,
  });
  expect(subject.events.map((e) => eventWords(e, names))).toEqual([
    "created it in Backlog",
    "moved it from Backlog to Ready",
    "set the assignee to Noor",
    "moved it from Ready to Building",
    "marked it blocked: no device, waiting for the supplier",
    "linked it: is duplicated by TIX-9",
  ]);
});

/** Which ranks stand next to each other among some. */
const among = (ranks: readonly string[]): Neighbours => {
  const order = [...ranks].sort(compareRanks);
  return {
    above: (rank) => order[order.indexOf(rank) - 1] ?? null,
    below: (rank) => order[order.indexOf(rank) + 1] ?? null,
  };
};

describe("rank", () => {
  test("there is always room between two, and the order of bytes is the order of places", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(1000), { maxLength: 60 }), (choices) => {
        const order: string[] = [];
        for (const choice of choices) {
          const at = choice % (order.length + 1);
          order.splice(at, 0, rankBetween(order[at - 1] ?? null, order[at] ?? null));
        }
        expect([...order].sort(compareRanks)).toEqual(order);
        expect([...order].sort((a, b) => Buffer.compare(Buffer.from(a), Buffer.from(b)))).toEqual(
          order,
        );
        expect(new Set(order).size).toBe(order.length);
      }),
    );
  });
  test("many at once, and none between neighbours in the wrong order", () => {
    const many = ranksBetween("a0", "a1", 500);
    expect(many).toHaveLength(500);
    expect([...many].sort(compareRanks)).toEqual(many);
    expect(() => rankBetween("a1", "a0")).toThrow();
  });
  test("another order changes as few ranks as there can be, and gives that order", () => {
    fc.assert(
      fc.property(fc.array(fc.nat(999), { minLength: 1, maxLength: 9 }), (keys) => {
        const ranks = ranksBetween(null, null, keys.length);
        const wanted = keys
          .map((key, i) => ({ id: `${i}`, key, rank: ranks[i] }))
          .sort((a, b) => a.key - b.key);
        // Others stand between them that are not of this list.
        const others = ranks.map((rank, i) => rankBetween(rank, ranks[i + 1] ?? null));
        const moved = ranksForOrder(wanted, among([...ranks, ...others]));
        const after = wanted.map((w) => moved.get(w.id) ?? w.rank);
        expect([...after].sort(compareRanks)).toEqual(after);
        // Nobody gets another's rank, and who moved stands directly after whom it follows.
        expect(new Set([...after, ...others]).size).toBe(after.length + others.length);
        wanted.forEach((w, i) => {
          if (i === 0 || !moved.has(w.id)) return;
          expect(others.filter((o) => o > after[i - 1] && o < after[i])).toEqual([]);
        });
        // By trying every choice of what may stay.
        let most = 0;
        for (let choice = 1; choice < 1 << wanted.length; choice++) {
          const stay = wanted.filter((_, i) => choice & (1 << i)).map((w) => w.rank);
          if (stay.every((rank, i) => i === 0 || stay[i - 1] < rank))
            most = Math.max(most, stay.length);
        }
        expect(moved.size).toBe(wanted.length - most);
      }),
    );
  });
  test("two that change places write one rank", () => {
    const ranks = ranksBetween(null, null, 200);
    const order = ranks.map((rank, i) => ({ id: `${i}`, rank }));
    [order[50], order[51]] = [order[51], order[50]];
    expect(ranksForOrder(order, among(ranks)).size).toBe(1);
    const asIs = ranks.map((rank, i) => ({ id: `${i}`, rank }));
    expect(ranksForOrder(asIs, among(ranks)).size).toBe(0);
  });
});
