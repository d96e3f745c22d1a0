import fc from "fast-check";
import { isAtRisk } from "@/core/alerts/at-risk";
import { concernsOf } from "@/core/alerts/concern";
import { happenedIn, HAPPENED_KINDS, type Happened } from "@/core/alerts/happened";
import {
  awayWords,
  lastDigest,
  mayWriteAt,
  usualHours,
  worksOn,
  type PersonHours,
} from "@/core/alerts/hours";
import { laterChoices } from "@/core/alerts/later";
import { alertLetter, digestLetter, MOST_IN_DIGEST, type ToldOfItem } from "@/core/alerts/letter";
import { personHoursSchema } from "@/core/alerts/hours";
import { STANDARD_RULE_IDS, standardRule, type Ties } from "@/core/alerts/standard-rules";
import { belongsTo, closesAt } from "@/core/alerts/together";
import { waysTogether, MAIL_WAYS, type Ways } from "@/core/alerts/ways";
import { HOUR, MINUTE } from "@/core/calendar/instant";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { ItemChange, ItemEvent } from "@/core/item/event";

const NOBODY: Ties = {
  assignee: [],
  reviewer: [],
  reviewing: [],
  maker: [],
  testers: [],
  followers: [],
  showed: [],
  near: [],
};
const event = (seq: number, change: ItemChange, more: Partial<ItemEvent> = {}): ItemEvent =>
  ({
    itemId: "i",
    seq,
    at: 0,
    actorId: "ada",
    cause: "person",
    commandId: "c",
    ...change,
    ...more,
  }) as ItemEvent;
const STATES: Record<string, { ofReview: boolean; ofTest: boolean }> = {
  build: { ofReview: false, ofTest: false },
  "review waits": { ofReview: true, ofTest: false },
  review: { ofReview: true, ofTest: false },
  test: { ofReview: false, ofTest: true },
};
const moved = (from: string, to: string, isReturn = false): ItemChange => ({
  kind: "moved",
  old: { stateId: from, kind: from === "done" ? "finished" : "working" },
  new: { stateId: to, kind: to === "done" ? "finished" : "working", isReturn, rank: null },
  note: null,
});
const kindsIn = (...changes: ItemChange[]) =>
  happenedIn(
    changes.map((change, i) => event(i + 1, change)),
    (id) => STATES[id] ?? { ofReview: false, ofTest: false },
  ).map(({ kind }) => kind);

describe("what steps of a history amount to", () => {
  test.each<[string, ItemChange[], Happened["kind"][]]>([
    ["a move", [moved("build", "built")], ["moved"]],
    ["a move into the review", [moved("build", "review waits")], ["moved", "for review"]],
    ["a move within the review", [moved("review waits", "review")], ["moved"]],
    ["a move to the test", [moved("review", "test")], ["moved", "for test"]],
    ["a move back", [moved("test", "build", true)], ["sent back"]],
    ["the end", [moved("test", "done")], ["finished"]],
    ["a new beginning", [moved("done", "build", true)], ["reopened"]],
    [
      "another assignee",
      [{ kind: "changed", field: "assigneeId", old: "bo", new: "cy" }],
      ["given away", "given"],
    ],
    ["no reviewer", [{ kind: "changed", field: "reviewerId", old: "bo", new: null }], ["changed"]],
    [
      "a date",
      [{ kind: "changed", field: "dueOn", old: null, new: "2026-12-01" }],
      ["due changed"],
    ],
    [
      "haste",
      [{ kind: "changed", field: "classOfService", old: "standard", new: "expedite" }],
      ["expedited"],
    ],
    ["another place in the order", [{ kind: "ranked", old: "a", new: "b" }], []],
    [
      "a comment that names and asks",
      [
        {
          kind: "commented",
          new: { commentId: "k", body: "x", named: { people: ["bo"], teams: [] }, asks: ["bo"] },
        },
      ],
      ["commented", "named", "asked"],
    ],
  ])("%s", (_name, changes, kinds) => expect(kindsIn(...changes)).toEqual(kinds));

  test("a reviewer who is named while it stands in its review has it before them", () => {
    const named = event(1, { kind: "changed", field: "reviewerId", old: null, new: "bo" });
    const kinds = (at: string) =>
      happenedIn([named], (id) => STATES[id], STATES[at]).map(({ kind }) => kind);
    expect(kinds("review waits")).toEqual(["review given", "for review"]);
    expect(kinds("build")).toEqual(["review given"]);
  });

  test("what a requester says is an answer, not a comment", () => {
    const said = event(
      1,
      { kind: "commented", new: { commentId: "k", body: "x" } },
      { cause: "requester", actorId: null },
    );
    expect(happenedIn([said], () => STATES.build).map(({ kind }) => kind)).toEqual(["answered"]);
  });
});

describe("whom it concerns", () => {
  const concerns = (happened: Partial<Happened>[], ties: Partial<Ties>, doers: string[] = []) =>
    Object.fromEntries(
      concernsOf({
        happened: happened.map((one, i) => ({
          kind: "moved",
          seq: i + 1,
          people: [],
          teams: [],
          ...one,
        })),
        ties: { ...NOBODY, ...ties },
        membersOf: (team) => (team === "quay" ? ["bo", "cy"] : []),
        doers: new Set(doers),
      }),
    );

  test("a rule beats mere following, and each step is told once", () => {
    const told = concerns([{ kind: "blocked" }, { kind: "changed" }], {
      assignee: ["bo"],
      followers: ["bo", "cy"],
    });
    expect(told).toEqual({
      bo: { rules: ["stuck"], seqs: [1, 2] },
      cy: { rules: ["follows"], seqs: [1, 2] },
    });
  });

  test("a team that is named is each of its members, but nobody hears of their own doing", () => {
    const told = concerns([{ kind: "named", teams: ["quay"] }], { assignee: ["bo"] }, ["cy"]);
    expect(told).toEqual({ bo: { rules: ["named"], seqs: [1] } });
  });

  test("whoever had the item and whoever has it now hear of it, and nobody else", () => {
    const told = concerns(
      [
        { kind: "given away", people: ["bo"] },
        { kind: "given", people: ["cy"] },
      ],
      { reviewer: ["di"], maker: ["ed"] },
    );
    expect(Object.keys(told).toSorted()).toEqual(["bo", "cy"]);
  });

  test("testers hear when it comes to be tested, reviewers when to its review", () => {
    expect(concerns([{ kind: "for test" }], { testers: ["bo"], reviewing: ["cy"] })).toEqual({
      bo: { rules: ["test"], seqs: [1] },
    });
    expect(concerns([{ kind: "for review" }], { testers: ["bo"], reviewing: ["cy"] })).toEqual({
      cy: { rules: ["review"], seqs: [1] },
    });
  });

  test("nobody who did it is ever told, whatever happened", () => {
    const person = fc.constantFrom("a", "b", "c", "d");
    const people = fc.uniqueArray(person, { maxLength: 3 });
    const happened = fc.record({
      kind: fc.constantFrom(...HAPPENED_KINDS),
      people,
      teams: fc.constantFrom([], ["quay"]),
    });
    const ties = fc.record({
      assignee: people,
      reviewer: people,
      reviewing: people,
      maker: people,
      testers: people,
      followers: people,
      near: people,
    });
    fc.assert(
      fc.property(fc.array(happened, { maxLength: 5 }), ties, people, (all, tied, doers) => {
        const told = concerns(all, tied, doers);
        for (const doer of doers) expect(told[doer]).toBeUndefined();
        // Whoever follows is told of all of it, unless they did it.
        if (all.length > 0)
          for (const follower of tied.followers)
            if (!doers.includes(follower)) expect(told[follower].seqs).toHaveLength(all.length);
      }),
    );
  });

  test("every kind that can happen is told to whoever follows", () => {
    for (const kind of HAPPENED_KINDS)
      expect(concerns([{ kind }], { followers: ["bo"] }).bo).toBeDefined();
  });
});

describe("how somebody hears", () => {
  const ways = (mail: Ways["mail"], off = false, feed = false): Ways => ({ mail, off, feed });

  test("the soonest mail of the rules that are on, once", () => {
    expect(waysTogether([ways("weekly"), ways("morning", false, true)])).toEqual({
      mail: "morning",
      feed: true,
    });
    expect(waysTogether([ways("none"), ways("at once", true)])).toEqual({
      mail: "none",
      feed: false,
    });
    expect(waysTogether([ways("at once", true)])).toBeNull();
  });

  test("never later than any of its rules alone", () => {
    const way = fc.record({
      off: fc.boolean(),
      mail: fc.constantFrom(...MAIL_WAYS),
      feed: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(way, { minLength: 1 }), (all) => {
        const together = waysTogether(all);
        const on = all.filter(({ off }) => !off);
        expect(together === null).toBe(on.length === 0);
        const place = (mail: Ways["mail"]) => MAIL_WAYS.indexOf(mail);
        if (together)
          expect(place(together.mail)).toBe(Math.min(...on.map(({ mail }) => place(mail))));
      }),
    );
  });

  test("by default only what is asked of somebody comes as a mail at once", () => {
    const atOnce = STANDARD_RULE_IDS.filter((id) => standardRule(id).ways.mail === "at once");
    expect(atOnce).toEqual([
      ...["named", "asked", "review", "test", "expedite", "shown", "accepting"],
    ]);
    expect(standardRule("follows").ways.mail).toBe("none");
  });

  test("things are one alert within five minutes of the last and fifteen of the first", () => {
    const stretch = { firstAt: 0, lastAt: 9 * MINUTE };
    expect(belongsTo(stretch, 14 * MINUTE)).toBe(true);
    expect(belongsTo(stretch, 14 * MINUTE + 1)).toBe(false);
    expect(belongsTo({ firstAt: 0, lastAt: 12 * MINUTE }, 15 * MINUTE + 1)).toBe(false);
    expect(closesAt(stretch)).toBe(14 * MINUTE);
    expect(closesAt({ firstAt: 0, lastAt: 14 * MINUTE })).toBe(15 * MINUTE);
  });
});

describe("when somebody may be written to", () => {
  // 2026-11-27 is a Friday; London keeps UTC in winter.
  const at = (day: string, hour: number) => Date.parse(`${day}T00:00:00Z`) + hour * HOUR;
  const hours = usualHours("Europe/London");

  test.each([
    ["by day", at("2026-11-27", 12), at("2026-11-27", 12)],
    ["in the evening: on Monday", at("2026-11-27", 21), at("2026-11-30", 7)],
    ["before seven", at("2026-11-27", 6), at("2026-11-27", 7)],
    ["at the weekend", at("2026-11-28", 12), at("2026-11-30", 7)],
  ])("%s", (_name, now, then) => expect(mayWriteAt(hours, now)).toBe(then));

  test("not on days off, and at any hour of a working day without quiet hours", () => {
    const away = { ...hours, daysOff: [{ from: "2026-11-27", to: "2026-12-01" }] };
    expect(mayWriteAt(away, at("2026-11-27", 12))).toBe(at("2026-12-02", 7));
    expect(mayWriteAt({ ...hours, quiet: null }, at("2026-11-27", 23))).toBe(at("2026-11-27", 23));
  });

  test("the last digest is that of the last working morning; the weekly one of its day", () => {
    expect(lastDigest(hours, "morning", at("2026-11-29", 12))).toBe(at("2026-11-27", 7.5));
    expect(lastDigest(hours, "morning", at("2026-11-27", 7))).toBe(at("2026-11-26", 7.5));
    expect(lastDigest(hours, "weekly", at("2026-11-29", 12))).toBe(at("2026-11-23", 7.5));
    // Its Monday is a day off: the next working day has it.
    const away = { ...hours, daysOff: [{ from: "2026-11-23", to: "2026-11-23" }] };
    expect(lastDigest(away, "weekly", at("2026-11-29", 12))).toBe(at("2026-11-24", 7.5));
  });

  test("always on a working day and outside the quiet hours, and never before", () => {
    const minute = fc.integer({ min: 0, max: 1439 });
    const anyHours: fc.Arbitrary<PersonHours> = fc.record({
      zone: fc.constantFrom("Europe/London", "Pacific/Auckland", "America/St_Johns"),
      workDays: fc.uniqueArray(fc.integer({ min: 0, max: 6 }), { minLength: 1 }),
      hoursADay: fc.constant(8),
      quiet: fc.option(
        fc.record({ from: minute, to: minute }).filter(({ from, to }) => from !== to),
      ),
      morningAt: minute,
      weeklyOn: fc.integer({ min: 0, max: 6 }),
      daysOff: fc.constant([{ from: "2026-11-20", to: "2026-11-29" }]),
    });
    const now = fc.integer({ min: at("2026-10-01", 0), max: at("2026-12-31", 0) });
    fc.assert(
      fc.property(anyHours, now, (own, asked) => {
        const then = mayWriteAt(own, asked);
        expect(then).toBeGreaterThanOrEqual(asked);
        expect(worksOn(own, isoDate(dayNumber(then, own.zone)))).toBe(true);
        expect(mayWriteAt(own, then)).toBe(then);
        const digest = lastDigest(own, "weekly", asked);
        expect(digest).toBeLessThanOrEqual(asked);
        expect(worksOn(own, isoDate(dayNumber(digest, own.zone)))).toBe(true);
      }),
    );
  });

  test("who is away, and who soon will be, is said", () => {
    const away = (daysOff: PersonHours["daysOff"]) =>
      awayWords({ ...hours, daysOff }, at("2026-11-27", 12));
    expect(away([])).toBeNull();
    expect(away([{ from: "2026-11-20", to: "2026-12-03" }])).toBe("away until 3 Dec");
    expect(away([{ from: "2026-12-04", to: "2026-12-05" }])).toBe("away from 4 Dec");
    expect(away([{ from: "2026-12-05", to: "2026-12-05" }])).toBeNull();
    expect(away([{ from: "2026-11-20", to: "2026-11-26" }])).toBeNull();
  });

  test("hours that cannot be kept are refused in words", () => {
    const { daysOff: _, ...own } = hours;
    const said = (change: object) =>
      personHoursSchema.safeParse({ ...own, daysOff: [], ...change }).error?.issues[0].message;
    expect(said({})).toBeUndefined();
    expect(said({ workDays: [] })).toMatch(/working day/);
    expect(said({ zone: "Saltmarsh" })).toMatch(/zone/);
    expect(said({ daysOff: [{ from: "2026-12-02", to: "2026-12-01" }] })).toMatch(/before/);
  });
});

test.each([
  ["in time", "2026-12-10", 2, 9, false],
  ["on its very day", "2026-12-04", 2, 9, false],
  ["a day too late", "2026-12-03", 2, 9, true],
  ["older than 85 %, due tomorrow", "2026-11-28", 12, 9, false],
  ["not begun", "2026-12-05", 0, 9, true],
  ["over already", "2026-11-26", 0, 9, false],
  ["too few have finished", "2026-11-28", 0, null, false],
])("a date is at risk when 85 %% would be done after it: %s", (_name, dueOn, age, p85, risk) =>
  expect(isAtRisk({ dueOn, today: "2026-11-27", age, p85 })).toBe(risk),
);

test("something is put off until a time that is still to come, in growing order", () => {
  for (let day = 0; day < 7; day++) {
    const now = new Date(2026, 10, 23 + day, 9, 30);
    const untils = laterChoices(now).map(({ until }) => until);
    expect(untils.every((until) => until > now.getTime())).toBe(true);
    expect(untils).toEqual(untils.toSorted((a, b) => a - b));
    expect(new Set(untils).size).toBe(untils.length);
  }
  expect(laterChoices(new Date(2026, 10, 27, 9)).map(({ until }) => until)).toContain(
    new Date(2026, 10, 30, 8).getTime(),
  );
});

describe("the words of a mail", () => {
  const told = (more: Partial<ToldOfItem> = {}): ToldOfItem => ({
    itemKey: "TIX-1",
    title: "Gate <b>stuck</b>",
    stateName: "Building",
    projectName: "Ticket app",
    why: ["names you"],
    lines: [
      {
        who: "Ada",
        words: "commented",
        said: 'see <script>"x"</script>',
        commentId: null,
        at: 0,
        ids: [],
      },
    ],
    page: "http://localhost/p/TIX/items/TIX-1",
    ...more,
  });
  const ways = {
    stop: "http://localhost/stop/x",
    rules: "http://localhost/account/alerts",
    answerable: true,
  };

  test("say the same in both forms, and nothing that somebody wrote is markup", () => {
    const { subject, text, html } = alertLetter(told(), ways);
    expect(subject).toBe("[TIX-1] Gate <b>stuck</b>");
    for (const words of ["TIX-1", "Ada commented", "names you", ways.stop, "becomes a comment"]) {
      expect(text).toContain(words);
      expect(html).toContain(words);
    }
    expect(html).not.toContain("<script>");
    expect(html).not.toContain("<b>stuck");
    expect(html).toContain("&lt;script&gt;&quot;x&quot;");
  });

  test("a title with line ends makes no second header", () => {
    const { subject } = alertLetter(told({ title: "a\r\nBcc: b@c.example" }), ways);
    expect(subject).not.toMatch(/[\r\n]/);
  });

  test("a digest of very many items says how many it leaves out", () => {
    const all = Array.from({ length: 5_000 }, (_, i) => told({ itemKey: `TIX-${i + 1}` }));
    const { subject, text } = digestLetter(
      all,
      { title: "Since yesterday", list: "http://localhost/", more: 7 },
      { ...ways, stop: null },
    );
    expect(subject).toBe("Since yesterday: 5,007 items");
    expect(text.match(/^TIX-\d+ /gm)).toHaveLength(MOST_IN_DIGEST);
    expect(text).toContain(`And ${(5_007 - MOST_IN_DIGEST).toLocaleString("en")} more items`);
  });
});
