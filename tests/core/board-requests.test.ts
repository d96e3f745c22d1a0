import { boardBody, limitBody, personLimitBody } from "@/core/board/request";

const ITEM = "019b0000-0000-7000-8000-000000000001";
const OTHER = "019b0000-0000-7000-8000-000000000002";
const long = (length: number) => "x".repeat(length);

const column = (change: object = {}) => ({
  id: "c1",
  stage: "Review",
  name: "",
  part: "waiting",
  stateIds: ["s1"],
  ...change,
});
const board = (change: object = {}) => ({
  id: "b1",
  name: "Crew",
  columnsBy: "state",
  scope: null,
  columns: [column()],
  ...change,
});
const save = (change: object = {}, seenVersion: unknown = 0) => ({
  kind: "save",
  board: board(change),
  seenVersion,
});
const place = (change: object = {}) => ({
  kind: "place",
  boardId: "b1",
  itemId: ITEM,
  columnId: "c1",
  below: OTHER,
  ...change,
});

describe("a change of boards that is understood", () => {
  test.each([
    ["a board", save()],
    ["a board of nothing yet", save({ columns: [] })],
    ["a name of 60", save({ name: long(60) })],
    ["60 columns", save({ columns: Array.from({ length: 60 }, () => column()) })],
    ["100 states in a column", save({ columns: [column({ stateIds: Array(100).fill("s") })] })],
    ["ids of 64", save({ id: long(64) })],
    ["a version seen", save({}, 7)],
    ["columns in order", { kind: "order columns", boardId: "b1", columnIds: Array(60).fill("c") }],
    ["boards in order", { kind: "order boards", boardIds: Array(60).fill("b") }],
    ["a board taken out", { kind: "remove", boardId: "b1" }],
    ["an item in a list", place()],
    ["an item on top of a list", place({ below: null })],
    ["an item out of all lists", place({ columnId: null, below: null })],
  ])("%s", (_what, body) => expect(boardBody.parse(body)).toEqual(body));

  test.each(["waiting", "working", "finished"])("a part that is %s", (part) =>
    expect(boardBody.safeParse(save({ columns: [column({ part })] })).success).toBe(true),
  );

  test("names lose the blanks around them", () => {
    expect(boardBody.parse(save({ name: "  Crew " }))).toEqual(save());
    const spaced = save({ columns: [column({ stage: " Review ", name: " in " })] });
    expect(boardBody.parse(spaced)).toEqual(save({ columns: [column({ name: "in" })] }));
  });
});

describe("a change of boards that is refused", () => {
  test.each([
    ["no kind", { boardId: "b1" }],
    ["an unknown kind", { kind: "burn", boardId: "b1" }],
    ["a board without a name", save({ name: "  " })],
    ["a name of 61", save({ name: long(61) })],
    ["a stage of 61", save({ columns: [column({ stage: long(61) })] })],
    ["a part's name of 61", save({ columns: [column({ name: long(61) })] })],
    ["a stage without a name", save({ columns: [column({ stage: "" })] })],
    ["an unknown part", save({ columns: [column({ part: "resting" })] })],
    ["61 columns", save({ columns: Array.from({ length: 61 }, () => column()) })],
    ["101 states in a column", save({ columns: [column({ stateIds: Array(101).fill("s") })] })],
    ["an empty id", save({ id: "" })],
    ["an id of 65", save({ id: long(65) })],
    ["columns by nothing", save({ columnsBy: "moon" })],
    ["a version below 0", save({}, -1)],
    ["half a version", save({}, 0.5)],
    ["no version", { ...save(), seenVersion: undefined }],
    [
      "61 columns in order",
      { kind: "order columns", boardId: "b1", columnIds: Array(61).fill("c") },
    ],
    ["columns of no board", { kind: "order columns", columnIds: [] }],
    ["61 boards in order", { kind: "order boards", boardIds: Array(61).fill("b") }],
    ["no boards in order", { kind: "order boards" }],
    ["no board taken out", { kind: "remove" }],
    ["an item that has no such id", place({ itemId: "i" })],
    ["a place below what has no such id", place({ below: "i" })],
    ["a place on no board", place({ boardId: undefined })],
    ["no list named", place({ columnId: undefined })],
  ])("%s", (_what, body) => expect(boardBody.safeParse(body).success).toBe(false));

  test("a name that is missing or too long is told in words", () => {
    const words = (name: string) =>
      boardBody.safeParse(save({ name })).error!.issues.map((issue) => issue.message);
    expect(words("")).toEqual(["A name is needed."]);
    expect(words(long(61))).toEqual(["Use at most 60 characters."]);
  });
});

describe("limits", () => {
  const limits = (change: object = {}) => ({
    boardId: "b1",
    on: { kind: "column", columnId: "c1" },
    of: null,
    unit: "items",
    level: null,
    fixedDatePasses: false,
    seenVersion: 1,
    min: 2,
    max: 5,
    minFirm: false,
    maxFirm: true,
    ...change,
  });

  test.each([
    ["both", limits()],
    ["none", limits({ min: null, max: null })],
    ["a minimum alone", limits({ max: null })],
    ["a maximum alone", limits({ min: null })],
    ["the same for both", limits({ min: 5 })],
    ["nothing may stand there", limits({ min: 0, max: 0 })],
    ["the most", limits({ max: 10_000 })],
    ["of one state of a column", limits({ on: { kind: "column", columnId: "c1", stateId: "s1" } })],
    ["of all that is in progress", limits({ on: { kind: "board" } })],
    ["of what a team has of it", limits({ of: { field: "teamId", value: "quayside" } })],
    ["by size, of tasks", limits({ unit: "size", level: 0, fixedDatePasses: true })],
  ])("%s", (_what, body) => expect(limitBody.parse(body)).toEqual(body));

  test.each([
    ["more than the most", limits({ max: 10_001 })],
    ["less than nothing", limits({ min: -1 })],
    ["half an item", limits({ max: 2.5 })],
    ["no version", limits({ seenVersion: 0 })],
    ["half a version", limits({ seenVersion: 1.5 })],
    ["no column", limits({ on: { kind: "column", columnId: "" } })],
    ["no board", limits({ boardId: "" })],
    ["of a field that no limit is for", limits({ of: { field: "title", value: "x" } })],
    ["of no value", limits({ of: { field: "teamId", value: "" } })],
    ["by what nobody counts", limits({ unit: "hours" })],
    ["not said whether firm", limits({ maxFirm: undefined })],
    ["not said whether the minimum is", limits({ minFirm: undefined })],
  ])("refused: %s", (_what, body) => expect(limitBody.safeParse(body).success).toBe(false));

  test("of a person, with what counts; what is left out is the plain way", () => {
    const said = { personId: "noor", min: null, max: 4, minFirm: false, maxFirm: true };
    expect(personLimitBody.parse(said)).toEqual({
      ...said,
      unit: "items",
      level: null,
      workedOnly: false,
    });
    expect(personLimitBody.safeParse({ ...said, personId: "" }).success).toBe(false);
    expect(personLimitBody.safeParse({ ...said, min: 5 }).success).toBe(false);
  });

  test("a minimum above the maximum is told at the minimum", () => {
    const { error } = limitBody.safeParse(limits({ min: 6 }));
    expect(error!.issues).toMatchObject([
      { message: "The minimum is above the maximum.", path: ["min"] },
    ]);
  });
});
