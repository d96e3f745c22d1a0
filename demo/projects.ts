import type { ColumnPart } from "@/core/board/column";
import type { ProjectKey } from "./people";
import { QUAY_GATES } from "./words/quay-gates";
import type { TitleStock } from "./words/stock";
import { TICKET_APP } from "./words/ticket-app";
import { TIMETABLES } from "./words/timetables";

export interface DemoColumn {
  stage: string;
  name: string;
  part: ColumnPart;
  state: string;
  min?: number;
  max?: number;
  maxFirm?: boolean;
  minFirm?: boolean;
}

export interface DemoProject {
  key: ProjectKey;
  name: string;
  team: string;
  words: TitleStock;
  expectation: { days: number; share: number };
  columns: DemoColumn[];
  /** What the simulated process is made of. Times in working hours. */
  process: {
    items: number;
    backlog: number;
    builders: number;
    reviewers: number;
    testers: number;
    buildMedian: number;
    reviewMean: number;
    testMean: number;
    seed: number;
  };
}

const columns = (
  limits: [
    ready: number,
    build: number,
    toReview: number,
    review: number,
    toTest: number,
    test: [number, number],
    deploy: number,
  ],
): DemoColumn[] => [
  { stage: "Ready", name: "to pull", part: "waiting", state: "Ready", max: limits[0] },
  { stage: "Build", name: "building", part: "working", state: "Building", max: limits[1] },
  {
    stage: "Review",
    name: "waiting",
    part: "waiting",
    state: "Waiting for review",
    max: limits[2],
  },
  {
    stage: "Review",
    name: "reviewing",
    part: "working",
    state: "In review",
    max: limits[3],
    maxFirm: true,
  },
  { stage: "Test", name: "waiting", part: "waiting", state: "Waiting for test", max: limits[4] },
  {
    stage: "Test",
    name: "testing",
    part: "working",
    state: "In test",
    min: limits[5][0],
    max: limits[5][1],
  },
  { stage: "Deploy", name: "waiting", part: "waiting", state: "Ready to deploy", max: limits[6] },
  { stage: "Live", name: "14 days", part: "finished", state: "Live" },
];

export const PROJECTS: DemoProject[] = [
  {
    key: "TIX",
    name: "Ticket app",
    team: "ticketing",
    words: TICKET_APP,
    expectation: { days: 11, share: 0.85 },
    columns: columns([8, 6, 4, 3, 4, [3, 4], 6]),
    process: {
      items: 540,
      backlog: 74,
      builders: 5,
      reviewers: 2,
      testers: 2,
      buildMedian: 8.9,
      reviewMean: 4.1,
      testMean: 4,
      seed: 26,
    },
  },
  {
    key: "GATE",
    name: "Quay gates",
    team: "quayside",
    words: QUAY_GATES,
    expectation: { days: 12, share: 0.85 },
    columns: columns([6, 4, 4, 2, 4, [1, 2], 5]),
    process: {
      items: 360,
      backlog: 41,
      builders: 3,
      reviewers: 1,
      testers: 1,
      buildMedian: 8.29,
      reviewMean: 2.8,
      testMean: 2.7,
      seed: 45,
    },
  },
  {
    key: "TIDE",
    name: "Timetables",
    team: "timetables",
    words: TIMETABLES,
    expectation: { days: 12, share: 0.85 },
    columns: columns([6, 4, 3, 2, 3, [1, 2], 5]),
    process: {
      items: 290,
      backlog: 36,
      builders: 3,
      reviewers: 1,
      testers: 1,
      buildMedian: 9.54,
      reviewMean: 3.3,
      testMean: 3.2,
      seed: 40,
    },
  },
];

export const ZONE = "Europe/London";
export const WEEKS = 39;
/** Weeks of the history in which storms cancel sailings and unplanned work peaks. */
export const STORM_WEEKS = [5, 6, 17, 28, 29, 37];
