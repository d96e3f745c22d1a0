import type { Instant } from "@/core/calendar/instant";
import type { Among } from "./relatives";
import { DAY } from "@/core/calendar/instant";
import { daysTouched } from "@/core/calendar/zone";
import {
  type AskedField,
  ASKED_FIELDS,
  itemField,
  type FieldEditor,
  LINK_KINDS,
  type ItemSnapshot,
  type LinkKind,
} from "@/core/item/fields";
import { openCriteria } from "@/core/item/criterion";
import { PROMISE_BANDS, type PromiseBand } from "@/core/item/promise-band";
import { CHANGE_CHECKS, checksOf, TEST_RESULTS } from "@/core/item/outside";
import { isDerived, type OwnFieldKind } from "@/core/item/own-field";
import { OUTCOMES, STATE_KINDS, type StateId } from "@/core/workflow/state";

/**
 * What a condition can be asked of: a snapshot, what is known around it, and the instant of asking.
 */
export interface AskedItem {
  item: ItemSnapshot;
  /** Every state the item has been in, the present one included. */
  everIn: readonly StateId[];
  links: readonly LinkKind[];
  /** Items directly under it, and those of them that are not finished. */
  children: number;
  openChildren: number;
  /**
   * Items that it waits for and that were not delivered yet, and items that are not finished and
   * wait for it, which was not.
   */
  waitsFor: number;
  waitedFor: number;
  /** Who follows it, by their ids. */
  followers: readonly string[];
  /** People who want it done, less those who do not, and those who told of it. */
  votes: number;
  /** How what was promised about it stands; null where nothing was, or nobody asked for it. */
  promise: PromiseBand | null;
  /** The level of its type; null where that is not known. */
  level: number | null;
  /** The project's computed fields, by id. */
  computed: Readonly<Record<string, number | null>>;
  /** What its fields show from what it is linked to, by id; what is not there is not shown. */
  shown: Readonly<Record<string, string | number | null>>;
  /** What stands directly under and above it; left out where nobody asks for it. */
  relatives?: Readonly<Record<Among, readonly Omit<AskedItem, "relatives">[]>>;
}

/** Where nothing around an item is known or asked for. */
export const NOTHING_AROUND: Omit<AskedItem, "item"> = {
  everIn: [],
  links: [],
  children: 0,
  openChildren: 0,
  waitsFor: 0,
  waitedFor: 0,
  followers: [],
  votes: 0,
  promise: null,
  level: null,
  computed: {},
  shown: {},
};

/** When something is asked, in which zone days are counted (an IANA name), and by whom. */
export interface AskedAt {
  now: Instant;
  zone: string;
  /** Who asks; nobody where the project itself does. */
  personId?: string | null;
}

export type FactValue = string | number | boolean | readonly string[] | null;

/** Fixed words, or what the project has of them. */
export type FactOptions =
  | readonly string[]
  | "types"
  | "states"
  | "people"
  | "teams"
  | "sprints"
  | "releases"
  | "levels"
  | "projects"
  | { own: string }
  | null;

export interface Fact {
  /** As people read it. */
  label: string;
  /** As it stands in the text form, after `item.`. */
  text: string;
  kind: "choice" | "number" | "text" | "date" | "flag" | "set";
  nullable: boolean;
  options: FactOptions;
  unit?: string;
  of: (asked: AskedItem, at: AskedAt) => FactValue;
}

const days = (from: Instant | null, now: Instant) => (from === null ? null : (now - from) / DAY);

const choice = (label: string, text: string, options: FactOptions, of: Fact["of"]): Fact => ({
  label,
  text,
  kind: "choice",
  nullable: false,
  options,
  of,
});
/** The same where an item may say nothing. */
const choiceOrNone = (...told: Parameters<typeof choice>): Fact => ({
  ...choice(...told),
  nullable: true,
});
const number = (
  label: string,
  text: string,
  of: Fact["of"],
  { nullable = false, unit = "" } = {},
): Fact => ({ label, text, kind: "number", nullable, options: null, unit, of });

const FACT_KINDS = {
  text: "text",
  number: "number",
  date: "date",
  choice: "choice",
  terms: "set",
  flag: "flag",
} as const satisfies Record<Exclude<FieldEditor["kind"], "criteria">, Fact["kind"]>;

/** A field of an item as a condition asks for it. An empty text is none. */
function factOfField(name: AskedField): Fact {
  const { editor, schema, fact } = itemField(name);
  const value: Fact["of"] = ({ item }) => (item[name] === "" ? null : item[name]);
  return {
    label: fact!.label,
    text: fact!.text,
    kind: FACT_KINDS[editor.kind as keyof typeof FACT_KINDS],
    nullable: schema.safeParse(null).success || schema.safeParse("").success,
    options: editor.kind === "choice" ? editor.options : null,
    ...(editor.kind === "number" ? { unit: editor.unit ?? "" } : {}),
    of: value,
  };
}

const FIELD_FACTS = Object.fromEntries(ASKED_FIELDS.map((f) => [f, factOfField(f)])) as Record<
  AskedField,
  Fact
>;

/** Everything that a condition can ask about an item. */
export const FACTS = {
  ...FIELD_FACTS,
  level: choice("level", "level", "levels", ({ level }) => (level === null ? null : String(level))),
  projectId: choice("project", "project", "projects", ({ item }) => item.projectId),
  stateId: choice("state", "state", "states", ({ item }) => item.stateId),
  stateKind: choice("kind of state", "state_kind", STATE_KINDS, ({ item }) => item.stateKind),
  outcome: choiceOrNone("outcome", "outcome", OUTCOMES, ({ item }) => item.outcome),
  createdBy: choiceOrNone("creator", "creator", "people", ({ item }) => item.createdBy),
  blocked: {
    label: "blocked",
    text: "blocked",
    kind: "flag",
    nullable: false,
    options: null,
    of: ({ item }) => item.openBlockers.length > 0,
  } as Fact,
  ready: {
    label: "ready for its next step",
    text: "ready",
    kind: "flag",
    nullable: false,
    options: null,
    of: ({ item }) => item.readySince !== null,
  } as Fact,
  daysInState: number(
    "days in state",
    "days_in_state",
    ({ item }, { now }) => days(item.enteredStateAt, now),
    { unit: "days" },
  ),
  daysSinceCreated: number(
    "days since it was created",
    "days_since_created",
    ({ item }, { now }) => days(item.createdAt, now),
    { unit: "days" },
  ),
  daysBlocked: number(
    "days blocked",
    "days_blocked",
    ({ item }, { now }) => days(item.blockedSince, now),
    { nullable: true, unit: "days" },
  ),
  daysReady: number(
    "days ready for its next step",
    "days_ready",
    ({ item }, { now }) => days(item.readySince, now),
    { nullable: true, unit: "days" },
  ),
  age: number(
    "age",
    "age",
    ({ item }, { now, zone }) =>
      item.clock.some((stretch) => stretch.to === null) ? daysTouched(item.clock, zone, now) : null,
    { nullable: true, unit: "days" },
  ),
  spentHours: number("time spent", "spent_hours", ({ item }) => item.spentMinutes / 60, {
    unit: "hours",
  }),
  returns: number("times returned", "times_returned", ({ item }) => item.returns),
  everIn: {
    label: "was ever in",
    text: "was_in",
    kind: "set",
    nullable: false,
    options: "states",
    of: ({ everIn }) => everIn,
  } as Fact,
  links: {
    label: "links",
    text: "links",
    kind: "set",
    nullable: false,
    options: LINK_KINDS,
    of: ({ links }) => links,
  } as Fact,
  criteria: number("acceptance criteria", "criteria", ({ item }) => item.criteria.length),
  openCriteria: number("criteria not met", "open_criteria", ({ item }) => openCriteria(item)),
  children: number("children", "children", ({ children }) => children),
  openChildren: number("open children", "open_children", ({ openChildren }) => openChildren),
  waitsFor: number("items it waits for", "waits_for", ({ waitsFor }) => waitsFor),
  waitedFor: number("items that wait for it", "waited_for", ({ waitedFor }) => waitedFor),
  followed: {
    label: "followed by me",
    text: "followed",
    kind: "flag",
    nullable: false,
    options: null,
    of: ({ followers }, { personId = null }) => personId !== null && followers.includes(personId),
  } as Fact,
  followers: number("followers", "followers", ({ followers }) => followers.length),
  votes: number("votes and reports", "votes", ({ votes }) => votes),
  promise: choiceOrNone("promise", "promise", PROMISE_BANDS, ({ promise }) => promise),
  openChanges: number(
    "open changes",
    "open_changes",
    ({ item }) => item.outside.changes.filter((c) => c.status === "open").length,
  ),
  mergedChanges: number(
    "merged changes",
    "merged_changes",
    ({ item }) => item.outside.changes.filter((c) => c.status === "merged").length,
  ),
  checks: choiceOrNone("checks of its changes", "checks", CHANGE_CHECKS, ({ item }) =>
    checksOf(item.outside.changes),
  ),
  testResult: choiceOrNone(
    "last test run",
    "test_run",
    TEST_RESULTS,
    ({ item }) => item.outside.testResult,
  ),
  deployedTo: {
    label: "deployed to",
    text: "deployed_to",
    kind: "set",
    nullable: false,
    options: null,
    of: ({ item }) => item.outside.deployedTo,
  } as Fact,
} satisfies Record<string, Fact>;

export type ItemFactName = keyof typeof FACTS;
export const FACT_NAMES = Object.keys(FACTS) as [ItemFactName, ...ItemFactName[]];

/**
 * A field of the project's own, by its kind and id; the kind says how it is compared, whatever it
 * is called now.
 */
export type OwnFactName = `own.${OwnFieldKind}.${string}`;
export type FactName = ItemFactName | OwnFactName;

const OWN =
  /^own\.(text|number|date|one of|many of|person|yes or no|link|computed|shown number|shown date|shown text)\.(.{1,64})$/;

/** How conditions call the value of a project's own field: `own.number.<id>`. */
export function ownFactName(field: { kind: OwnFieldKind; id: string }): OwnFactName {
  return `own.${field.kind}.${field.id}`;
}

/** Whether a name is that of a fact: one that every item has, or of an own field. */
export function isFactName(name: string): name is FactName {
  return Object.hasOwn(FACTS, name) || OWN.test(name);
}

/** The field behind an own fact; null for the facts that every item has. */
export function ownFieldOf(name: FactName): { kind: OwnFieldKind; id: string } | null {
  const [, kind, id] = OWN.exec(name) ?? [];
  return id === undefined || Object.hasOwn(FACTS, name) ? null : { kind: kind as OwnFieldKind, id };
}

const OWN_KINDS: Record<OwnFieldKind, Fact["kind"]> = {
  text: "text",
  number: "number",
  date: "date",
  "one of": "choice",
  "many of": "set",
  person: "choice",
  "yes or no": "flag",
  link: "text",
  computed: "number",
  "shown number": "number",
  "shown date": "date",
  "shown text": "text",
};

const ownFacts = new Map<string, Fact>();

/**
 * What a fact is. Of an own field only what its kind says: its name, unit and choices are the
 * vocabulary's.
 */
export function factOf(name: FactName): Fact {
  const known = Object.hasOwn(FACTS, name)
    ? (FACTS as Record<string, Fact>)[name]
    : ownFacts.get(name);
  if (known) return known;
  const field = ownFieldOf(name);
  if (!field) throw new Error(`there is no fact ${name}`);
  const { kind, id } = field;
  const value: Fact["of"] = ({ item, computed, shown }) =>
    isDerived(kind)
      ? ((kind === "computed" ? computed : shown)[id] ?? null)
      : ((item.own[id] as FactValue | undefined) ??
        (kind === "many of" ? [] : kind === "yes or no" ? false : null));
  const options: FactOptions =
    kind === "person" ? "people" : kind === "one of" || kind === "many of" ? { own: id } : null;
  const made: Fact = {
    label: "own field",
    text: id,
    kind: OWN_KINDS[kind],
    nullable: kind !== "many of" && kind !== "yes or no",
    options,
    of: value,
  };
  ownFacts.set(name, made);
  return made;
}
