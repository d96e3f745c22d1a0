import { readdirSync } from "node:fs";
import { build } from "esbuild";

/*
 * Puts the core's tests with the (mutated) core into one file that is loaded in a moment: a mutant
 * is asked about thousands of times, and loading forty test files takes longer than their tests.
 * Left out is what takes long and shows no more of a single change: simulations, readers fed with
 * very large texts, the walk through all files.
 */
const SLOW = /(outside-text|wall-clock|queueing|fuzz|imports|documented|markdown)\.test/;

const tests = ["tests/core", "tests/reference"].flatMap((folder) =>
  readdirSync(folder)
    .filter((name) => /\.test\.tsx?$/.test(name) && !SLOW.test(name))
    .map((name) => `./${folder}/${name}`),
);

// Properties are tried with few cases, also where a test does not say how many (tests/core/setup/runs.ts), and with
// the same ones for every change.
const few = `process.env.MUTATED = "yes"; require("fast-check").configureGlobal({ numRuns: 25, seed: 7 });`;

await build({
  stdin: {
    contents: [
      few,
      ...tests.map((file) => `describe("${file}", () => { require("${file}"); });`),
    ].join("\n"),
    resolveDir: ".",
  },
  outfile: ".mutated/core.test.cjs",
  bundle: true,
  platform: "node",
  target: "node20",
  format: "cjs",
  alias: { "@tests": "./tests", "@demo": "./demo", "@": "./src" },
  legalComments: "none",
  logLevel: "warning",
});
