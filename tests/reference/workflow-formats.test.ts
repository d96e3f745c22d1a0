import { readFileSync } from "node:fs";
import path from "node:path";
import Ajv from "ajv/dist/2020";
import fc from "fast-check";
import { readScxml } from "@/core/formats/scxml-read";
import { checkScxml } from "@/core/formats/scxml-rules";
import { writeScxml } from "@/core/formats/scxml-write";
import {
  readWorkflowJson,
  workflowJsonSchema,
  writeWorkflowJson,
} from "@/core/formats/workflow-json";
import { readXml } from "@/core/formats/xml";
import { checkWorkflow } from "@/core/workflow/check";
import { fromTemplate } from "@/core/workflow/template";
import { PROJECT_TEMPLATES } from "@/core/workflow/templates";
import type { Workflow } from "@/core/workflow/workflow";
import { VOCABULARY } from "../core/setup/conditions";
import { anyWorkflow } from "../core/setup/workflows";
import { runs } from "@tests/core/setup/runs";

/*
 * Workflow interchange against the W3C Recommendation State Chart XML (SCXML), 1 September 2015:
 * its example documents as import cases (written down from memory, see the files), its
 * well-formedness rules as cases, and JSON against its published JSON Schema by ajv 8, a validator
 * of JSON Schema draft 2020-12.
 */

const example = (name: string) =>
  readFileSync(path.join("tests/reference/scxml", `${name}.scxml`), "utf8");
const counting = () => {
  let n = 0;
  return () => `id-${n++}`;
};
const imported = (text: string) => readScxml(text, VOCABULARY, counting());
const moves = (w: Workflow) =>
  w.transitions.map(
    (t) =>
      `${t.from!.map((f) => w.states.find((s) => s.id === f)!.name).join("+")} -${t.verb}-> ${w.states.find((s) => s.id === t.to)!.name}`,
  );

describe("the recommendation's example documents", () => {
  test("the microwave: its atomic states, its moves, the part they belong to", () => {
    const { workflow, left } = imported(example("microwave"));
    expect(workflow.states.map((s) => [s.name, s.kind, s.stage])).toEqual([
      ["Off", "unstarted", null],
      ["Idle", "waiting", "on"],
      ["Cooking", "working", "on"],
    ]);
    expect(moves(workflow)).toEqual([
      "Off -Turn on-> Idle",
      "Idle+Cooking -Turn off-> Off",
      "Idle+Cooking -Go to Off-> Off",
      "Idle -Go to Cooking-> Cooking",
      "Idle -Door close-> Cooking",
      "Cooking -Door open-> Idle",
    ]);
    expect(left.join("\n")).toMatch(
      /data model[\s\S]*“time” from cooking leads nowhere[\s\S]*final/,
    );
    expect(left).toContain(
      "A move from on without an event has the condition “timer >= cook_time”, which only its own machine understands.",
    );
  });

  test("the microwave in parallel parts: every state is taken, and it is said that an item is in one of them", () => {
    const { workflow, left } = imported(example("microwave-parallel"));
    expect(workflow.states.map((s) => s.name)).toEqual([
      "Off",
      "Idle",
      "Cooking",
      "Closed",
      "Open",
    ]);
    expect(
      left.some((s) => s.startsWith("1 parallel part: an item is in one state at a time")),
    ).toBe(true);
    expect(moves(workflow)).toContain("Closed -Door open-> Open");
  });

  test("the overview: history, onentry and final states", () => {
    const { workflow, left } = imported(example("language-overview"));
    expect(workflow.states.map((s) => [s.name, s.kind])).toEqual([
      ["Test1Sub1", "unstarted"],
      ["Test1Sub2", "working"],
      ["Test2", "working"],
      ["Test1Done", "finished"],
      ["End", "finished"],
    ]);
    expect(moves(workflow)).toContain("Test2 -Again-> Test1Sub1");
    expect(moves(workflow).find((m) => m.includes("Main stop"))).toBe(
      "Test1Sub1+Test1Sub2+Test2+Test1Done -Main stop-> End",
    );
    expect(left.join("\n")).toMatch(/history[\s\S]*on entry/);
  });
});

describe("histories (recommendation, section 3.10) and events (3.12.1)", () => {
  const scxml = (inside: string, initial = "") =>
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" ${initial}>${inside}</scxml>`;
  const part = (history: string) =>
    `<state id="work">${history}<state id="build"/><state id="test"/></state>`;

  test("a beginning that leads to a history begins where the history says by default", () => {
    const { workflow } = imported(
      scxml(
        `<state id="work" initial="h"><history id="h"><transition target="test"/></history><state id="build"/><state id="test"/></state><final id="done"/>`,
      ),
    );
    expect(workflow.states.map((s) => s.name)).toEqual(["Test", "Build", "Done"]);
    expect(
      imported(scxml(part('<history id="h"><transition target="test"/></history>'), 'initial="h"'))
        .workflow.states[0].name,
    ).toBe("Test");
  });

  test("a move to a history leads to its default; without one, to where its part begins", () => {
    const away = `<state id="away"><transition event="back" target="h"/></state>`;
    const home = `<state id="home"><transition event="go" target="away"/></state>`;
    expect(
      moves(
        imported(scxml(home + away + part('<history id="h"><transition target="test"/></history>')))
          .workflow,
      ),
    ).toContain("Away -Back-> Test");
    expect(moves(imported(scxml(home + away + part('<history id="h"/>'))).workflow)).toContain(
      "Away -Back-> Build",
    );
  });

  test("histories that lead in a circle end somewhere", () => {
    const { workflow } = imported(
      scxml(
        `<state id="a" initial="h"><history id="h"><transition target="a"/></history><state id="b"/></state>`,
      ),
    );
    expect(workflow.states.map((s) => s.name)).toEqual(["B"]);
  });

  test("a move that answers to several events is one move, and the others are told", () => {
    const { workflow, left } = imported(
      scxml(
        `<state id="a"><transition event="done.build error.* cancel" target="b"/></state><state id="b"/>`,
      ),
    );
    expect(moves(workflow)).toEqual(["A -Done build-> B"]);
    expect(left.find((s) => s.includes("3 events"))).toMatch(/“error\.\*”, “cancel”/);
  });

  test("many histories are read in steps that stay in proportion", () => {
    const { workflow } = imported(
      scxml(`<state id="a">${"<history/>".repeat(40_000)}<state id="b"/></state>`),
    );
    expect(workflow.states).toHaveLength(1);
  });
});

/** Each breaks one rule; the section of the recommendation that has it stands beside. */
test.each<[string, string, RegExp]>([
  ["3.2.1 namespace", `<scxml version="1.0"><state id="a"/></scxml>`, /namespace/],
  [
    "3.2.1 version",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="2.0"><state id="a"/></scxml>`,
    /version/,
  ],
  [
    "3.2.2 initial",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" initial="b"><state id="a"/></scxml>`,
    /begins, is no state/,
  ],
  [
    "3.3.2 initial below",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="a" initial="c"><state id="b"/></state><state id="c"/></scxml>`,
    /not inside it/,
  ],
  [
    "3.5.1 transition",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="a"><transition/></state></scxml>`,
    /neither event, condition nor target/,
  ],
  [
    "3.5 target",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="a"><transition event="e" target="b"/></state></scxml>`,
    /no state of the file/,
  ],
  [
    "3.6 initial move",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="a"><initial><transition event="x" target="b"/></initial><state id="b"/></state></scxml>`,
    /not one plain move/,
  ],
  [
    "3.7 final",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><final id="a"><transition event="e" target="a"/></final></scxml>`,
    /final state a/,
  ],
  [
    "3.14 ids",
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0"><state id="a"/><state id="a"/></scxml>`,
    /Two states have the id/,
  ],
])("rule %s is kept", (_rule, text, complaint) => {
  expect(() => imported(text)).toThrow(complaint);
});

test("what is written keeps the recommendation's rules, and comes back without losing anything", () => {
  fc.assert(
    fc.property(anyWorkflow, (workflow) => {
      const text = writeScxml(workflow, VOCABULARY);
      expect(checkScxml(readXml(text))).toEqual([]);
      const back = imported(text);
      const byId = <T extends { id: string }>(list: readonly T[]) =>
        [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
      expect({
        ...back.workflow,
        states: byId(back.workflow.states),
        transitions: byId(back.workflow.transitions),
      }).toEqual({
        ...workflow,
        states: byId(workflow.states),
        transitions: byId(
          workflow.transitions.map((t) => ({
            ...t,
            from:
              t.from &&
              workflow.states
                .filter((s) => t.from!.includes(s.id))
                .sort((a, b) => a.position - b.position)
                .map((s) => s.id),
          })),
        ),
      });
      expect(back.left).toEqual([]);
    }),
    { numRuns: runs(150) },
  );
});

test("JSON comes back as it was, and is valid by its published schema", () => {
  const valid = new Ajv({ strict: false }).compile(workflowJsonSchema());
  fc.assert(
    fc.property(anyWorkflow, (workflow) => {
      const text = writeWorkflowJson(workflow);
      expect({ valid: valid(JSON.parse(text)), errors: valid.errors }).toEqual({
        valid: true,
        errors: null,
      });
      expect(readWorkflowJson(text).workflow).toEqual(workflow);
    }),
    { numRuns: runs(100) },
  );
  const [first] = PROJECT_TEMPLATES;
  const document = JSON.parse(writeWorkflowJson(fromTemplate(first, counting())));
  for (const spoil of [
    (w: Record<string, unknown>) => delete w.name,
    (w: Record<string, unknown>) => (w.states = []),
    (w: { states: { kind: string }[] }) => (w.states[0].kind = "sleeping"),
  ]) {
    const copy = structuredClone(document);
    spoil(copy.workflow);
    expect(valid(copy)).toBe(false);
    expect(() => readWorkflowJson(JSON.stringify(copy))).toThrow();
  }
});

test("every template goes out and in again and is still free of findings", () => {
  const around = {
    vocabulary: VOCABULARY,
    peopleOfTeam: {},
    leads: 1,
    workers: 6,
    unshown: {},
  };
  for (const template of PROJECT_TEMPLATES) {
    const workflow = fromTemplate(template, counting());
    const back = imported(writeScxml(workflow, VOCABULARY)).workflow;
    expect(checkWorkflow(back, around)).toEqual(checkWorkflow(workflow, around));
  }
});

describe("bad files are told and change nothing", () => {
  const scxml = (inside: string) =>
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0">${inside}</scxml>`;
  test.each<[string, string, RegExp]>([
    ["nonsense", "a line of nonsense", /well-formed|no single element/],
    ["nothing", "", /well-formed|no single element|no SCXML/],
    ["another kind of XML", "<svg/>", /no SCXML/],
    [
      "entities",
      `<!DOCTYPE x [<!ENTITY a "b"><!ENTITY c "&a;&a;&a;">]>${scxml("<state id='&c;'/>")}`,
      /document type/,
    ],
    ["more than 5 MB", scxml(`<state id="a"/><!--${"x".repeat(5 * 1024 * 1024)}-->`), /5 MB/],
    [
      "a thousand states",
      scxml(Array.from({ length: 1_000 }, (_, i) => `<state id="s${i}"/>`).join("")),
      /1000 states; at most 200/,
    ],
    [
      "elements a thousand deep",
      scxml(`${"<state>".repeat(1_000)}${"</state>".repeat(1_000)}`),
      /deep/,
    ],
    ["not closed", `${scxml("<state id='a'>")}`, /well-formed/],
  ])("%s", (_what, text, complaint) => {
    expect(() => imported(text)).toThrow(complaint);
  });

  test("a part that begins in itself, round and round, is read to an end", () => {
    const text = scxml(
      `<state id="a" initial="b"><state id="b" initial="c"><state id="c"><transition event="e" target="a"/></state></state></state><final id="z"/>`,
    );
    expect(imported(text).workflow.states.map((s) => s.name)).toEqual(["C", "Z"]);
  });

  test("names in any script, very long ones and equal ones become names that are told apart", () => {
    const long = "x".repeat(300);
    const { workflow } = imported(
      scxml(`<state id="${long}"/><state id="${long}2"/><state id="Prüfung"/><state id="検査"/>`),
    );
    expect(workflow.states.map((s) => s.name.length)).toEqual([60, 58, 7, 2]);
    expect(new Set(workflow.states.map((s) => s.name)).size).toBe(4);
  });
});
