import { cutText } from "@/core/formats/cut-text";
import { readXml, type XmlElement } from "@/core/formats/xml";
import type { MachineResult, MachineTestTold } from "./machine-test";

const LONGEST_NAME = 500;
const LONGEST_MESSAGE = 2_000;
/** More of one file are not kept; how many were left out is said. */
const MOST_RESULTS = 10_000;

/** The results of a file, and what was left out of it. */
export interface JunitResults {
  results: MachineTestTold[];
  /** Results without a name, and those beyond the most that are kept. */
  left: number;
}

/**
 * Reads test results as JUnit-style XML, as continuous-integration servers write and read it (from
 * memory: there is no binding schema). `testsuites` and `testsuite` nest; a `testcase` with `failure` or
 * `error` inside failed, with `skipped` was skipped, and passed otherwise; `time` is in seconds.
 * @throws FileProblem where it is no XML, too large, or has another root
 */
export function readJunit(text: string): JunitResults {
  const root = readXml(text);
  const found: { suite: string; element: XmlElement }[] = [];
  const walk = (element: XmlElement, suite: string) => {
    if (element.name === "testcase") return void found.push({ suite, element });
    if (element.name !== "testsuite" && element.name !== "testsuites") return;
    const inside = element.name === "testsuite" ? (element.attributes.name ?? suite) : suite;
    for (const child of element.children) walk(child, inside);
  };
  walk(root, "");
  const named = found.flatMap(({ suite, element }) => told(suite, element) ?? []);
  return {
    results: named.slice(0, MOST_RESULTS),
    left: found.length - Math.min(named.length, MOST_RESULTS),
  };
}

const FAILURES = new Set(["failure", "error"]);

function told(suite: string, { attributes, children }: XmlElement): MachineTestTold | null {
  const name = cutText((attributes.name ?? "").trim(), LONGEST_NAME);
  if (name === "") return null;
  const failure = children.find((child) => FAILURES.has(child.name));
  const skipped = children.some((child) => child.name === "skipped");
  const result: MachineResult = failure ? "failed" : skipped ? "skipped" : "passed";
  const seconds = Number(attributes.time);
  const group = (attributes.classname ?? "").trim();
  return {
    suite: cutText(group === "" || group === name ? suite : group, LONGEST_NAME),
    ...{ name, result },
    took: attributes.time && seconds >= 0 ? Math.round(Math.min(seconds, 86_400) * 1000) : null,
    message: failure ? cutText(messageOf(failure), LONGEST_MESSAGE) : "",
  };
}

const messageOf = ({ attributes, text }: XmlElement): string =>
  [attributes.message?.trim() ?? "", text.trim()].filter((part) => part !== "").join("\n");
