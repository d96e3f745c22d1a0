import fc from "fast-check";
import { DirectedGraph } from "graphology";
import { longestChain, type WaitsFor } from "@/core/plan/dependencies";

describe("the worked network of Hillier and Lieberman", () => {
  /*
   * F. S. Hillier and G. J. Lieberman, "Introduction to Operations Research", the chapter on project
   * management with PERT/CPM: the project of the Reliable Construction Company, its activities with
   * what comes before each and their durations in weeks. Its critical path is A, B, C, E, F, J, L, N,
   * of 44 weeks.
   */
  const DURATIONS: Record<string, number> = {
    ...{ A: 2, B: 4, C: 10, D: 6, E: 4, F: 5, G: 7 },
    ...{ H: 9, I: 7, J: 8, K: 4, L: 5, M: 2, N: 6 },
  };
  const BEFORE: Record<string, string> = {
    ...{ A: "", B: "A", C: "B", D: "C", E: "C", F: "E", G: "D" },
    ...{ H: "EG", I: "C", J: "FI", K: "J", L: "J", M: "H", N: "KL" },
  };
  const waits: WaitsFor[] = Object.entries(BEFORE).flatMap(([id, before]) =>
    [...before].map((forId) => ({ id, forId })),
  );

  test("has the critical path that the book says, whatever the order of its activities", () => {
    const activities = Object.entries(DURATIONS).map(([id, size]) => ({ id, size }));
    for (const items of [activities, activities.toReversed()]) {
      const chain = longestChain(items, waits);
      expect(chain.join("")).toBe("ABCEFJLN");
      expect(chain.reduce((sum, id) => sum + DURATIONS[id], 0)).toBe(44);
    }
  });
});

test("the longest chain of a random network is as long as graphology's nodes make one", () => {
  const network = fc.integer({ min: 2, max: 9 }).chain((n) =>
    fc.record({
      sizes: fc.array(fc.integer({ min: 0, max: 9 }), { minLength: n, maxLength: n }),
      links: fc.array(fc.tuple(fc.nat(n - 1), fc.nat(n - 1)), { maxLength: 16 }),
    }),
  );
  fc.assert(
    fc.property(network, ({ sizes, links }) => {
      const graph = new DirectedGraph();
      sizes.forEach((size, i) => graph.addNode(String(i), { size }));
      // Each waits only for earlier ones: there is no circle.
      const pairs = links
        .filter(([a, b]) => a !== b)
        .map(([a, b]) => [String(Math.max(a, b)), String(Math.min(a, b))] as const);
      for (const [id, forId] of pairs) graph.mergeEdge(forId, id);
      /** The most that a walk along the edges from a node adds up to, by trying all of them. */
      const walk = (node: string): number =>
        (graph.getNodeAttribute(node, "size") as number) +
        Math.max(0, ...graph.outNeighbors(node).map(walk));
      const linked = graph.nodes().filter((node) => graph.degree(node) > 0);
      const items = sizes.map((size, i) => ({ id: String(i), size }));
      const chain = longestChain(
        items,
        pairs.map(([id, forId]) => ({ id, forId })),
      );
      if (linked.length === 0) return expect(chain).toEqual([]);
      const sum = chain.reduce((total, id) => total + sizes[Number(id)], 0);
      expect(sum).toBe(Math.max(...linked.map(walk)));
      for (const [i, id] of chain.entries())
        if (i > 0) expect(graph.hasEdge(chain[i - 1], id)).toBe(true);
    }),
    { numRuns: 300 },
  );
});
