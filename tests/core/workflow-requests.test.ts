import {
  discardBody,
  exportQuery,
  newWorkflowBody,
  publishBody,
  replayQuery,
  sourceBody,
  startProjectBody,
  typeEditBody,
  versionQuery,
} from "@/core/workflow/request";
import { refused } from "./setup/refused";

const long = (length: number) => "x".repeat(length);

describe("publishing and throwing away", () => {
  const publish = (change: object = {}) => ({
    workflowId: "w",
    seenRevision: 0,
    newStates: {},
    note: "",
    ...change,
  });
  test.each([
    publish(),
    publish({ seenRevision: 12, newStates: { old: "new" }, note: long(500) }),
    publish({ workflowId: long(64) }),
  ])("%#: is understood", (body) => expect(publishBody.parse(body)).toEqual(body));
  test("needs neither a note nor new states", () =>
    expect(publishBody.parse({ workflowId: "w", seenRevision: 0 })).toEqual(publish()));
  test.each([
    publish({ workflowId: "" }),
    publish({ workflowId: long(65) }),
    publish({ seenRevision: -1 }),
    publish({ seenRevision: 0.5 }),
    publish({ newStates: { old: "" } }),
    publish({ newStates: { [long(65)]: "new" } }),
    publish({ note: long(501) }),
  ])("%#: is refused", (body) => expect(refused(publishBody, body)).toHaveLength(1));
  test("a draft is thrown away as it was seen", () => {
    const body = { workflowId: "w", seenRevision: 3 };
    expect(discardBody.parse(body)).toEqual(body);
    expect(refused(discardBody, { ...body, seenRevision: -1 })).toHaveLength(1);
    expect(refused(discardBody, { ...body, workflowId: "" })).toHaveLength(1);
  });
});

describe("what an address asks for", () => {
  test("a version is a number from 1", () => {
    expect(versionQuery.parse({ workflow: "w", version: "7" })).toEqual({
      workflow: "w",
      version: 7,
    });
    for (const version of ["0", "-1", "1.5", "one"])
      expect(refused(versionQuery, { workflow: "w", version })).toHaveLength(1);
    expect(refused(versionQuery, { workflow: "", version: "1" })).toHaveLength(1);
  });
  test("the past is of 30, 90 or 365 days", () => {
    for (const days of [30, 90, 365])
      expect(replayQuery.parse({ workflow: "w", days: String(days) })).toEqual({
        workflow: "w",
        days,
      });
    for (const days of ["31", "0", "all"])
      expect(refused(replayQuery, { workflow: "w", days })).not.toEqual([]);
    expect(refused(replayQuery, { workflow: "", days: "30" })).toHaveLength(1);
    expect(refused(replayQuery, { workflow: long(65), days: "30" })).toHaveLength(1);
  });
  test("a file is of what runs, unless it is said", () => {
    for (const format of ["scxml", "json", "svg", "mermaid"])
      expect(exportQuery.parse({ workflow: "w", format })).toEqual({
        workflow: "w",
        format,
        which: "running",
      });
    const draft = { workflow: "w", format: "json", which: "draft" };
    expect(exportQuery.parse(draft)).toEqual(draft);
    expect(refused(exportQuery, { ...draft, format: "doc" })).toHaveLength(1);
    expect(refused(exportQuery, { ...draft, which: "old" })).toHaveLength(1);
    expect(refused(exportQuery, { ...draft, workflow: "" })).toHaveLength(1);
    expect(refused(exportQuery, { ...draft, workflow: long(65) })).toHaveLength(1);
  });
});

describe("a new project", () => {
  const project = (change: object = {}) => ({
    name: "Ticket app",
    key: "TIX",
    template: "Build and test",
    visibility: "everyone",
    zone: "Europe/London",
    ...change,
  });
  test.each([
    project(),
    project({ name: long(60), key: "A234567890" }),
    project({ key: "A1", visibility: "members", zone: "UTC" }),
    project({ template: long(60) }),
  ])("%#: is understood", (body) => expect(startProjectBody.parse(body)).toEqual(body));
  test("its key is of capitals, and nothing has blanks around it", () =>
    expect(startProjectBody.parse(project({ name: " Ticket app ", key: " tix " }))).toEqual(
      project(),
    ));
  test.each([
    [{ name: " " }, "A project needs a name."],
    [{ name: long(61) }, "Use at most 60 characters."],
    [{ key: "T" }, "Use 2 to 10 letters and figures, a letter first."],
    [{ key: "1TI" }, "Use 2 to 10 letters and figures, a letter first."],
    [{ key: "T-X" }, "Use 2 to 10 letters and figures, a letter first."],
    [{ key: "A2345678901" }, "Use 2 to 10 letters and figures, a letter first."],
    [{ zone: "Saltmarsh/Quay" }, "This is no time zone."],
  ])("with %j is refused: %s", (change, says) =>
    expect(refused(startProjectBody, project(change))).toEqual([says]),
  );
  test.each([{ template: long(61) }, { visibility: "nobody" }, { zone: long(61) }])(
    "with %j is refused",
    (change) => expect(refused(startProjectBody, project(change))).not.toEqual([]),
  );
});

describe("a new workflow", () => {
  const LARGEST = 6 * 1024 * 1024;
  const from = (kind: object, name = "") => ({ name, from: kind });
  test.each([
    from({ kind: "template", name: long(80) }),
    from({ kind: "copy", workflowId: "w" }, long(80)),
    from({ kind: "empty" }),
    from({ kind: "file", text: "" }),
    from({ kind: "file", text: long(LARGEST) }),
  ])("%#: is understood", (body) => expect(newWorkflowBody.parse(body)).toEqual(body));
  test("need not be named, and loses blanks", () => {
    expect(newWorkflowBody.parse({ from: { kind: "empty" } })).toEqual(from({ kind: "empty" }));
    expect(newWorkflowBody.parse(from({ kind: "empty" }, " Bugs "))).toEqual(
      from({ kind: "empty" }, "Bugs"),
    );
  });
  test.each([
    from({ kind: "empty" }, long(81)),
    from({ kind: "template", name: long(81) }),
    from({ kind: "copy", workflowId: "" }),
    from({ kind: "file", text: long(LARGEST + 1) }),
    from({ kind: "thin air" }),
  ])("%#: is refused", (body) => expect(refused(newWorkflowBody, body)).toHaveLength(1));
});

describe("a change of item types", () => {
  const type = { id: "t", name: "Bug", level: 1, workflowId: "w", glyph: "lozenge", template: "" };
  const save = (change: object = {}, newStates: object = {}) => ({
    kind: "save",
    type: { ...type, ...change },
    newStates,
  });
  test.each([
    save(),
    save({ name: long(40), level: 0, template: long(5_000) }),
    save({ level: 3 }, { old: "new" }),
    { kind: "remove", id: "t" },
    { kind: "bring back", id: long(64) },
    { kind: "order", ids: Array(100).fill("t") },
  ])("%#: is understood", (body) => expect(typeEditBody.parse(body)).toEqual(body));
  test("moves no items unless it is said", () =>
    expect(typeEditBody.parse({ kind: "save", type })).toEqual(save()));
  test.each([
    [save({ name: " " }), "A type needs a name."],
    [save({ name: long(41) }), "Use at most 40 characters."],
    [save({ template: long(5_001) }), "Use at most 5,000 characters."],
  ])("%#: is refused in words", (body, says) =>
    expect(refused(typeEditBody, body)).toEqual([says]),
  );
  test.each([
    save({ level: -1 }),
    save({ level: 4 }),
    save({ level: 1.5 }),
    save({ glyph: "skull" }),
    save({ workflowId: "" }),
    save({ id: "" }),
    save({}, { old: "" }),
    { kind: "remove", id: "" },
    { kind: "bring back", id: long(65) },
    { kind: "order", ids: Array(101).fill("t") },
    { kind: "order", ids: [""] },
  ])("%#: is refused", (body) => expect(refused(typeEditBody, body)).toHaveLength(1));
});

describe("a source of events", () => {
  test("takes requests at an address of the web, at a path of what came along, or nowhere", () => {
    const at = (asksAt: string | null) =>
      sourceBody.safeParse({ kind: "asks", id: "s", asksAt }).success;
    expect(
      ["https://pipeline.example/ask", "http://10.0.0.5:80/ask", "/ask", null].map(at),
    ).toEqual([true, true, true, true]);
    expect(["", "//pipeline.example", "javascript:alert(1)", "pipeline.example"].map(at)).toEqual([
      false,
      false,
      false,
      false,
    ]);
  });

  test("has a name", () => {
    expect(sourceBody.parse({ kind: "add", name: " Pipeline " })).toEqual({
      ...{ kind: "add", name: "Pipeline", asksAt: null },
    });
    expect(sourceBody.parse({ kind: "remove", id: long(64) })).toEqual({
      kind: "remove",
      id: long(64),
    });
    expect(refused(sourceBody, { kind: "add", name: " " })).toEqual(["A source needs a name."]);
    expect(refused(sourceBody, { kind: "add", name: long(61) })).toHaveLength(1);
    expect(refused(sourceBody, { kind: "remove", id: long(65) })).toHaveLength(1);
  });
});
