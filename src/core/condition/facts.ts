import type { Instant } from "@/core/calendar/instant";
import { DAY } from "@/core/calendar/instant";
import { CLASSES_OF_SERVICE, LINK_KINDS, ORIGINS, PRIORITIES, SEVERITIES, type ItemSnapshot, type LinkKind } from "@/core/item/fields";
import { OUTCOMES, STATE_KINDS, type StateId } from "@/core/workflow/workflow";

/** What a condition can be asked of: a snapshot, what is known around it, and the instant of asking. */
export interface AskedItem {
  item: ItemSnapshot;
  /** Every state the item has been in, the present one included. */
  everIn: readonly StateId[];
  links: readonly LinkKind[];
  /** Items directly under it, and those of them that are not finished. */
  children: number;
  openChildren: number;
}

export type FactValue = string | number | boolean | readonly string[] | null;

/** Fixed words, or what the project has of them. */
export type FactOptions = readonly string[] | "types" | "states" | "people" | "teams" | null;

export interface Fact {
  /** As people read it. */
  label: string;
  /** As it stands in the text form, after `item.`. */
  text: string;
  kind: "choice" | "number" | "text" | "date" | "flag" | "set";
  nullable: boolean;
  options: FactOptions;
  unit?: string;
  of: (asked: AskedItem, now: Instant) => FactValue;
}

const days = (from: Instant | null, now: Instant) => (from === null ? null : (now - from) / DAY);

const choice = (label: string, text: string, options: FactOptions, of: Fact["of"], nullable = false): Fact => ({ label, text, kind: "choice", nullable, options, of });
const number = (label: string, text: string, of: Fact["of"], { nullable = false, unit = "" } = {}): Fact => ({ label, text, kind: "number", nullable, options: null, unit, of });
const text = (label: string, name: string, of: Fact["of"], nullable = true): Fact => ({ label, text: name, kind: "text", nullable, options: null, of });

/** Everything that a condition can ask about an item. */
export const FACTS = {
  typeId: choice("type", "type", "types", ({ item }) => item.typeId),
  stateId: choice("state", "state", "states", ({ item }) => item.stateId),
  stateKind: choice("kind of state", "state_kind", STATE_KINDS, ({ item }) => item.stateKind),
  title: text("title", "title", ({ item }) => item.title, false),
  description: text("description", "description", ({ item }) => item.description || null),
  severity: choice("severity", "severity", SEVERITIES, ({ item }) => item.severity, true),
  priority: choice("priority", "priority", PRIORITIES, ({ item }) => item.priority),
  classOfService: choice("class of service", "class_of_service", CLASSES_OF_SERVICE, ({ item }) => item.classOfService),
  origin: choice("origin", "origin", ORIGINS, ({ item }) => item.origin),
  outcome: choice("outcome", "outcome", OUTCOMES, ({ item }) => item.outcome, true),
  estimate: number("estimate", "estimate", ({ item }) => item.estimate, { nullable: true }),
  teamId: choice("team", "team", "teams", ({ item }) => item.teamId, true),
  assigneeId: choice("assignee", "assignee", "people", ({ item }) => item.assigneeId, true),
  reviewerId: choice("reviewer", "reviewer", "people", ({ item }) => item.reviewerId, true),
  createdBy: choice("creator", "creator", "people", ({ item }) => item.createdBy, true),
  place: text("place", "place", ({ item }) => item.place),
  howToTest: text("note on how to test", "how_to_test", ({ item }) => item.howToTest),
  dueOn: { label: "due date", text: "due", kind: "date", nullable: true, options: null, of: ({ item }) => item.dueOn } as Fact,
  blocked: { label: "blocked", text: "blocked", kind: "flag", nullable: false, options: null, of: ({ item }) => item.openBlockers.length > 0 } as Fact,
  daysInState: number("days in state", "days_in_state", ({ item }, now) => days(item.enteredStateAt, now), { unit: "days" }),
  daysSinceCreated: number("days since it was created", "days_since_created", ({ item }, now) => days(item.createdAt, now), { unit: "days" }),
  daysBlocked: number("days blocked", "days_blocked", ({ item }, now) => days(item.blockedSince, now), { nullable: true, unit: "days" }),
  returns: number("times returned", "times_returned", ({ item }) => item.returns),
  everIn: { label: "was ever in", text: "was_in", kind: "set", nullable: false, options: "states", of: ({ everIn }) => everIn } as Fact,
  links: { label: "links", text: "links", kind: "set", nullable: false, options: LINK_KINDS, of: ({ links }) => links } as Fact,
  children: number("sub-tasks", "children", ({ children }) => children),
  openChildren: number("open sub-tasks", "open_children", ({ openChildren }) => openChildren),
} satisfies Record<string, Fact>;

export type FactName = keyof typeof FACTS;
export const FACT_NAMES = Object.keys(FACTS) as [FactName, ...FactName[]];
