import { lanesByField, NO_LANES } from "@/core/board/lanes-by";
import fc from "fast-check";
import { PLAIN_LOOK } from "@/core/view/look";
import { proposals, QUESTIONS, type KnownBoard } from "@/core/view/proposals";
import { LONGEST_SAID, readSaid } from "@/core/view/said";
import { partText } from "@/core/view/filter-words";
import { lookSchema } from "@/core/view/look";
import { VOCABULARY } from "./setup/conditions";

const read = (text: string) => readSaid(text, VOCABULARY, []);
const told = (text: string) => read(text).parts.map((part) => partText(part, VOCABULARY));

describe("what somebody wants to see, as they say it", () => {
  it("is read phrase by phrase", () => {
    const { by, sort, words } = read("urgent, not started, by team, oldest first");
    expect(told("urgent, not started, by team")).toEqual([
      "priority urgent",
      "kind of state unstarted",
    ]);
    expect([by, sort, words]).toEqual(["teamId", { fact: "age", descending: true }, []]);
  });

  it.each<[string, string[], string | null]>([
    ["mine and blocked", ["assignee me", "it is blocked"], null],
    ["in progress by who has it", ["kind of state waiting or working"], "assigneeId"],
    ["only bug", ["type Bug"], null],
    ["nobody has it; by class", ["assignee nobody"], "classOfService"],
    ["the current sprint in groups by state", ["sprint the current sprint"], "stateId"],
  ])("“%s”", (text, parts, by) => {
    expect(told(text)).toEqual(parts);
    expect(read(text).by).toBe(by);
  });

  it("is looked for in titles where nothing of it is known, and that is said", () => {
    const { parts, words } = read("gangway lamp, high");
    expect(words).toEqual(["gangway lamp"]);
    expect(parts).toHaveLength(2);
  });

  it("is a named condition of the project where one is called so", () => {
    const condition = { kind: "compare", fact: "blocked", op: "is", value: true } as const;
    const named = [{ id: "n", name: "waits for us", condition }];
    expect(readSaid("waits for us", VOCABULARY, named).parts).toEqual([condition]);
  });

  it("never fails, whatever is said, and ends soon", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 2 * LONGEST_SAID }), (text) => {
        const said = read(text);
        expect(said.parts.length + said.words.length).toBeLessThanOrEqual(24);
        for (const { look } of proposals(said, [], VOCABULARY))
          expect(lookSchema.safeParse(look).success).toBe(true);
      }),
      { numRuns: 60 },
    );
  });
});

describe("looks that are proposed", () => {
  const boards: KnownBoard[] = [
    { id: "b", name: "Process", columnsBy: "state", levels: ["1"] },
    { id: "t", name: "Teams", columnsBy: "team", levels: ["0", "1"] },
  ];
  const looks = (text: string) => proposals(read(text), boards, VOCABULARY);

  it("are a board, groups and one row, of the same items", () => {
    const [board, groups, row] = looks("urgent, by team").map(({ look }) => look);
    expect(board).toMatchObject({ arrangement: "board", board: "t", lanes: NO_LANES });
    expect(groups).toMatchObject({ arrangement: "table", group: "teamId" });
    expect(row).toMatchObject({ arrangement: "table", group: null });
    expect(new Set([board, groups, row].map(({ filter }) => JSON.stringify(filter))).size).toBe(1);
  });

  it("have lanes where no board has such columns, and groups of their own where none are asked for", () => {
    expect(looks("in progress, by assignee")[0].look).toMatchObject({
      lanes: lanesByField("assigneeId"),
    });
    expect(looks("in progress")[1].look.group).toBe("stateId");
    expect(looks("not started")[1].look.group).toBe("priority");
    expect(looks("")[0].look).toEqual(PLAIN_LOOK);
  });

  it("understand every question that is offered", () => {
    for (const { asks } of QUESTIONS)
      for (const [, words] of asks)
        // The words of a project may lack some: these are asked of the demo in the browser.
        expect([words, read(words).words]).toEqual([words, []]);
  });
});
