import { completions } from "@/core/condition/complete";
import { FACT_NAMES } from "@/core/condition/facts";
import { factsOffered } from "@/core/condition/vocabulary";
import { VOCABULARY } from "./setup/conditions";

const at = (text: string, cursor = text.length) => completions(text, cursor, VOCABULARY);
const inserts = (text: string, cursor?: number) => at(text, cursor).map((c) => c.insert);

test.each<[string, string[]]>([
  ["item.sprint ", ["== ", "!= ", "in [ "]],
  ["item.blocked ", ["== "]],
  ["item.title ", ["== ", "!= "]],
  ["item.estimate ", [">= ", "<= ", "> ", "< ", "== ", "!= "]],
  ["item.team == ", ["my_teams", '"Ticketing"', '"Quayside"', "null"]],
  [
    "item.sprint == ",
    [
      "current_sprint",
      "next_sprint",
      "previous_sprint",
      "after_next_sprint",
      '"Sprint 1"',
      '"Sprint 2"',
      "null",
    ],
  ],
  [
    "item.due < ",
    [
      "day(0)",
      "day(7)",
      "item.planned_from",
      "item.planned_to",
      "item.first_sailing",
      "item.sprint_ends",
      "null",
    ],
  ],
  ['item.type in ["Bug", ', ['"Bug"', '"Story"']],
  ["item.type in [", ['"Bug"', '"Story"']],
  ["item.route == ", ['"North run"', '"Isle run"', "null"]],
  ['item.type == "Bug" ', ["&& ", "|| "]],
  ["(item.blocked && item.type == ", ['"Bug"', '"Story"']],
  ["item.type == B", ['"Bug"']],
])("after %s", (text, expected) => expect(inserts(text)).toEqual(expected));

test.each(["", "(", "!", "item.blocked && ", "item.blocked || ", 'item.type == "Bug" && ('])(
  "after %j a fact begins",
  (text) => {
    const offered = at(text);
    expect(offered[0]).toEqual({
      insert: "item.",
      label: "item.",
      note: "a fact of the item",
      from: text.length,
    });
    expect(offered.slice(1, 4).map(({ label }) => label)).toEqual([
      "children.exists(…)",
      "children.all(…)",
      "parent.exists(…)",
    ]);
    expect(offered[4].insert).toMatch(/^item\.[a-z_]+ $/);
    expect(offered).toHaveLength(Math.min(40, 4 + factsOffered(VOCABULARY).length));
  },
);

test("a name that is begun is found by its label and by how it is written, whatever the case", () => {
  expect(inserts("item.DAYS")).toEqual([
    "days_in_state",
    "days_since_created",
    "days_blocked",
    "days_ready",
  ]);
  expect(inserts("item.creat")).toEqual(["creator", "days_since_created"]);
  expect(inserts("item.state_k")).toEqual(["state_kind"]);
  expect(inserts("item.zzz")).toEqual([]);
});

test("what is begun is put in place of, from where it begins; what follows the cursor stays", () => {
  expect(at("item.sev")).toEqual([
    { insert: "severity", label: "severity", note: "choice", from: 5 },
  ]);
  expect(at("item.sev == 3", 8)).toEqual([
    { insert: "severity", label: "severity", note: "choice", from: 5 },
  ]);
});

test("each is told in a word", () => {
  const notes = (text: string) => Object.fromEntries(at(text).map((c) => [c.insert, c.note]));
  expect(notes("item.assignee == ")).toMatchObject({
    me: "whoever looks",
    "item.reviewer": "another fact",
    null: "not set",
  });
  expect(notes("item.team == ")).toMatchObject({ my_teams: "of whoever looks" });
  expect(notes("item.sprint == ")).toMatchObject({ next_sprint: "whichever it is then" });
  expect(notes("item.due == ")).toMatchObject({ "day(0)": "today", "day(7)": "in a week" });
  expect(at("item.estimate ").map((c) => c.label)).toContain(">=  at least");
  expect(at("item.type ").map((c) => c.label)).toContain("in  one of");
  for (const whole of [
    "item.blocked == true ",
    "item.assignee == item.reviewer ",
    "item.assignee == me ",
  ])
    expect(at(whole).map((c) => c.label)).toEqual(["&&  and", "||  or"]);
});

test("what may not be empty is not offered null", () => {
  expect(inserts("item.priority == ")).not.toContain("null");
  expect(inserts("item.priority == ")).toContain('"high"');
});

test("after a name that is no fact nothing is compared", () => {
  expect(inserts("item.zzz ")).toEqual(["&& ", "|| "]);
  expect(FACT_NAMES.length).toBeGreaterThan(20);
});
