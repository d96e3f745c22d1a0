import fc from "fast-check";
import { DAY, HOUR } from "@/core/calendar/instant";
import { acceptanceLetter } from "@/core/ship/acceptance/acceptance-letter";
import { acceptanceRows } from "@/core/ship/acceptance/acceptance-rows";
import type { AcceptanceView, ShowingView } from "@/core/ship/acceptance/acceptance-view";
import { answeredOf, type Answered } from "@/core/ship/acceptance/answer";
import { ENOUGH, isEnough, stillMissing } from "@/core/ship/acceptance/enough";
import { closedBecause, closesOn, isToBeReminded } from "@/core/ship/acceptance/showing";
import { acceptanceBody, shownItemBody } from "@/core/ship/acceptance/shown-item";

describe("how many have to accept", () => {
  test.each([
    ["everybody", 3, 2, false, 1],
    ["everybody", 3, 3, true, 0],
    // What nobody was asked is accepted by nobody.
    ["everybody", 0, 0, false, 1],
    ["1", 3, 1, true, 0],
    ["2", 3, 1, false, 1],
    // More are wanted than were asked: their all accepting it is not enough.
    ["2", 1, 1, false, 1],
  ] as const)("%s of %d asked, %d given: %s, %d missing", (by, asked, given, enough, missing) => {
    expect(isEnough(by, { asked, given })).toBe(enough);
    expect(stillMissing(by, { asked, given })).toBe(missing);
  });

  test("it is enough exactly when nothing is missing", () =>
    fc.assert(
      fc.property(
        fc.constantFrom(...ENOUGH),
        fc.integer({ min: 0, max: 9 }),
        fc.integer({ min: 0, max: 9 }),
        (by, asked, more) => {
          const accepted = { asked, given: Math.min(asked, more) };
          expect(isEnough(by, accepted)).toBe(stillMissing(by, accepted) === 0);
        },
      ),
    ));
});

test.each([
  [null, ["a"], "waits"],
  [{ accepted: true, seen: ["a", "b"] }, ["a", "b"], "accepted"],
  // What was taken out of an environment again changes nothing of what they saw.
  [{ accepted: true, seen: ["a", "b"] }, ["a"], "accepted"],
  [{ accepted: true, seen: ["a"] }, ["a", "b"], "changed since"],
  [{ accepted: true, seen: [] }, [], "accepted"],
  [{ accepted: false, seen: ["a"] }, ["a", "b"], "missing"],
] as const)("by %j, with %j deployed, it %s", (last, deployed, answered) =>
  expect(answeredOf(last, deployed)).toBe(answered),
);

describe("how long it is shown", () => {
  const asked = Date.parse("2026-11-01T10:00:00Z");
  const of = {
    ...{ askedAt: asked, until: closesOn(asked), revokedAt: null },
    ...{ reminders: 0, remindedAt: null },
  };

  test("thirty days, or until it is taken back", () => {
    expect(closedBecause(of, asked + 30 * DAY - 1)).toBeNull();
    expect(closedBecause(of, asked + 30 * DAY)).toBe("over");
    expect(closedBecause({ ...of, revokedAt: asked }, asked + 40 * DAY)).toBe("taken back");
  });

  test("reminders come after 4, 11 and 25 days, each once, and never within a day of another", () => {
    const due = (reminders: number, days: number, remindedAt: number | null = null) =>
      isToBeReminded({ ...of, reminders, remindedAt }, asked + days * DAY);
    expect([due(0, 3.9), due(0, 4), due(1, 10.9), due(1, 11), due(2, 25), due(3, 29)]).toEqual([
      ...[false, true, false, true, true, false],
    ]);
    expect(due(0, 4, asked + 4 * DAY - HOUR)).toBe(false);
    expect(due(1, 31)).toBe(false);
    expect(isToBeReminded({ ...of, revokedAt: asked }, asked + 5 * DAY)).toBe(false);
  });
});

describe("the letter", () => {
  const about = {
    ...{ projectName: "Ticket app", words: "", page: "http://x/a/1", until: "2026-12-01" },
  };

  test("names what is shown, the page, and until when it is there", () => {
    const { subject, body } = acceptanceLetter("asked", { ...about, titles: ["Seats"] });
    expect(subject).toBe("Ticket app: please have a look at Seats");
    expect(body).toContain("- Seats");
    expect(body).toContain("http://x/a/1");
    expect(body).toContain("until 1 Dec");
  });

  test("of many it names twelve and says how many more", () => {
    const titles = Array.from({ length: 15 }, (_, i) => `Thing ${i}`);
    const { subject, body } = acceptanceLetter("reminded", { ...about, titles });
    expect(subject).toContain("15 things");
    expect(body).toContain("- Thing 11\nand 3 more");
  });
});

describe("what is sent", () => {
  test.each([
    ["https://test.example/a", true],
    ["", true],
    ["javascript:alert(1)", false],
    ["data:text/html,x", false],
    ["test.example", false],
  ])("the address %s is taken: %s", (address, taken) => {
    const body = { itemId: crypto.randomUUID(), title: "Seats", how: "", address };
    expect(shownItemBody.safeParse({ ...body, tested: true, pictures: [] }).success).toBe(taken);
  });

  test("what is missing has to be said; accepting needs no words, but a name", () => {
    const ok = (accepted: boolean, words: string, name = "Ottilie") =>
      acceptanceBody.safeParse({ itemIds: [crypto.randomUUID()], accepted, name, words }).success;
    expect([ok(true, ""), ok(false, " "), ok(false, "The price"), ok(true, "", " ")]).toEqual([
      ...[true, false, true, false],
    ]);
  });
});

describe("the items with whom they were shown to", () => {
  const showing = (
    itemId: string,
    answered: Answered,
    closed: ShowingView["closed"] = null,
  ): ShowingView =>
    ({
      ...{ id: `${itemId} ${answered} ${closed}`, closed },
      rows: [
        {
          ...{ itemId, key: itemId, title: "", typeId: "story", stateName: "", answered },
          said: answered === "waits" ? [] : [{ accepted: answered !== "missing" }],
        },
      ],
    }) as unknown as ShowingView;
  const rowsOf = (waiting: string[], ...showings: ShowingView[]) =>
    acceptanceRows({
      waiting: waiting.map((id) => ({ id, key: id, title: "", days: 3 })),
      showings,
    } as unknown as AcceptanceView).map(({ itemId, part, to }) => [itemId, part, to.length]);

  test.each<[string, ShowingView[], [string, number]]>([
    ["one misses something", [showing("A", "accepted"), showing("A", "missing")], ["missing", 2]],
    ["one has not spoken", [showing("A", "accepted"), showing("A", "waits")], ["waits", 2]],
    ["it changed since", [showing("A", "changed since")], ["waits", 1]],
    ["all accept it", [showing("A", "accepted"), showing("A", "accepted")], ["accepted", 2]],
    ["it was taken back without a word", [showing("A", "waits", "taken back")], ["unshown", 0]],
    [
      "one was taken back, and said that something is missing",
      [showing("A", "missing", "taken back"), showing("A", "accepted")],
      ["accepted", 2],
    ],
    ["its time is over", [showing("A", "waits", "over")], ["waits", 1]],
  ])("%s", (_, showings, [part, to]) =>
    expect(rowsOf(["A"], ...showings)).toEqual([["A", part, to]]),
  );

  test("what was shown, taken back, and is not waited for is nothing to look at", () => {
    expect(rowsOf([], showing("A", "waits", "taken back"), showing("B", "waits"))).toEqual([
      ["B", "waits", 1],
    ]);
  });
});
