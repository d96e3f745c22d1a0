import { existsSync, readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { DirectedGraph } from "graphology";
import { stronglyConnectedComponents } from "graphology-components";

const IMPORT = /(?:import|export)\s(?:[^;"']*?\sfrom\s)?["'](@\/|\.{1,2}\/)([^"']+)["']/g;

/** Every file of the product with the files of it that it names, types included. */
function importGraph(): DirectedGraph {
  const graph = new DirectedGraph();
  const files = readdirSync("src", { recursive: true, encoding: "utf8" })
    // What routes are measured against belongs to bin (next.config.ts).
    .filter((f) => /\.tsx?$/.test(f) && !f.endsWith(".bench.ts"))
    .map((f) => path.join("src", f));
  for (const file of files) graph.addNode(file);
  for (const file of files)
    for (const [, way, rest] of readFileSync(file, "utf8").matchAll(IMPORT)) {
      const base = way === "@/" ? path.join("src", rest) : path.join(path.dirname(file), way, rest);
      const to = [base, `${base}.ts`, `${base}.tsx`].find((f) => graph.hasNode(f));
      if (to) graph.mergeEdge(file, to);
      else if (!existsSync(base)) throw new Error(`${file} names ${base}, which is not there`);
    }
  return graph;
}

test("no file imports itself over others, not even for a type", () => {
  const graph = importGraph();
  // What is found is the product: hundreds of files that name each other.
  expect([graph.order > 400, graph.size > 1_500]).toEqual([true, true]);
  expect(stronglyConnectedComponents(graph).filter((circle) => circle.length > 1)).toEqual([]);
});
