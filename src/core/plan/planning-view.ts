import type { Priority } from "@/core/item/fields";
import type { StateKind } from "@/core/workflow/state";
import type { Instant } from "@/core/calendar/instant";
import type { PastSprint } from "./sprint-view";
import type { PlanSettings } from "./plan-settings";
import type { PlannedSprint, Sprint, SprintStanding } from "./sprint";
import type { Focus } from "./room";
import type { WaitsFor } from "./dependencies";

/** An item as it stands in the plan of sprints. */
export interface PlanItem {
  id: string;
  key: string;
  title: string;
  typeId: string;
  version: number;
  sprintId: string | null;
  estimate: number | null;
  hoursLeft: number | null;
  assigneeId: string | null;
  teamId: string | null;
  priority: Priority;
  stateKind: StateKind;
}

/** A sprint that runs or comes, with what its people can do in it. */
export interface PlanSprint extends PlannedSprint {
  standing: SprintStanding;
  /** So many points it can take; null where no sprint has ended yet. */
  room: number | null;
  /** Holidays of the project in it. */
  holidays: number;
  /** Of each person on how many days they are at work, and off. */
  people: { id: string; days: number; off: number }[];
  /** Finished in it. */
  donePoints: number;
  /** Open in it, and not seen by this person. */
  unseen: { items: number; points: number };
}

/** What is planned into the next sprints, and what could be. */
export interface PlanningView {
  project: { key: string; name: string; zone: string };
  /** The first rows of the backlog that are in no sprint, best first. */
  backlog: PlanItem[];
  backlogTotal: number;
  sprints: PlanSprint[];
  /** Open in those sprints, by rank. */
  planned: PlanItem[];
  waits: WaitsFor[];
  /** Who works in the project, and how much of their time goes into what is planned. */
  people: { id: string; name: string; hoursADay: number; focus: Focus }[];
  teams: { id: string; name: string }[];
  /** Of all of them together. */
  focus: Focus;
  past: PastSprint[];
  /** So many hours a point takes; null where no sprint has ended. */
  perPoint: number | null;
  settings: PlanSettings;
  /** The last one of all, also where it has ended: the next one follows it. */
  last: Sprint | null;
  rights: { plan: boolean; settings: boolean };
  now: Instant;
}

/** So many rows of the backlog stand beside the sprints. */
export const PLANNING_ROWS = 200;
