import { readFileSync } from "node:fs";
import type { AxeResults } from "axe-core";
import type { Person } from "./person";

const AXE = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");

/** What axe-core calls serious or critical, as "rule: element". WCAG 2.2 level AA. */
export async function seriousFindings(person: Person): Promise<string[]> {
  await person.page.evaluate(AXE);
  const results = (await person.page.evaluate(
    "axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] })",
  )) as AxeResults;
  expect(results.passes.length).toBeGreaterThan(5);
  return results.violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .flatMap((v) =>
      v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.any[0]?.message ?? ""}`),
    );
}
