import { z } from "zod";
import { answered, contract, DONE } from "@/core/contract/contract";
import { LARGEST_ITEM_FILE } from "@/core/item/item-file";
import { endRunBody, startRunBody, stepResultBody, suiteBody } from "./step-result";
import { caseBody } from "./test-case";
import type { CasesView, CaseView, ItemTests, RunView, TestQueue } from "./testing-view";
import type { Suspect } from "./whose-is-it";

const TESTS = "/api/projects/:key/ship/tests";

export const testingContract = {
  /** What waits to be tested, and who tests what now. */
  queue: contract({ method: "GET", path: TESTS, answer: answered<TestQueue>(), kept: "tests" }),
  /** How an item is tested: its cases, runs, and what machines found. */
  ofItem: contract({
    method: "GET",
    path: "/api/items/:key/tests",
    answer: answered<ItemTests>(),
    kept: "item tests",
  }),
  /** Says that a case tests an item, or does not any more. */
  link: contract({
    method: "POST",
    path: "/api/items/:key/tests",
    body: z.object({ caseId: z.uuid(), on: z.boolean() }),
    answer: DONE,
  }),
  run: contract({
    method: "GET",
    path: `${TESTS}/runs/:number`,
    answer: answered<RunView>(),
    kept: "test run",
  }),
  start: contract({
    method: "POST",
    path: `${TESTS}/runs`,
    body: startRunBody,
    answer: answered<{ number: number }>(),
  }),
  /** Says what was seen in a step. */
  record: contract({
    method: "POST",
    path: `${TESTS}/runs/:number/steps`,
    body: stepResultBody,
    answer: DONE,
  }),
  /** Ends a run: what failed becomes tasks and bugs, and items hear of it. */
  end: contract({
    method: "POST",
    path: `${TESTS}/runs/:number/end`,
    body: endRunBody,
    answer: answered<{ made: { key: string; title: string }[]; moved: string[] }>(),
  }),
  /** Gives a run up, or goes on with it. */
  giveUp: contract({
    method: "POST",
    path: `${TESTS}/runs/:number/give-up`,
    body: z.object({ givenUp: z.boolean() }),
    answer: DONE,
  }),
  /** Whose a failing step may be. */
  whose: contract({
    method: "GET",
    path: `${TESTS}/runs/:number/whose`,
    query: z.object({ caseId: z.uuid(), stepId: z.uuid() }),
    answer: answered<{ suspects: Suspect[]; since: string | null }>(),
    kept: "whose is it",
  }),
  putPicture: contract({
    method: "POST",
    path: `${TESTS}/runs/:number/pictures`,
    query: z.object({
      id: z.uuid(),
      caseId: z.uuid(),
      stepId: z.uuid(),
      name: z.string().max(500).default("picture"),
    }),
    largest: LARGEST_ITEM_FILE,
    answer: DONE,
  }),
  picture: contract({
    method: "GET",
    path: `${TESTS}/runs/:number/pictures/:picture`,
    answer: z.unknown(),
  }),
  removePicture: contract({
    method: "DELETE",
    path: `${TESTS}/runs/:number/pictures/:picture`,
    answer: DONE,
  }),
  cases: contract({
    method: "GET",
    path: `${TESTS}/cases`,
    answer: answered<CasesView>(),
    kept: "test cases",
  }),
  case: contract({
    method: "GET",
    path: `${TESTS}/cases/:number`,
    answer: answered<CaseView>(),
    kept: "test case",
  }),
  /** Makes a case, or writes it anew. */
  saveCase: contract({
    method: "POST",
    path: `${TESTS}/cases`,
    body: caseBody,
    answer: answered<{ number: number }>(),
  }),
  putAwayCase: contract({
    method: "POST",
    path: `${TESTS}/cases/:number`,
    body: z.object({ putAway: z.boolean() }),
    answer: DONE,
  }),
  /** Makes a suite, calls it something else, or puts it away. */
  suite: contract({ method: "POST", path: `${TESTS}/suites`, body: suiteBody, answer: DONE }),
};
