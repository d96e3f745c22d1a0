import { readFileSync } from "node:fs";
import type { AxeResults } from "axe-core";
import type { Person } from "./person";

const AXE = readFileSync(require.resolve("axe-core/axe.min.js"), "utf8");

/** WCAG 2.2 level AA. */
const ALL = "['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']";

/** What axe-core calls serious or critical by some of its rules, as "rule: element". */
async function findings(person: Person, rules: string): Promise<string[]> {
  const results = (await person.page.evaluate(
    `axe.run(document, { runOnly: ${rules} })`,
  )) as AxeResults;
  expect(results.passes.length).toBeGreaterThan(0);
  return results.violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .flatMap((v) =>
      v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.any[0]?.message ?? ""}`),
    );
}

/** What is seriously wrong with a page: by all rules on light paper, and by its colours on dark. */
export async function seriousFindings(person: Person): Promise<string[]> {
  const { page } = person;
  await page.evaluate(AXE);
  const onPaper = (theme: "light" | "dark") =>
    page.evaluate((now) => {
      // What changes its colour slowly would be measured half-way.
      const still = document.createElement("style");
      still.textContent = "*, ::before, ::after { transition: none !important; }";
      document.head.append(still);
      document.documentElement.dataset.theme = now;
    }, theme);
  await onPaper("light");
  const light = await findings(person, ALL);
  await onPaper("dark");
  const dark = await findings(person, "['color-contrast']");
  await onPaper("light");
  return [...light, ...dark.map((finding) => `on dark paper, ${finding}`)];
}
