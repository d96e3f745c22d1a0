import { readdirSync, readFileSync } from "node:fs";
import { Stryker } from "@stryker-mutator/core";
import { writeScores, type MutantStatus, type Scored } from "./score-table";

const DOMAINS = readdirSync("src/core", { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name);

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !DOMAINS.includes(name));
if (unknown.length > 0)
  throw new Error(`There is no domain ${unknown.join(", ")}: ${DOMAINS.join(", ")}`);

/** What the last run over a domain found, change by change. */
const resultOf = (domain: string) => `.data/mutation/${domain}.json`;

interface Result {
  files: Record<string, { mutants: { status: MutantStatus }[] }>;
}

/** Changes one domain's code, expression by expression. */
async function mutate(domain: string): Promise<void> {
  await new Stryker({
    buildCommand: "node bin/mutate-data/bundle.mjs",
    testRunner: "in-process",
    plugins: ["./bin/mutate-data/runner.mjs"],
    mutate: [`src/core/${domain}/**/*.{ts,tsx}`],
    coverageAnalysis: "perTest",
    ignoreStatic: true,
    ignorePatterns: [".data", ".next*", ".built*", "docs", "src/db/migrations/meta"],
    reporters: ["progress-append-only", "json"],
    jsonReporter: { fileName: resultOf(domain) },
    tempDirName: ".data/stryker",
    allowEmpty: true,
    timeoutMS: 10_000,
    // What was carried out is freed late.
    maxTestRunnerReuse: 300,
    checkers: [],
  }).runMutationTest();
}

function scoredIn(domain: string): Scored {
  const { files } = JSON.parse(readFileSync(resultOf(domain), "utf8")) as Result;
  const mutants = Object.values(files).flatMap((file) => file.mutants);
  return { domain, statuses: mutants.map((mutant) => mutant.status) };
}

for (const domain of asked.length > 0 ? asked : DOMAINS) {
  await mutate(domain);
  writeScores("docs/mutation-score.md", [scoredIn(domain)]);
}
