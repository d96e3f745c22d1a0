import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { readJunit } from "@/core/ship/testing/junit";

/*
 * Test results as runners that this project did not make write them:
 * - pytest 9.0.3, `--junitxml`, recorded in `junit/pytest.xml` from `junit/sample_prices.py` (its folder
 *   and the host's name taken out);
 * - Node.js's own test runner, `--test-reporter=junit`, run here;
 * - Jest with the package jest-junit 16, run here.
 */

const told = (xml: string) =>
  readJunit(xml).results.map(({ suite, name, result }) => [suite, name, result]);

let folder: string;
beforeAll(() => (folder = mkdtempSync(path.join(tmpdir(), "junit-"))));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
/** Runs a program whose tests fail on purpose. */
const run = (program: string, args: string[], env: Record<string, string> = {}) => {
  const { PATH, HOME } = process.env;
  try {
    execFileSync(program, args, {
      ...{ cwd: folder, stdio: "pipe" },
      env: { PATH, HOME, ...env } as unknown as NodeJS.ProcessEnv,
    });
  } catch {
    // One of the tests fails: that is what is read.
  }
};

test("pytest: passed, failed, skipped, broken before it began", () => {
  const xml = readFileSync(path.join(__dirname, "junit/pytest.xml"), "utf8");
  expect(told(xml)).toEqual([
    ["sample_prices", "test_adult_pays_by_zones", "passed"],
    ["sample_prices", "test_child_pays_half", "failed"],
    ["sample_prices", "test_bicycle", "skipped"],
    ["sample_prices", "test_needs_a_quay", "failed"],
    ["sample_prices.TestFamily", "test_two_children_go_free", "passed"],
  ]);
  expect(readJunit(xml).results[1].message).toContain("a child pays <half> & no more");
});

const SAMPLE = `
test("TIX-T4 pays by zones", () => {});
test("a child pays half", () => { throw new Error("a <quarter>"); });
test.skip("a bicycle has one price", () => {});
`;

test("Node's own runner", () => {
  writeFileSync(path.join(folder, "prices.test.mjs"), `import test from "node:test";${SAMPLE}`);
  const out = path.join(folder, "node.xml");
  run(process.execPath, [
    ...["--test", "--test-reporter=junit", `--test-reporter-destination=${out}`],
    "prices.test.mjs",
  ]);
  expect(told(readFileSync(out, "utf8")).map(([, name, result]) => [name, result])).toEqual([
    ["TIX-T4 pays by zones", "passed"],
    ["a child pays half", "failed"],
    ["a bicycle has one price", "skipped"],
  ]);
});

test("Jest's", () => {
  writeFileSync(path.join(folder, "prices.test.js"), `describe("prices", () => {${SAMPLE}});`);
  writeFileSync(path.join(folder, "package.json"), "{}");
  const program = require.resolve("jest/bin/jest");
  run(
    process.execPath,
    [
      ...[program, "--rootDir", folder, "--runInBand", "--testRegex", "prices\\.test\\.js$"],
      `--reporters=${require.resolve("jest-junit")}`,
    ],
    { JEST_JUNIT_OUTPUT_FILE: path.join(folder, "jest.xml") },
  );
  expect(told(readFileSync(path.join(folder, "jest.xml"), "utf8"))).toEqual([
    ["prices", "prices TIX-T4 pays by zones", "passed"],
    ["prices", "prices a child pays half", "failed"],
    ["prices", "prices a bicycle has one price", "skipped"],
  ]);
});
