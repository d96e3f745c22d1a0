import { pullMove } from "@/core/plan/pull";
import type { Workflow } from "@/core/workflow/workflow";

const state = (id: string, kind: string, position: number) => ({ id, name: id, kind, position });
const move = (from: string | null, to: string) => ({
  id: `${from} ${to}`,
  from: from === null ? null : [from],
  to,
  verb: `to ${to}`,
});

/** States in their order: a backlog, three in progress, an end. */
const process = (...transitions: ReturnType<typeof move>[]) =>
  ({
    states: [
      state("backlog", "unstarted", 0),
      state("ready", "waiting", 1),
      state("build", "working", 2),
      state("test", "working", 3),
      state("live", "finished", 4),
    ],
    transitions,
  }) as unknown as Workflow;

const COLUMNS = [["ready"], ["build", "test"]];
const pulled = (of: Workflow, columns = COLUMNS) => pullMove(of, "backlog", columns)?.to ?? null;

describe("what pulls an item out of the backlog", () => {
  it("is the move into the earliest column that one leads to", () => {
    expect(pulled(process(move("backlog", "build"), move("backlog", "ready")))).toBe("ready");
    expect(pulled(process(move("backlog", "test")))).toBe("test");
    expect(pulled(process(move("backlog", "test")), [["test"], ["ready"]])).toBe("test");
    expect(pulled(process(move("backlog", "ready"), move("backlog", "test")), [["test"]])).toBe(
      "test",
    );
  });

  it("leads into the process also where no column shows the state, or from everywhere", () => {
    expect(pulled(process(move("backlog", "build")), [["ready"]])).toBe("build");
    expect(pulled(process(move(null, "test"), move(null, "build")), [])).toBe("build");
  });

  it("is none where only an end can be reached", () => {
    expect(pulled(process(move("backlog", "live"), move("ready", "build")))).toBeNull();
  });
});
