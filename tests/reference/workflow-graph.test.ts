import fc from "fast-check";
import { DirectedGraph } from "graphology";
import { connectedComponents, stronglyConnectedComponents } from "graphology-components";
import { reachableFrom, reversed, successors } from "@/core/workflow/graph";
import { PLAIN_TRANSITION, type Workflow } from "@/core/workflow/workflow";
import { PLAIN_STATE } from "@/core/workflow/state";

/*
 * Reachability against graphology 0.26 with graphology-components 1.5: two states reach each other
 * exactly when they are in one strongly connected component, and what is reachable either way lies
 * in the same weakly connected component.
 */

const anyWorkflow: fc.Arbitrary<Workflow> = fc.integer({ min: 1, max: 14 }).chain((n) =>
  fc.array(fc.tuple(fc.option(fc.nat(n - 1)), fc.nat(n - 1)), { maxLength: 24 }).map((moves) => ({
    id: "w",
    name: "Any",
    version: 1,
    states: Array.from({ length: n }, (_, i) => ({
      ...PLAIN_STATE,
      id: `s${i}`,
      name: `S${i}`,
      kind: "working" as const,
      position: i,
    })),
    transitions: moves.map(([from, to], i) => ({
      ...PLAIN_TRANSITION,
      id: `t${i}`,
      from: from === null ? null : [`s${from}`],
      to: `s${to}`,
      verb: "go",
    })),
  })),
);

function graphOf(workflow: Workflow): DirectedGraph {
  const graph = new DirectedGraph();
  for (const s of workflow.states) graph.addNode(s.id);
  for (const t of workflow.transitions)
    for (const from of t.from ?? workflow.states.map((s) => s.id))
      if (from !== t.to) graph.mergeEdge(from, t.to);
  return graph;
}

test("states reach each other exactly when a general graph library says so", () => {
  fc.assert(
    fc.property(anyWorkflow, (workflow) => {
      const graph = graphOf(workflow);
      const next = successors(workflow);
      const [strong, weak] = [stronglyConnectedComponents(graph), connectedComponents(graph)];
      const reach = new Map(workflow.states.map((s) => [s.id, reachableFrom(next, [s.id])]));
      const back = reversed(next);
      for (const { id: a } of workflow.states)
        for (const { id: b } of workflow.states) {
          const mutual = reach.get(a)!.has(b) && reach.get(b)!.has(a);
          expect(mutual).toBe(strong.some((c) => c.includes(a) && c.includes(b)));
          if (reach.get(a)!.has(b)) {
            expect(weak.some((c) => c.includes(a) && c.includes(b))).toBe(true);
            expect(reachableFrom(back, [b]).has(a)).toBe(true);
          }
        }
    }),
  );
});
