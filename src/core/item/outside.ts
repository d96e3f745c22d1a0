/** What is known of an item from outside: its changes, its test runs, where it runs. */
export const CHANGE_CHECKS = ["running", "passed", "failed"] as const;
export type ChangeChecks = (typeof CHANGE_CHECKS)[number];

export const TEST_RESULTS = ["passed", "failed"] as const;
export type TestResult = (typeof TEST_RESULTS)[number];

/** Commits merged together that belong to an item. */
export interface LinkedChange {
  /** As the code host names it. */
  id: string;
  status: "open" | "merged" | "abandoned";
  /** Null while no check has reported. */
  checks: ChangeChecks | null;
  review: "approved" | "sent back" | null;
}

export interface Outside {
  changes: LinkedChange[];
  /** Environments that all of the item is on, in the order it reached them. */
  deployedTo: string[];
  testResult: TestResult | null;
}

export const NOTHING_OUTSIDE: Outside = { changes: [], deployedTo: [], testResult: null };

/** Something that happened outside and concerns an item. */
export type OutsideFact =
  /** Something came to a branch on which there was nothing for it before. */
  | { kind: "work pushed" }
  /** A commit on the main branch says that it is done. */
  | { kind: "commit says done"; commit: string }
  /** What a commit did for it was taken back on the main branch. */
  | { kind: "commit reverted"; commit: string }
  | { kind: "change opened"; change: string }
  /** It has other commits now: what checks said of the ones before does not count any more. */
  | { kind: "change updated"; change: string }
  | { kind: "change merged"; change: string }
  | { kind: "change abandoned"; change: string }
  | { kind: "checks started"; change: string }
  | { kind: "checks passed"; change: string }
  | { kind: "checks failed"; change: string }
  | { kind: "review approved"; change: string }
  | { kind: "review sent back"; change: string }
  | { kind: "test run passed"; run: string }
  | { kind: "test run failed"; run: string }
  /** Somebody it was shown to accepted it. */
  | { kind: "accepted"; given: number; asked: number }
  /** Somebody it was shown to says that something is missing. */
  | { kind: "something missing" }
  | { kind: "deployed"; environment: string }
  /** Not all of it is there any more: an older build came, or more was merged for it. */
  | { kind: "deployed no more"; environment: string };

/** What is known after a fact. */
export function outsideAfter(before: Outside, fact: OutsideFact): Outside {
  switch (fact.kind) {
    case "work pushed":
    case "commit says done":
    case "commit reverted":
    case "accepted":
    case "something missing":
      return before;
    case "test run passed":
      return { ...before, testResult: "passed" };
    case "test run failed":
      return { ...before, testResult: "failed" };
    case "deployed":
      return before.deployedTo.includes(fact.environment)
        ? before
        : { ...before, deployedTo: [...before.deployedTo, fact.environment] };
    case "deployed no more":
      return {
        ...before,
        deployedTo: before.deployedTo.filter((one) => one !== fact.environment),
      };
    default:
      return { ...before, changes: changesAfter(before.changes, fact) };
  }
}

function changesAfter(
  changes: readonly LinkedChange[],
  fact: Extract<OutsideFact, { change: string }>,
): LinkedChange[] {
  const known = changes.find((c) => c.id === fact.change) ?? {
    id: fact.change,
    status: "open" as const,
    checks: null,
    review: null,
  };
  // What was merged is not open again because the event that it was opened came late.
  const late = known.status === "merged" && fact.kind === "change opened";
  const next = late ? known : { ...known, ...CONSEQUENCES[fact.kind] };
  return changes.some((c) => c.id === fact.change)
    ? changes.map((c) => (c.id === fact.change ? next : c))
    : [...changes, next];
}

const CONSEQUENCES: Record<
  Extract<OutsideFact, { change: string }>["kind"],
  Partial<LinkedChange>
> = {
  "change opened": { status: "open" },
  "change updated": { checks: null },
  "change merged": { status: "merged" },
  "change abandoned": { status: "abandoned" },
  "checks started": { checks: "running" },
  "checks passed": { checks: "passed" },
  "checks failed": { checks: "failed" },
  "review approved": { review: "approved" },
  "review sent back": { review: "sent back" },
};

/**
 * The checks of all changes that count: failed where one failed, passed where all passed; null
 * where none has any.
 */
export function checksOf(changes: readonly LinkedChange[]): ChangeChecks | null {
  const checks = changes.filter((c) => c.status !== "abandoned").map((c) => c.checks);
  if (checks.includes("failed")) return "failed";
  if (checks.length === 0 || checks.every((c) => c === null)) return null;
  return checks.every((c) => c === "passed") ? "passed" : "running";
}

/** "Change 41 was merged". */
export function outsideWords(fact: OutsideFact): string {
  switch (fact.kind) {
    case "work pushed":
      return "something was pushed for it";
    case "commit says done":
      return `commit ${fact.commit} on main says that it is done`;
    case "commit reverted":
      return `commit ${fact.commit} was taken back on main`;
    case "change opened":
      return `change ${fact.change} was opened`;
    case "change updated":
      return `change ${fact.change} has other commits`;
    case "change merged":
      return `change ${fact.change} was merged`;
    case "change abandoned":
      return `change ${fact.change} was given up`;
    case "checks started":
      return `checks of change ${fact.change} began`;
    case "checks passed":
      return `checks of change ${fact.change} passed`;
    case "checks failed":
      return `checks of change ${fact.change} failed`;
    case "review approved":
      return `change ${fact.change} was approved in review`;
    case "review sent back":
      return `change ${fact.change} was sent back in review`;
    case "test run passed":
      return `test run ${fact.run} passed`;
    case "test run failed":
      return `test run ${fact.run} failed`;
    case "accepted":
      return `${fact.given} of ${fact.asked} whom it was shown to accepted it`;
    case "something missing":
      return "somebody it was shown to misses something";
    case "deployed":
      return `it was deployed to ${fact.environment}`;
    case "deployed no more":
      return `not all of it is on ${fact.environment} any more`;
  }
}
