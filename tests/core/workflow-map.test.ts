import { lineY, mapOf, STEP, type Track } from "@/core/workflow/layout";
import { changeState, connect } from "@/core/workflow/edit";
import { isReturn, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import { workflow } from "./setup/make";

/** So high is a word on a line, with the room that keeps it apart from the next. */
const WORD = 15;
/** So far from the middle of a station its name and what stands beside it may reach. */
const NAME = 60;

const linked = (...moves: [from: string, to: string][]): Workflow =>
  moves.reduce<Workflow>(
    (w, [from, to]) => connect(w, { id: `${from} ${to}`, from, to, verb: `To ${to}` }),
    { ...workflow, transitions: [] },
  );
const map = mapOf(workflow);
const at = (name: string, of = map) => of.stations.find((s) => s.state.name === name)!;
const tracks = (w: Workflow) =>
  Object.fromEntries(mapOf(w).tracks.map((t) => [t.id, [t.course, t.line]]));

describe("stations", () => {
  test("stand in the order of the process, as far apart as each other, with room at both ends", () => {
    const xs = map.stations.map((s) => s.x);
    expect(map.stations.map((s) => s.state.name)).toEqual(workflow.states.map((s) => s.name));
    for (const [i, x] of xs.entries()) expect(x - xs[0]).toBe(i * STEP);
    expect(xs[0]).toBeGreaterThan(STEP / 2);
    expect(map.width - xs.at(-1)!).toBe(xs[0]);
    expect(mapOf({ ...workflow, states: [], transitions: [] }).width).toBe(2 * xs[0]);
  });
  test("stand on the upper rail where one works, on the lower where one waits, else between them", () => {
    const { high, low } = map.rails;
    expect(high).toBeLessThan(low - 2 * WORD);
    expect([at("Building").y, at("In test").y]).toEqual([high, high]);
    expect([at("Ready").y, at("Waiting for test").y]).toEqual([low, low]);
    for (const end of ["Backlog", "Live", "Closed"]) expect(at(end).y).toBe((high + low) / 2);
  });
  test("names stand further out beside neighbours on one rail, at the ends only where they would touch", () => {
    const beside = mapOf(changeState(workflow, "Building", { kind: "waiting" }));
    const further = (of: typeof map) =>
      of.stations.filter((s) => s.further).map((s) => s.state.name);
    expect(further(map)).toEqual([]);
    expect(further(beside)).toEqual(["Building"]);
    const atWork = mapOf(changeState(workflow, "Waiting for review", { kind: "working" }));
    expect(further(atWork)).toEqual(["Waiting for review"]);
    const ends = (a: string, b: string) =>
      mapOf(changeState(changeState(workflow, "Live", { name: a }), "Closed", { name: b }));
    expect(further(ends("n".repeat(15), "n".repeat(16)))).toEqual(["n".repeat(16)]);
    expect(further(ends("n".repeat(15), "n".repeat(15)))).toEqual([]);
    // Lines keep clear of names further out, on the side where there are any.
    expect(atWork.rails.high - map.rails.high).toBe(atWork.words.over - map.words.over);
    expect([atWork.words.over > map.words.over, atWork.words.under]).toEqual([
      true,
      map.words.under,
    ]);
    expect([beside.words.under > map.words.under, beside.words.over]).toEqual([
      true,
      map.words.over,
    ]);
    expect(beside.height).toBeGreaterThan(map.height);
  });
});

describe("moves", () => {
  test("lead along the zigzag to the next state, over it ahead, beneath it back", () => {
    expect(
      tracks(linked(["Ready", "Building"], ["Ready", "In review"], ["In review", "Ready"])),
    ).toEqual({
      "Ready Building Ready": ["main", 0],
      "Ready In review Ready": ["over", 0],
      "In review Ready In review": ["under", 0],
    });
  });
  test("from several states have a track for each, and none to themselves or to what is not there", () => {
    const [move] = linked(["Ready", "In test"]).transitions;
    const from = ["Ready", "In test", "Nowhere", "Building"];
    expect(
      mapOf({
        ...workflow,
        transitions: [
          { ...move, from },
          { ...move, id: "lost", to: "Nowhere" },
          { ...move, id: "any", from: null },
        ],
      }).tracks.map((t) => [t.from, t.to]),
    ).toEqual([
      ["Building", "In test"],
      ["Ready", "In test"],
    ]);
  });
  test("the shorter lie nearer; those that do not share a stretch share a line", () => {
    const w = linked(
      ["In test", "Ready"],
      ["In review", "Ready"],
      ["Building", "Ready"],
      ["Live", "In test"],
      ["Ready", "In review"],
      ["Backlog", "In test"],
    );
    expect(tracks(w)).toEqual({
      "Building Ready Building": ["under", 0],
      "In review Ready In review": ["under", 1],
      "Live In test Live": ["under", 0],
      "In test Ready In test": ["under", 2],
      "Ready In review Ready": ["over", 0],
      "Backlog In test Backlog": ["over", 1],
    });
    // Those that only meet at a state would run into each other there.
    expect(tracks(linked(["Building", "Ready"], ["In review", "Building"]))).toEqual({
      "Building Ready Building": ["under", 0],
      "In review Building In review": ["under", 1],
    });
  });
  test("lines lie clear of all names and of each other, within the map", () => {
    const drawn = mapOf(
      linked(
        ["In test", "Ready"],
        ["In review", "Ready"],
        ["Ready", "In review"],
        ["Backlog", "In test"],
        ["Backlog", "Live"],
      ),
    );
    const ys = (course: Track["course"]) =>
      drawn.tracks.filter((t) => t.course === course).map((t) => lineY(drawn, t));
    const [over, under] = [ys("over"), ys("under")];
    expect([over.length, under.length]).toEqual([3, 2]);
    for (const y of over) {
      expect(y).toBeLessThan(drawn.rails.high - NAME);
      expect(y).toBeGreaterThan(WORD / 2);
    }
    for (const y of under) {
      expect(y).toBeGreaterThan(drawn.rails.low + NAME);
      expect(y).toBeLessThan(drawn.height - WORD / 2);
    }
    expect(Math.abs(over[0] - over[1])).toBeGreaterThan(WORD);
    expect(over[2]).toBeLessThan(over[1]);
    expect(under[1] - under[0]).toBeGreaterThan(WORD);
  });
});

describe("the moves out of a state", () => {
  const verbs = (w: Workflow, from: string) => transitionsFrom(w, from).map((t) => t.to);
  const w = linked(
    ["Building", "Ready"],
    ["Building", "In test"],
    ["Building", "Backlog"],
    ["Building", "In review"],
    ["In test", "Live"],
  );
  const anywhere = (to: string) => ({ ...w.transitions[0], id: `any ${to}`, from: null, to });
  test("lead onward first, the nearest before the others, then back, then from anywhere", () => {
    const free = ["Live", "Closed", "Waiting for test", "Building", "In review"].map(anywhere);
    expect(verbs({ ...w, transitions: [...free, ...w.transitions] }, "Building")).toEqual([
      "In review",
      "In test",
      "Ready",
      "Backlog",
      // Where a move of its own leads, and to itself, none from anywhere.
      "Waiting for test",
      "Live",
      "Closed",
    ]);
  });
  test("a move to the state itself is none", () => {
    const self = { ...w.transitions[0], id: "self", to: "Building" };
    expect(verbs({ ...w, transitions: [self] }, "Building")).toEqual([]);
  });
});

describe("a return", () => {
  const staged = ["Building", "Waiting for review", "In review"].reduce(
    (w, name, i) => changeState(w, name, { stage: i === 1 ? "Review" : "Build" }),
    workflow,
  );
  test.each([
    ["In test", "In review", true],
    ["In review", "In test", false],
    // The stage Build stands where Building stands, though a part of it comes later.
    ["Waiting for review", "In review", true],
    ["In review", "Building", false],
    ["In review", "Waiting for review", false],
    ["Backlog", "Building", false],
    ["In test", "Backlog", false],
    ["Live", "In test", true],
    ["Live", "Backlog", true],
    ["Live", "Closed", false],
    ["In test", "Live", false],
    ["Closed", "Live", false],
  ])("from %s to %s: %s", (from, to, back) => {
    expect(isReturn(staged, from, to)).toBe(back);
  });
  test("without stages each state is its own", () => {
    const bare = workflow.states.reduce((w, s) => changeState(w, s.id, { stage: null }), workflow);
    expect(isReturn(bare, "In review", "Waiting for review")).toBe(true);
    expect(isReturn(bare, "Waiting for review", "In review")).toBe(false);
  });
});
