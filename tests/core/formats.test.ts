import { cutText, shorten } from "@/core/formats/cut-text";
import { isTame } from "@/core/formats/markdown-bounds";
import { writeMermaid } from "@/core/formats/mermaid";
import {
  readWorkflowJson,
  WORKFLOW_FORMAT,
  workflowJsonSchema,
  writeWorkflowJson,
} from "@/core/formats/workflow-json";
import { writeSvg } from "@/core/formats/workflow-svg";
import { changeState, changeTransition } from "@/core/workflow/edit";
import { mapOf } from "@/core/workflow/layout";
import { fromTemplate } from "@/core/workflow/template";
import { SUB_TASKS } from "@/core/workflow/templates/sub-tasks";
import { workflow } from "./setup/make";

const small = (() => {
  let n = 0;
  return fromTemplate(SUB_TASKS, () => `id-${n++}`);
})();

describe("what is read as Markdown", () => {
  test.each<[string, string]>([
    ["nothing", ""],
    ["words", "**Gate 4** hums, see [the log](https://saltmarsh.example)"],
    ["the longest text", "a".repeat(40_000)],
    ["twelve quotes", `${"> ".repeat(12)}a`],
    ["twelve items on a line", `${"- ".repeat(12)}a`],
    ["signs that open nothing", "-".repeat(40)],
    ["a number that opens nothing", "1.5 and 2)x and 12 boats"],
    ["a list at column 40", `${" ".repeat(40)}- a`],
    ["words further right", `${" ".repeat(60)}a`],
    ["as much emphasis as may be", "*_~".repeat(133)],
    ["as many brackets as may be", "[]`<".repeat(100)],
    ["more, with a blank line between", `${"*".repeat(300)}a\n \n${"*".repeat(300)}a`],
    ["brackets, with a blank line between", `${"[".repeat(300)}a\n\n${"[".repeat(300)}a`],
    [
      "a table of ten thousand cells",
      Array(100)
        .fill(`a${"|".repeat(100)}`)
        .join("\n"),
    ],
    ["a wide table and many words", `a${"|".repeat(5_000)}\n${"a\n".repeat(500)}`],
    ["many numbers", `${"1. ".repeat(12)}a`],
    ["a number of ten digits", "1234567890. a ".repeat(13)],
  ])("%s", (_what, text) => expect(isTame(text)).toBe(true));

  test.each<[string, string]>([
    ["a longer text", "a".repeat(40_001)],
    ["thirteen quotes", `${"> ".repeat(13)}a`],
    ["without gaps", `${">".repeat(13)}a`],
    ["thirteen items on a line", `${"- ".repeat(13)}a`],
    ["with stars", `${"* ".repeat(13)}a`],
    ["with plusses", `${"+\t".repeat(13)}a`],
    ["with numbers", `${"1. ".repeat(13)}a`],
    ["with numbers in brackets", `${"123456789) ".repeat(13)}a`],
    ["in turn", `${"> - 1. ".repeat(4)}> a`],
    ["items without words", `${"- ".repeat(12)}-`],
    ["a list beyond column 40", `${" ".repeat(41)}- a`],
    ["more emphasis", `a${"*".repeat(401)}`],
    ["of other signs", `a${"_".repeat(200)}${"~".repeat(201)}`],
    [
      "over several lines",
      Array(41)
        .fill(`a${"*".repeat(10)}`)
        .join("\n"),
    ],
    ["more brackets", `a${"[".repeat(401)}`],
    ["closing ones", `a${"]".repeat(401)}`],
    ["code", `a${"`".repeat(401)}`],
    ["tags", `a${"<".repeat(401)}`],
    [
      "a larger table",
      Array(101)
        .fill(`a${"|".repeat(100)}`)
        .join("\n"),
    ],
    ["a table with one wide row", `a|\n`.repeat(101) + `a${"|".repeat(99)}`],
  ])("not: %s", (_what, text) => expect(isTame(text)).toBe(false));
});

test("a small workflow as Mermaid's state diagram (its syntax: mermaid.js.org, stateDiagram-v2)", () =>
  expect(writeMermaid(small)).toBe(`stateDiagram-v2
  direction LR
  state "Open" as s1
  state "Doing" as s2
  state "Done" as s3
  [*] --> s1
  s1 --> s2: Start
  s1 --> s3: Finish
  s2 --> s3: Finish
  s2 --> s1: Put down
  s3 --> s1: Reopen
  s3 --> [*]
  class s2 working
  classDef waiting stroke-dasharray:4
  classDef working stroke-width:2px
`));

test("what leads from anywhere is drawn from everywhere else; signs that mean something are coded", () => {
  const sharp = changeState(
    changeTransition(workflow, workflow.transitions[0].id, { verb: "Pull;\n now #1" }),
    "Building",
    { name: 'At "work" <{here}>: \\' },
  );
  const text = writeMermaid(sharp);
  expect(text.match(/--> s10: Close/g)).toHaveLength(9);
  expect(text).not.toContain("s10 --> s10");
  expect(text).toContain('state "At #34;work#34; #60;#123;here#125;#62;#58; #92;" as s3');
  expect(text).toContain("s1 --> s2: Pull#59; now #35;1");
  expect(text).toContain("class s2,s4,s6,s8 waiting");
  expect(text).toContain("class s3,s5,s7 working");
  expect(text).toContain("s9 --> [*]\n  s10 --> [*]");
});

describe("a workflow's map as an SVG", () => {
  const drawn = writeSvg(workflow);
  const of = (pattern: RegExp, svg = drawn) => [...svg.matchAll(pattern)];

  test("stands alone, with its title and in its own size", () => {
    expect(drawn).toMatch(
      /^<svg xmlns="http:\/\/www.w3.org\/2000\/svg" viewBox="0 0 (\d+) (\d+)" width="\1" height="\2" font-family="sans-serif" role="img"><title>Build, review, test, deploy<\/title>\n/,
    );
    expect(drawn.endsWith("\n</svg>\n")).toBe(true);
    expect(drawn).not.toMatch(/href|url\(|NaN|undefined/);
    expect(drawn).toMatch(/<rect width="\d+" height="\d+" fill="#fbfaf6"\/>/);
  });

  test("has a mark and a name for each state, each kind with its own, work above and waiting below", () => {
    const at = (name: string, svg = drawn) => {
      const [, x, y] = new RegExp(
        `<text x="([\\d.]+)" y="([\\d.]+)" font-size="11" fill="#20272b"[^>]* text-anchor="middle" font-weight="650">${name}</text>`,
      ).exec(svg)!;
      return { x: Number(x), y: Number(y) };
    };
    const { x, y } = at("Building");
    expect(drawn).toContain(
      `<rect x="${x - 8}" y="${y + 16 - 8}" width="16" height="16" fill="#1f6b57"/>`,
    );
    const ready = at("Ready");
    expect(drawn).toContain(
      `<path d="M${ready.x - 10} ${ready.y - 26 - 7} h20 l-10 16 z" fill="#fbfaf6" stroke="#5a656b" stroke-width="1.8"/>`,
    );
    const backlog = at("Backlog");
    expect(drawn).toContain(
      `<circle cx="${backlog.x}" cy="${backlog.y + 16}" r="7.5" fill="#fff" stroke="#20272b" stroke-width="1.8"/>`,
    );
    const live = at("Live");
    expect(drawn).toContain(`<circle cx="${live.x}" cy="${live.y + 16}" r="8" fill="#20272b"/>`);
    expect(y + 16).toBeLessThan(ready.y - 26);
    expect(of(/font-weight="650"/g)).toHaveLength(workflow.states.length);
  });

  test("has a line for each step of the main way, and an arrow with its verb for each other move", () => {
    expect(of(/stroke="#1f6b57" stroke-width="2.4"\/>/g)).toHaveLength(8);
    expect(of(/stroke="#cfd4d2"\/>/g)).toHaveLength(2);
    for (const verb of ["Pull", "Start building", "Deploy"])
      expect(drawn).toMatch(new RegExp(`stroke-width="2.4"/><text [^>]*>${verb}</text>`));
    for (const verb of ["Put back", "Send back", "Pull out"])
      expect(drawn).toMatch(
        new RegExp(
          `<path d="M[\\d.]+ [\\d.]+ V[\\d.]+ H[\\d.]+ V[\\d.]+" fill="none" stroke="#5a656b" stroke-dasharray="4 3"/><path d="M[\\d.]+ [\\d.]+ L[\\d.]+ [\\d.]+ L[\\d.]+ [\\d.]+" fill="none" stroke="#5a656b"/><text x="[\\d.]+" y="[\\d.]+" font-size="10" fill="#5a656b"[^>]* text-anchor="middle">${verb}</text>`,
        ),
      );
    expect(drawn).toMatch(
      /y="18" font-size="11" fill="#5a656b"[^>]* text-anchor="end">from anywhere: Close to Closed</,
    );
  });

  test("of neighbours on one rail every second name stands further out, and lines keep clear of it", () => {
    const beside = changeState(workflow, workflow.states.find((s) => s.name === "Building")!.id, {
      kind: "waiting",
    });
    const y = (name: string, svg: string) =>
      Number(new RegExp(`y="([\\d.]+)"[^>]*>${name}</text>`).exec(svg)![1]);
    const svg = writeSvg(beside);
    expect(y("Building", svg) - y("Ready", svg)).toBe(30);
    expect(y("Waiting for review", svg)).toBe(y("Ready", svg));
    expect(y("Put back", svg)).toBeGreaterThan(y("Building", svg) + 15);
    expect(y("Closed", drawn)).toBe(y("Live", drawn));
  });

  test("between the rails names stand away from the line that comes: over it from below, under it from above", () => {
    const last = (kind: "waiting" | "working") =>
      mapOf(changeState(workflow, "Ready to deploy", { kind })).stations.slice(-2);
    for (const [kind, above] of [
      ["waiting", true],
      ["working", false],
    ] as const)
      expect(last(kind).map((s) => [s.state.name, s.nameAbove])).toEqual([
        ["Live", above],
        ["Closed", above],
      ]);
    const first = (kind: "waiting" | "working") =>
      mapOf(changeState(workflow, "Ready", { kind })).stations[0].nameAbove;
    expect([first("waiting"), first("working")]).toEqual([true, false]);
    const [onlyEnds] = mapOf({
      ...workflow,
      states: [workflow.states[0]],
      transitions: [],
    }).stations;
    expect(onlyEnds.nameAbove).toBe(false);
  });

  test("leads forward above the rails, and says nothing of anywhere where no move leads from there", () => {
    const svg = writeSvg(small);
    expect(svg).not.toContain("from anywhere");
    // Its arrow points down to the state that it leads to.
    const [, end, barb, tip] =
      /V([\d.]+)" fill="none" stroke="#5a656b"\/><path d="M[\d.]+ ([\d.]+) L[\d.]+ ([\d.]+) /.exec(
        svg,
      )!;
    expect(tip).toBe(end);
    expect(Number(barb)).toBeLessThan(Number(tip));
  });

  test("shows names as they are, never as tags", () => {
    const svg = writeSvg(
      changeState({ ...small, name: "A & <b>" }, small.states[1].id, { name: "<i>" }),
    );
    expect(svg).toContain("<title>A &amp; &lt;b&gt;</title>");
    expect(svg).toContain(">&lt;i&gt;</text>");
  });
});

test.each<[string, number, string, string]>([
  ["abc", 3, "abc", "abc"],
  ["abcd", 3, "abc", "ab…"],
  ["ab cd", 4, "ab c", "ab…"],
  ["a🚢", 2, "a", "a…"],
  ["a🚢", 3, "a🚢", "a🚢"],
  ["a🚢b", 3, "a🚢", "a…"],
  ["🚢🚢", 3, "🚢", "🚢…"],
  ["", 3, "", ""],
])("%j cut to %i is %j, shortened %j", (text, most, cut, short) => {
  expect(cutText(text, most)).toBe(cut);
  expect(shorten(text, most)).toBe(short);
});

describe("a workflow as JSON", () => {
  test("is read as it was written", () => {
    const read = readWorkflowJson(writeWorkflowJson(workflow));
    expect(read).toEqual({
      workflow,
      taken: ["All 10 states and 17 moves, with their rules."],
      left: [],
    });
    expect(writeWorkflowJson(workflow).startsWith(`{\n  "format": "${WORKFLOW_FORMAT}",`)).toBe(
      true,
    );
  });

  test.each<[string, string, string]>([
    ["no JSON", "{", "This is no JSON: "],
    ["another thing", "[]", "its “format” is not urn:zigzag-lane:workflow:1."],
    ["nothing", "null", "its “format” is not"],
    ["a number", "3", "its “format” is not"],
    ["another format", '{"format":"x"}', "its “format” is not"],
    [
      "no workflow",
      `{"format":"${WORKFLOW_FORMAT}"}`,
      "The workflow in this file does not hold together: workflow: ",
    ],
    [
      "a state without a name",
      JSON.stringify({
        format: WORKFLOW_FORMAT,
        workflow: { ...small, states: [{ ...small.states[0], name: "" }] },
      }),
      "The workflow in this file does not hold together: states.0.name: ",
    ],
    ["too much", " ".repeat(5 * 1024 * 1024 + 1), "The file is larger than 5 MB."],
  ])("refused: %s", (_what, text, words) => expect(() => readWorkflowJson(text)).toThrow(words));

  test("its schema names the format and what a workflow must have", () => {
    expect(workflowJsonSchema()).toMatchObject({
      $id: WORKFLOW_FORMAT,
      title: "A workflow of Zigzag Lane",
      type: "object",
      required: expect.arrayContaining(["format", "workflow"]),
      properties: { format: { const: WORKFLOW_FORMAT } },
    });
  });
});
