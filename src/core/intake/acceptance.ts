import type { ClassOfService, Origin, Priority, Severity } from "@/core/item/fields";
import type { Impact, Urgency } from "./triage-rules";

/**
 * Where a bug was found. It decides what becomes of it, because it changes the figures: in work
 * that is still being built it is part of that work and adds to what remains; in finished work it
 * is work of its own, not sized until the team sizes it; what must be fixed now interrupts, and is
 * estimated 0 so that velocity stays true.
 */
export type Found =
  | {
      where: "in work";
      itemId: string;
      hours: number;
      /** The tester's own time to test it again. */ retestHours: number;
    }
  | { where: "in finished work"; itemId: string | null }
  | { where: "fix now" };

/** Where in the backlog an accepted item lands. */
export type BacklogPlace = { at: "top" } | { at: "bottom" } | { at: "below"; itemId: string };

export interface Acceptance {
  title: string;
  typeId: string;
  severity: Severity | null;
  priority: Priority;
  classOfService: ClassOfService;
  origin: Origin;
  teamId: string | null;
  assigneeId: string | null;
  place: BacklogPlace;
  /** Straight into the first state of work in progress. */
  onBoard: boolean;
  /** Where it is: the quay, the boat, the page. */
  area: string | null;
  /** ISO 8601 calendar date */
  dueOn: string | null;
  /** Parts of the product that it is about; null for those that its report is taken to be about. */
  parts: string[] | null;
  labels: string[];
  sprintId: string | null;
  releaseId: string | null;
  impact: Impact | null;
  urgency: Urgency | null;
  /** Seen only by leads, by whoever judged it and by those who work on it. */
  restricted: boolean;
  /** Where a bug was found; null where the question does not arise. */
  found: Found | null;
}

/** An acceptance as it begins: an unplanned bug at the end of the backlog. */
export function newAcceptance(title: string, typeId: string): Acceptance {
  return {
    title,
    typeId,
    severity: "moderate",
    priority: "normal",
    classOfService: "standard",
    origin: "unplanned",
    teamId: null,
    assigneeId: null,
    place: { at: "bottom" },
    onBoard: false,
    area: null,
    dueOn: null,
    parts: null,
    labels: [],
    sprintId: null,
    releaseId: null,
    impact: null,
    urgency: null,
    restricted: false,
    found: null,
  };
}
