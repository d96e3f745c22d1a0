import { choicesOffered, suggestions } from "@/core/view/suggest";
import { partText, type NamedCondition } from "@/core/view/filter-words";
import { VOCABULARY } from "./setup/conditions";

const NAMED: NamedCondition[] = [
  {
    id: "n1",
    name: "waits for us",
    condition: { kind: "compare", fact: "stateKind", op: "is", value: "waiting" },
  },
];
/** What is offered for a text, as it is read: parts by what they would say, fields by their names. */
const offered = (text: string) =>
  suggestions(text, VOCABULARY, NAMED).map((s) =>
    s.kind === "part" ? partText(s.part, VOCABULARY, NAMED) : s.label,
  );

test.each([
  ["bug", "type Bug"],
  ["BUG", "type Bug"],
  ["fog", "the title contains “fog”"],
  ["waits", "waits for us"],
  ["team quay", "team Quayside"],
  ["age 5", "the age is at least 5 days"],
  ["blocked", "it is blocked"],
  ["me", "assignee me"],
  ["estimate > 3 and blocked", "the estimate is more than 3 and it is blocked"],
  ["current", "sprint the current sprint"],
])("“%s” and Enter is: %s", (text, part) => expect(offered(text)[0]).toBe(part));

test("a trade stands for everybody of it, behind a field and without one", () => {
  const people = VOCABULARY.people.map((one, i) => ({
    ...one,
    trades: i < 2 ? ["pilot", "tester"] : [],
  }));
  const [first, second] = people;
  const found = (text: string) => suggestions(text, { ...VOCABULARY, people }, NAMED);
  expect(found("pilot")[0]).toMatchObject({
    kind: "part",
    part: { fact: "assigneeId", op: "one of", value: [first.id, second.id] },
  });
  expect(found("reviewer pil")[0]).toMatchObject({ part: { fact: "reviewerId" } });
  expect(offered("pilot")).toEqual(["the title contains “pilot”"]);
});

test("a field, its values, and words in the title stand side by side", () => {
  expect(offered("assig")).toEqual(["the title contains “assig”", "assignee …"]);
  expect(offered("quay")).toEqual(
    expect.arrayContaining(["team Quayside", "the title contains “quay”"]),
  );
});

test("without a text the named conditions and every field are offered, so that all can be found", () => {
  const all = offered("");
  expect(all[0]).toBe("waits for us");
  expect(all).toEqual(expect.arrayContaining(["priority …", "age …", "days in state …"]));
  expect(all.length).toBeGreaterThan(25);
});

test("what is half written is no condition, and offers no more than can be looked through", () => {
  expect(offered("estimate >")[0]).toBe("the title contains “estimate >”");
  expect(offered("a").length).toBeLessThanOrEqual(30);
  expect(offered("x".repeat(400))).toEqual([`the title contains “${"x".repeat(400)}”`]);
});

test("of a choice its words come first, and nothing where it may say nothing", () => {
  expect(choicesOffered("sprintId", VOCABULARY).slice(0, 6)).toEqual([
    { sprint: "current" },
    { sprint: "next" },
    { sprint: "previous" },
    { sprint: "after next" },
    { sprint: "last three" },
    null,
  ]);
  expect(choicesOffered("priority", VOCABULARY)).toEqual(["low", "normal", "high", "urgent"]);
  expect(choicesOffered("assigneeId", VOCABULARY)[0]).toEqual({ who: "me" });
});
