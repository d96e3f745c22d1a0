import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import path from "node:path";
import vm from "node:vm";
import { declareClassPlugin, PluginKind } from "@stryker-mutator/api/plugin";
import { determineHitLimitReached, toMutantRunResult } from "@stryker-mutator/api/test-runner";
import { expect } from "expect";
import { bind } from "jest-each";

/** What the changed code is steered by and counts in: shared with what the mutation put into it. */
const instrumenter = (globalThis.__stryker__ ??= {});

/**
 * The tests of one file, gathered without being run. Of Jest's interface it knows what the core's
 * tests use: groups, tests, tables of both, and what is done before a group.
 */
class Tests {
  all = [];
  #sameName = new Map();
  #groups = [{ name: "", prepare: [] }];

  globals() {
    const describe = (name, body) => {
      this.#groups.push({ name, prepare: [] });
      body();
      this.#groups.pop();
    };
    describe.each = bind(describe, false);
    const test = (name, body) => this.#add(name, body);
    test.each = bind(test, false);
    const beforeAll = (body) => this.#groups.at(-1).prepare.push(body);
    return { expect, describe, test, it: test, beforeAll };
  }

  #add(title, body) {
    const groups = [...this.#groups];
    const name = [...groups.slice(1).map((group) => group.name), title].join(" ");
    const earlier = this.#sameName.get(name) ?? 0;
    this.#sameName.set(name, earlier + 1);
    this.all.push({ id: earlier > 0 ? `${name} (${earlier + 1})` : name, name, groups, body });
  }
}

/** Prepares the groups that were not prepared yet, from the outermost in, and runs the test. */
async function runTest({ groups, body }) {
  for (const group of groups) for (const prepare of group.prepare.splice(0)) await prepare();
  await body();
}

/**
 * Runs the bundle of the core's tests within this process. A test runner made for whole projects
 * starts anew for every change, which takes longer than the tests do; here the text is parsed once
 * and only carried out again, so that nothing one change left behind is there for the next.
 */
class InProcessRunner {
  #script;
  #file = path.resolve(".mutated/core.test.cjs");
  #tookBefore = new Map();

  capabilities() {
    return { reloadEnvironment: true };
  }

  async init() {
    const text = readFileSync(this.#file, "utf8");
    const parameters = "exports, require, module, __filename, __dirname";
    this.#script = new vm.Script(`(function (${parameters}) {${text}\n})`, {
      filename: this.#file,
    });
  }

  #load() {
    const tests = new Tests();
    Object.assign(globalThis, tests.globals());
    const loaded = { exports: {} };
    const evaluate = this.#script.runInThisContext();
    const require = createRequire(this.#file);
    evaluate(loaded.exports, require, loaded, this.#file, path.dirname(this.#file));
    return tests.all;
  }

  async #run(tests, bail) {
    const results = [];
    for (const test of tests) {
      instrumenter.currentTestId = test.id;
      const began = performance.now();
      const failure = await runTest(test).then(
        () => null,
        (error) => String(error?.message ?? error),
      );
      const timeSpentMs = performance.now() - began;
      const told = { id: test.id, name: test.name, timeSpentMs };
      // The numbers are the interface's: 0 passed, 1 failed.
      results.push(
        failure === null ? { ...told, status: 0 } : { ...told, status: 1, failureMessage: failure },
      );
      if (failure !== null && bail) break;
    }
    instrumenter.currentTestId = undefined;
    return { status: "complete", tests: results };
  }

  async dryRun() {
    instrumenter.activeMutant = undefined;
    instrumenter.mutantCoverage = { static: {}, perTest: {} };
    const result = await this.#run(this.#load(), false);
    return { ...result, mutantCoverage: instrumenter.mutantCoverage };
  }

  async mutantRun({ activeMutant, testFilter, hitLimit, disableBail }) {
    instrumenter.mutantCoverage = undefined;
    instrumenter.hitCount = hitLimit === undefined ? undefined : 0;
    instrumenter.hitLimit = hitLimit;
    instrumenter.activeMutant = activeMutant.id;
    const wanted = testFilter && new Set(testFilter);
    let tests;
    try {
      tests = this.#load().filter((test) => !wanted || wanted.has(test.id));
    } catch (error) {
      // What a test asks for while it is gathered did not come: noticed before any test ran.
      const failureMessage = String(error?.message ?? error);
      return { status: "killed", failureMessage, killedBy: testFilter ?? [], nrOfTests: 0 };
    }
    const took = (test) => this.#tookBefore.get(test.id) ?? 0;
    tests.sort((one, other) => took(one) - took(other));
    const result = await this.#run(tests, !disableBail);
    for (const test of result.tests) this.#tookBefore.set(test.id, test.timeSpentMs);
    const tooOften = determineHitLimitReached(instrumenter.hitCount, hitLimit);
    return tooOften ?? toMutantRunResult(result);
  }
}

export const strykerPlugins = [
  declareClassPlugin(PluginKind.TestRunner, "in-process", InProcessRunner),
];
