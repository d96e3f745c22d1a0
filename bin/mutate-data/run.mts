import { readdirSync, readFileSync } from "node:fs";
import { Stryker } from "@stryker-mutator/core";
import { writeScores, type MutantStatus } from "./score-table";

const DOMAINS = readdirSync("src/core", { withFileTypes: true })
  .filter((entry) => entry.isDirectory())
  .map((entry) => entry.name);

const asked = process.argv.slice(2);
const unknown = asked.filter((name) => !DOMAINS.includes(name));
if (unknown.length > 0)
  throw new Error(`There is no domain ${unknown.join(", ")}: ${DOMAINS.join(", ")}`);

const resultOf = (domain: string) => `.data/mutation/${domain}.json`;

interface Result {
  files: Record<string, { mutants: { status: MutantStatus }[] }>;
}

/** Mutates one domain. What neither the code nor its tests changed since the last run is not asked about again. */
async function mutate(domain: string): Promise<void> {
  await new Stryker({
    buildCommand: "node bin/mutate-data/bundle.mjs",
    testRunner: "jest",
    jest: {
      projectType: "custom",
      configFile: "bin/mutate-data/jest.core.cjs",
      enableFindRelatedTests: false,
    },
    mutate: [`src/core/${domain}/**/*.{ts,tsx}`],
    coverageAnalysis: "perTest",
    ignoreStatic: true,
    incremental: true,
    incrementalFile: resultOf(domain),
    ignorePatterns: [".data", ".next*", ".built*", "docs", "src/db/migrations/meta"],
    reporters: ["progress-append-only", "json"],
    jsonReporter: { fileName: `.data/mutation/report-${domain}.json` },
    tempDirName: ".data/stryker",
    allowEmpty: true,
    timeoutMS: 10_000,
    checkers: [],
  }).runMutationTest();
}

/** The domains with a result, this run's or an earlier one's. */
const scored = () =>
  DOMAINS.flatMap((domain) => {
    try {
      const { files } = JSON.parse(readFileSync(resultOf(domain), "utf8")) as Result;
      const mutants = Object.values(files).flatMap((file) => file.mutants);
      return [{ domain, statuses: mutants.map((mutant) => mutant.status) }];
    } catch {
      return [];
    }
  });

for (const domain of asked.length > 0 ? asked : DOMAINS) await mutate(domain);
writeScores("docs/mutation-score.md", scored());
