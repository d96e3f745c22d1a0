import { z } from "zod";
import type { Instant } from "@/core/calendar/instant";
import { SHOWN_KINDS, shownSourceSchema, type ShownKind, type ShownSource } from "./shown-source";
import { MOST_OPERATIONS, operationsIn, type Arithmetic } from "@/core/condition/arithmetic";

/** What a field that a project made for itself can hold. */
export const OWN_FIELD_KINDS = [
  "text",
  "number",
  "date",
  "one of",
  "many of",
  "person",
  "yes or no",
  "link",
  "computed",
  ...SHOWN_KINDS,
] as const;
export type OwnFieldKind = (typeof OWN_FIELD_KINDS)[number];

/** Whether nobody sets a field's value: it is computed, or shown from something linked. */
export const isDerived = (kind: OwnFieldKind): boolean => kind === "computed" || isShown(kind);

/** Whether a field shows a value of something linked. */
export const isShown = (kind: OwnFieldKind): kind is ShownKind =>
  (SHOWN_KINDS as readonly string[]).includes(kind);

/** The value of an own field: a date is ISO 8601, a choice and a person are ids. */
export type OwnValue = string | number | boolean | string[];
export type OwnValues = Readonly<Record<string, OwnValue>>;

/** A field that a project made for itself. */
export interface OwnField {
  id: string;
  name: string;
  kind: OwnFieldKind;
  /** Of a number: what it counts, e.g. "passengers". */
  unit: string | null;
  /** Of a choice. One that is not offered any more keeps its name for the items that have it. */
  options: { id: string; name: string; offered: boolean }[];
  /** Of a computed number. */
  formula: Arithmetic | null;
  /** Of a value that is shown from something linked. */
  source: ShownSource | null;
  /** What a new item begins with. */
  initial: OwnValue | null;
  /** The item types that have it; none named: all of them. */
  typeIds: string[];
  /** Whether a new item must say it. What a move demands stands with the move. */
  requiredAtStart: boolean;
  /** The item types that must say it at the start; none named: all that have it. */
  requiredTypeIds: string[];
  onCard: boolean;
  onNewItem: boolean;
  position: number;
  /** When it was taken out; items keep what they say in it, and it can be brought back. */
  removedAt: Instant | null;
}

/** What a field is as long as nothing more is said of it. */
export const PLAIN_FIELD: Omit<OwnField, "id" | "name" | "kind" | "position"> = {
  unit: null,
  options: [],
  formula: null,
  source: null,
  initial: null,
  typeIds: [],
  requiredAtStart: false,
  requiredTypeIds: [],
  onCard: false,
  onNewItem: false,
  removedAt: null,
};

const LONGEST_TEXT = 2_000;
const LARGEST_NUMBER = 1e12;
export const MOST_OWN_FIELDS = 60;

const id = z.string().min(1).max(64);
const ownValue = z.union([
  z.string().max(LONGEST_TEXT),
  z.number().min(-LARGEST_NUMBER).max(LARGEST_NUMBER),
  z.boolean(),
  z.array(id).max(100),
]);

/** Values by field; null clears one. What each field takes is for `ownValueProblem` to say. */
export const ownChangesSchema = z
  .record(id, ownValue.nullable())
  .refine((own) => Object.keys(own).length <= MOST_OWN_FIELDS, "Too many fields at once.");
export const ownValueSchema = ownValue;

const arithmetic: z.ZodType<Arithmetic> = z.lazy(() =>
  z.discriminatedUnion("kind", [
    z.object({
      kind: z.literal("number"),
      value: z.number().min(-LARGEST_NUMBER).max(LARGEST_NUMBER),
    }),
    z.object({ kind: z.literal("field"), field: z.string().min(1).max(70) }),
    z.object({ kind: z.literal("negative"), of: arithmetic }),
    z.object({ kind: z.enum(["+", "-", "*", "/"]), left: arithmetic, right: arithmetic }),
  ]),
);

export const ownFieldSchema = z
  .object({
    id,
    name: z.string().trim().min(1, "A field needs a name.").max(60, "Use at most 60 characters."),
    kind: z.enum(OWN_FIELD_KINDS),
    unit: z.string().trim().max(20).nullable(),
    options: z
      .array(
        z.object({
          id,
          name: z.string().trim().min(1, "A choice needs a name.").max(80),
          offered: z.boolean(),
        }),
      )
      .max(100),
    formula: arithmetic.nullable(),
    source: shownSourceSchema.nullable().default(null),
    initial: ownValue.nullable(),
    typeIds: z.array(id).max(40),
    requiredAtStart: z.boolean(),
    requiredTypeIds: z.array(id).max(40).default([]),
    onCard: z.boolean(),
    onNewItem: z.boolean(),
  })
  .superRefine((field, context) => {
    const complain = (path: string, message: string) =>
      context.addIssue({ code: "custom", path: [path], message });
    const isChoice = field.kind === "one of" || field.kind === "many of";
    if (isChoice && !field.options.some((o) => o.offered))
      complain("options", "A choice needs something to choose from.");
    if (new Set(field.options.map((o) => o.name.toLowerCase())).size < field.options.length)
      complain("options", "Two choices have the same name.");
    if (field.kind === "computed" && field.formula === null)
      complain("formula", "Say how it is computed.");
    if (field.formula && operationsIn(field.formula) > MOST_OPERATIONS)
      complain("formula", `A formula has at most ${MOST_OPERATIONS} operations.`);
    if (isShown(field.kind) !== (field.source !== null)) complain("source", "Say what it shows.");
    if (isDerived(field.kind) && (field.requiredAtStart || field.initial !== null))
      complain("kind", "What nobody fills in is not asked for.");
    const problem = field.initial === null ? null : ownValueProblem(field, field.initial);
    if (problem) complain("initial", problem);
  });

const WEB_ADDRESS = /^https?:\/\/[^\s<>"]{1,1990}$/i;

/**
 * Why a value does not fit a field; null when it does. Whether a person exists is for whoever knows
 * the people.
 */
export function ownValueProblem(
  field: Pick<OwnField, "kind" | "name" | "options">,
  value: OwnValue,
): string | null {
  const offered = (chosen: string) => field.options.some((o) => o.id === chosen);
  switch (field.kind) {
    case "text":
      return typeof value === "string" && value.trim() !== "" ? null : `“${field.name}” is a text.`;
    case "number":
      return typeof value === "number" && Number.isFinite(value)
        ? null
        : `“${field.name}” is a number.`;
    case "date":
      return typeof value === "string" && z.iso.date().safeParse(value).success
        ? null
        : `“${field.name}” is a date.`;
    case "one of":
      return typeof value === "string" && offered(value)
        ? null
        : `“${field.name}” is one of its choices.`;
    case "many of":
      return Array.isArray(value) &&
        value.length > 0 &&
        new Set(value).size === value.length &&
        value.every(offered)
        ? null
        : `“${field.name}” is some of its choices.`;
    case "person":
      return typeof value === "string" && value !== "" ? null : `“${field.name}” is a person.`;
    case "yes or no":
      return typeof value === "boolean" ? null : `“${field.name}” is yes or no.`;
    case "link":
      return typeof value === "string" && WEB_ADDRESS.test(value)
        ? null
        : `“${field.name}” is an address that begins with http:// or https://.`;
    case "computed":
      return `“${field.name}” is computed and cannot be set.`;
    case "shown number":
    case "shown date":
    case "shown text":
      return `“${field.name}” is shown from something else and cannot be set.`;
  }
}

/** The fields that items of a type have, in order. */
export function fieldsOfType(fields: readonly OwnField[], typeId: string): OwnField[] {
  return fields
    .filter((f) => f.removedAt === null && (f.typeIds.length === 0 || f.typeIds.includes(typeId)))
    .sort((a, b) => a.position - b.position);
}

/** Whether a new item of a type must say it. */
export const mustBeSaid = (field: OwnField, typeId: string): boolean =>
  field.requiredAtStart &&
  (field.requiredTypeIds.length === 0 || field.requiredTypeIds.includes(typeId));

/** A value as people read it: "1,200 passengers", "Pier 3 and Pier 4", "yes". */
export function ownValueWords(
  field: Pick<OwnField, "kind" | "unit" | "options">,
  value: OwnValue | null | undefined,
  nameOf: (personId: string) => string,
): string {
  if (value === null || value === undefined) return "not set";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number")
    return `${value.toLocaleString("en", { maximumFractionDigits: 2 })}${field.unit ? ` ${field.unit}` : ""}`;
  const optionName = (id: string) =>
    field.options.find((o) => o.id === id)?.name ?? "a former choice";
  if (Array.isArray(value)) return value.map(optionName).join(", ");
  if (field.kind === "one of") return optionName(value);
  return field.kind === "person" ? nameOf(value) : value;
}

/**
 * The fields' names as they stand in the text form: lower case, joined by underscores, each one
 * once.
 */
export function fieldTexts(
  fields: readonly Pick<OwnField, "id" | "name" | "position">[],
  taken: ReadonlySet<string>,
): Map<string, string> {
  const texts = new Map<string, string>();
  const used = new Set(taken);
  for (const { id: fieldId, name } of [...fields].sort(
    (a, b) => a.position - b.position || (a.id < b.id ? -1 : 1),
  )) {
    const plain = name
      .normalize("NFKD")
      .replace(/[^\w\s-]/g, "")
      .trim()
      .toLowerCase()
      .replace(/[\s-]+/g, "_")
      .replace(/[^a-z0-9_]/g, "");
    const base = /^[a-z]/.test(plain) ? plain : `field_${plain}`.replace(/_$/, "");
    let text = base;
    for (let n = 2; used.has(text); n++) text = `${base}_${n}`;
    used.add(text);
    texts.set(fieldId, text);
  }
  return texts;
}
