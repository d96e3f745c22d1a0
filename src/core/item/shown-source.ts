import { z } from "zod";

/*
 * A field of a project's own can show a value of something that an item is linked to: of its parent,
 * its sprint, its release, or the items that stand around it. One step only: what is shown is never
 * shown or computed itself.
 */

/** How a field that shows a value is compared. */
export const SHOWN_KINDS = ["shown number", "shown date", "shown text"] as const;
export type ShownKind = (typeof SHOWN_KINDS)[number];

/** Whose value is shown, and how that is said. */
export const SHOWN_FROM = {
  parent: { words: "its parent", several: false, of: "item" },
  sprint: { words: "its sprint", several: false, of: "sprint" },
  release: { words: "its release", several: false, of: "release" },
  children: { words: "its children", several: true, of: "item" },
  "waits for": { words: "what it still waits for", several: true, of: "item" },
  "waited for": { words: "what waits for it", several: true, of: "item" },
  "relates to": { words: "what it relates to", several: true, of: "item" },
  "came from": { words: "what it came from", several: true, of: "item" },
  "led to": { words: "what came from it", several: true, of: "item" },
  "found in": { words: "what it was found in", several: true, of: "item" },
  "found here": { words: "what was found in it", several: true, of: "item" },
  "tested by": { words: "what it is tested by", several: true, of: "item" },
  tests: { words: "what it tests", several: true, of: "item" },
  duplicates: { words: "what it duplicates", several: true, of: "item" },
  "duplicated by": { words: "what duplicates it", several: true, of: "item" },
} as const;
export type ShownFrom = keyof typeof SHOWN_FROM;
export const SHOWN_FROM_NAMES = Object.keys(SHOWN_FROM) as [ShownFrom, ...ShownFrom[]];

/** What several linked things come to. */
export const SHOWN_BY = ["count", "sum", "earliest", "latest", "list"] as const;
export type ShownBy = (typeof SHOWN_BY)[number];

export interface ShownSource {
  from: ShownFrom;
  /** One of the values of what is linked, or `own.<id>` of a field of the project's own. */
  of: string;
  /** Null where there is one at most. */
  by: ShownBy | null;
}

type ValueKind = "number" | "date" | "text";

interface ShownValue {
  label: string;
  kind: ValueKind;
}

/** What can be shown of each kind of linked thing. */
export const SHOWN_VALUES: Record<"item" | "sprint" | "release", Record<string, ShownValue>> = {
  item: {
    key: { label: "key", kind: "text" },
    title: { label: "title", kind: "text" },
    state: { label: "state", kind: "text" },
    assignee: { label: "assignee", kind: "text" },
    team: { label: "team", kind: "text" },
    priority: { label: "priority", kind: "text" },
    classOfService: { label: "class of service", kind: "text" },
    estimate: { label: "estimate", kind: "number" },
    firstEstimate: { label: "first estimate in hours", kind: "number" },
    spentHours: { label: "hours spent", kind: "number" },
    remainingHours: { label: "remaining hours", kind: "number" },
    returns: { label: "times returned", kind: "number" },
    dueOn: { label: "due date", kind: "date" },
  },
  sprint: {
    name: { label: "name", kind: "text" },
    goal: { label: "goal", kind: "text" },
    startsOn: { label: "first day", kind: "date" },
    endsOn: { label: "last day", kind: "date" },
  },
  release: {
    name: { label: "name", kind: "text" },
    dueOn: { label: "planned day", kind: "date" },
  },
};

/** Which kinds of own fields can be shown, and as what. */
const OWN_VALUES: Readonly<Record<string, ValueKind>> = {
  number: "number",
  date: "date",
  text: "text",
  "one of": "text",
  person: "text",
  link: "text",
};

/** A field of the project's own, as far as it matters here. */
interface OwnOne {
  id: string;
  name: string;
  kind: string;
}

/** The field of the project's own that is shown; undefined where it is none of them. */
export const shownField = <T extends OwnOne>({ of }: ShownSource, fields: readonly T[]) =>
  fields.find(({ id }) => of === `own.${id}`);

/** Everything that can be shown of a kind of linked thing, own fields of items behind the others. */
export function shownValues(
  from: ShownFrom,
  fields: readonly OwnOne[],
): (ShownValue & { of: string })[] {
  const kind = SHOWN_FROM[from].of;
  const plain = Object.entries(SHOWN_VALUES[kind]).map(([of, value]) => ({ of, ...value }));
  const own = fields.flatMap(({ id, name, kind: ofField }) => {
    const as = OWN_VALUES[ofField];
    return as === undefined ? [] : [{ of: `own.${id}`, label: name, kind: as }];
  });
  return kind === "item" ? [...plain, ...own] : plain;
}

/** What several values of a kind can come to. */
export const shownBys = (kind: ValueKind): ShownBy[] =>
  kind === "number"
    ? ["sum", "count", "list"]
    : kind === "date"
      ? ["earliest", "latest", "count", "list"]
      : ["list", "count"];

/** How a field that shows something is compared; null where that cannot be shown. */
export function shownKind(source: ShownSource, fields: readonly OwnOne[]): ShownKind | null {
  const value = shownValues(source.from, fields).find(({ of }) => of === source.of);
  if (!value) return null;
  const { several } = SHOWN_FROM[source.from];
  if (!several) return source.by === null ? `shown ${value.kind}` : null;
  if (source.by === null || !shownBys(value.kind).includes(source.by)) return null;
  if (source.by === "count") return "shown number";
  return source.by === "list" ? "shown text" : `shown ${value.kind}`;
}

/** What is shown, in words. @example "the sum of the estimate of its children" */
export function sourceWords(source: ShownSource, fields: readonly OwnOne[]): string {
  const { words } = SHOWN_FROM[source.from];
  if (source.by === "count") return `how many: ${words}`;
  const label =
    shownValues(source.from, fields).find(({ of }) => of === source.of)?.label ?? "a former field";
  const by = source.by === null ? "" : source.by === "sum" ? "the sum of " : `the ${source.by} `;
  return source.by === "list" || source.by === null
    ? `${label} of ${words}`
    : `${by}${label} of ${words}`;
}

export const shownSourceSchema = z.object({
  from: z.enum(SHOWN_FROM_NAMES),
  of: z.string().min(1).max(70),
  by: z.enum(SHOWN_BY).nullable(),
});
