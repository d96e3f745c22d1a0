import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import type { CloudEvent } from "@/core/formats/cloud-event";
import { wentWell } from "@/core/formats/delivery-event";
import { FileProblem } from "@/core/formats/xml";
import { hash } from "./code-event";
import { readJunit, type JunitResults } from "./testing/junit";
import type { MachineTestTold } from "./testing/machine-test";

/** Machines tried something on a commit. */
export interface TestNews {
  kind: "tests";
  repository: string;
  commit: string;
  /** As the pipeline names it. */
  run: string;
  at: Instant;
  results: MachineTestTold[];
  /** How many were not understood. */
  left: number;
}

const text = z.string().trim().max(500);
const LARGEST_XML = 900_000;

const documentSchema = z.looseObject({
  subject: z.looseObject({
    id: text.min(1),
    content: z
      .looseObject({
        outcome: text.optional(),
        repository: z.looseObject({ id: text.min(1) }).optional(),
        testCase: z.looseObject({ id: text.min(1), name: text.optional() }).optional(),
        testSuite: z.looseObject({ id: text.min(1), name: text.optional() }).optional(),
        reason: z.string().max(2_000).optional(),
      })
      .default({}),
  }),
  customData: z
    .looseObject({
      repository: text.optional(),
      commit: hash.optional(),
      run: text.optional(),
      junit: z.string().max(LARGEST_XML, "Results have 900,000 signs at most.").optional(),
    })
    .default({}),
});

const TYPE = /^dev\.cdevents\.(testcaserun|testsuiterun)\.finished\./;

/**
 * Reads test results from an event. CDEvents' `testcaserun.finished` is one result; of a
 * `testsuiterun.finished` the results stand as JUnit-style XML in `customData.junit`. Which repository
 * and commit were tried is not part of CDEvents: that stands in `customData`.
 * @param now when it came, for an event that does not say when it happened
 * @returns null for an event of another kind, or of one that names no repository or commit
 * @throws ZodError when something in it is not of its kind, or its XML is none
 */
export function readTestEvent(event: CloudEvent, now: Instant): TestNews | null {
  const [, subject] = TYPE.exec(event.type) ?? [];
  if (!subject) return null;
  const { subject: about, customData } = documentSchema.parse(event.data);
  const repository = about.content.repository?.id ?? customData.repository;
  const { commit, run = about.id, junit } = customData;
  if (!repository || !commit) return null;
  const where = {
    ...{ kind: "tests" as const, repository, commit, run },
    at: event.time ? Date.parse(event.time) : now,
  };
  if (junit !== undefined) return { ...where, ...resultsIn(junit) };
  if (subject === "testsuiterun") return null;
  const { testCase, testSuite, outcome, reason = "" } = about.content;
  const result = outcome === "cancel" ? "skipped" : wentWell(outcome) ? "passed" : "failed";
  return {
    ...where,
    left: 0,
    results: [
      {
        suite: testSuite?.name ?? testSuite?.id ?? "",
        name: testCase?.name ?? testCase?.id ?? about.id,
        ...{ result, took: null, message: result === "failed" ? reason : "" },
      },
    ],
  };
}

/** @throws ZodError so that a sender is told like of everything else that is wrong */
function resultsIn(junit: string): JunitResults {
  try {
    return readJunit(junit);
  } catch (problem) {
    if (!(problem instanceof FileProblem)) throw problem;
    const path = ["customData", "junit"];
    throw new z.ZodError([{ code: "custom", path, message: problem.message, input: "" }]);
  }
}
