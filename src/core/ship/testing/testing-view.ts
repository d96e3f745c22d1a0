import type { Instant } from "@/core/calendar/instant";
import type { ClassOfService } from "@/core/item/fields";
import type { StateKind } from "@/core/workflow/state";
import type { Stale, Tested } from "./case-standing";
import type { MachineResult } from "./machine-test";
import type { FailureCourse, StepResult } from "./step-result";
import type { TestStep } from "./test-case";
import type { Verdict } from "./verdict";

/** A person, as tests name them. */
export interface TesterNamed {
  id: string;
  name: string;
}

/** A run as others speak of it. */
export interface RunNamed {
  number: number;
  tester: TesterNamed;
  environment: string | null;
  build: string | null;
  startedAt: Instant;
  endedAt: Instant | null;
  /** Null while it is under way, or where not all of it was tried. */
  verdict: Verdict | null;
  /** Steps that were tried, failed, and are there. */
  tried: number;
  of: number;
  /** "step 4", "steps 2 and 4 of TIX-T88": what failed, in words; empty where nothing did. */
  failed: string;
}

/** An item that waits for somebody to test it, or is being tested. */
export interface QueueRow {
  id: string;
  key: string;
  title: string;
  typeId: string;
  classOfService: ClassOfService;
  stateName: string;
  /** Whether somebody tests it now. */
  begun: boolean;
  since: Instant;
  days: number;
  builder: string | null;
  /** The last environment before live that has all of it; null where none has. */
  on: { environment: string; build: string | null } | null;
  mergedAt: Instant | null;
  hasHowToTest: boolean;
  /** Where it comes to once somebody tests it; null where it is there, or nothing leads there. */
  takesTo: { to: string; toName: string } | null;
  tested: Tested;
  cases: number;
  /** The run that is under way. */
  running: RunNamed | null;
  /** The last one that ended. */
  last: RunNamed | null;
}

export interface TestQueue {
  project: { key: string; name: string; zone: string };
  me: string;
  rows: QueueRow[];
  /** Runs under way that are of no single item. */
  runs: (RunNamed & { title: string })[];
  environments: string[];
  testers: TesterNamed[];
  rights: { edit: boolean };
  now: Instant;
}

/** What a machine found of a case. */
export interface MachineFound {
  testId: string;
  suite: string;
  name: string;
  last: { result: MachineResult; at: Instant; commit: string; message: string } | null;
  /** How often it changed its mind on one commit. */
  changedMind: number;
}

/** A case of an item, with what came of it. */
export interface ItemCase {
  id: string;
  key: string;
  number: number;
  title: string;
  steps: number;
  version: number;
  last: {
    verdict: Verdict | null;
    at: Instant;
    run: number;
    build: string | null;
    environment: string | null;
    by: string;
  } | null;
  stale: Stale | null;
  machines: MachineFound[];
}

/** A pass by a machine, after the test had failed on the item's own branch. */
export interface SeenToFail {
  caseId: string;
  failedAt: Instant;
  passedAt: Instant | null;
}

/** The step that an item came of: something failed there. */
export interface FoundBy {
  caseKey: string;
  caseNumber: number;
  /** As people count. */
  step: number;
  expected: string;
  run: number;
}

/** How an item is tested. */
export interface ItemTests {
  item: { id: string; key: string; title: string; stateName: string; stateKind: string };
  howToTest: string | null;
  tested: Tested;
  cases: ItemCase[];
  /** The latest first. */
  runs: RunNamed[];
  /** The number of the last one that was given up, where none came after it; it can be gone on with. */
  gaveUp: number | null;
  firstFailed: SeenToFail[];
  /** Null where it came of no test. */
  foundBy: FoundBy | null;
  /** What the last ended run's build does not have, and this one does. */
  changedSince: {
    hash: string;
    message: string;
    author: string;
    url: string | null;
    at: Instant;
  }[];
  builds: { build: string; environment: string | null; at: Instant }[];
  environments: string[];
  testers: TesterNamed[];
  /** Where it can be looked at. */
  on: { environment: string; build: string | null; address: string | null } | null;
  criteria: { id: string; text: string }[];
  rights: { edit: boolean };
  now: Instant;
}

/** A step of a run. */
export interface RunStep extends TestStep {
  result: StepResult | null;
  note: string;
  course: FailureCourse | null;
  givenTo: TesterNamed | null;
  pictures: { id: string; name: string; width: number | null; height: number | null }[];
  /** What was seen the last time that it failed; null where it did not the last time. */
  lastTime: { note: string; by: string; at: Instant; build: string | null; run: number } | null;
  /** The task or bug that came of it. */
  became: { key: string; title: string } | null;
}

export interface RunCase {
  caseId: string;
  key: string;
  title: string;
  before: string;
  version: number;
  /** Whether the case says something else by now. */
  rewritten: boolean;
  verdict: Verdict | null;
  item: { id: string; key: string; title: string; stateKind: StateKind } | null;
  steps: RunStep[];
}

/** A move that an item can go by when the run ends. */
export interface MoveOffered {
  to: string;
  verb: string;
  toName: string;
  /** Whether it leads back. */
  back: boolean;
}

/** Where an item can go when its run ends. */
export interface ItemMoves {
  itemId: string;
  key: string;
  stateName: string;
  moves: MoveOffered[];
  /** Whether it goes by itself: by a rule of its process on a run that passed, or failed. */
  byItself: { passed: boolean; failed: boolean };
}

/** A run with all that is said of it. */
export interface RunView extends RunNamed {
  id: string;
  project: { key: string; name: string; zone: string };
  title: string;
  /** Which run of this item it is: 3 for the third. */
  nth: number;
  item: { id: string; key: string; title: string } | null;
  givenUpAt: Instant | null;
  cases: RunCase[];
  moves: ItemMoves[];
  people: TesterNamed[];
  /** Whoever looks may say what they see: it is theirs, or they lead. */
  mayRecord: boolean;
  now: Instant;
}

/** A case in the list of all. */
export interface CaseRow {
  id: string;
  key: string;
  number: number;
  title: string;
  steps: number;
  version: number;
  part: string | null;
  suiteId: string | null;
  putAwayAt: Instant | null;
  items: { key: string; title: string }[];
  last: { verdict: Verdict | null; at: Instant; run: number } | null;
  /** Of the last twelve times, the oldest first. */
  history: (Verdict | null)[];
  machines: number;
  unsteady: boolean;
}

export interface CasesView {
  project: { key: string; name: string; zone: string };
  suites: { id: string; name: string }[];
  /** Those that were put away. */
  suitesAway: { id: string; name: string }[];
  cases: CaseRow[];
  parts: string[];
  /** Machines' tests that no case stands for, those that changed their mind first. */
  machines: MachineFound[];
  /** Open items without a case, and all open items of level 1. */
  untested: { ids: string[]; of: number };
  rights: { edit: boolean };
  now: Instant;
}

/** A case with its versions and what came of it. */
export interface CaseView {
  id: string;
  key: string;
  number: number;
  title: string;
  before: string;
  steps: TestStep[];
  part: string | null;
  suiteId: string | null;
  version: number;
  putAwayAt: Instant | null;
  versions: { version: number; at: Instant; by: string; change: string }[];
  items: { id: string; key: string; title: string }[];
  runs: {
    number: number;
    at: Instant;
    by: string;
    build: string | null;
    verdict: Verdict | null;
  }[];
  machines: MachineFound[];
}
