import { and, asc, eq } from "drizzle-orm";
import { type z } from "zod";
import { circularField } from "@/core/item/compute-fields";
import {
  fieldsOfType,
  isDerived,
  MOST_OWN_FIELDS,
  mustBeSaid,
  type ownFieldSchema,
  ownValueProblem,
  type OwnField,
  type OwnValues,
} from "@/core/item/own-field";
import { shownKind } from "@/core/item/shown-source";
import { plainChange, savedChange, type DesignChange } from "@/core/workflow/design-change";
import { transact, type Reader } from "@/db/connection";
import { ownField } from "@/db/schema";
import { enterProject } from "../people/access";
import { checkMembers, membersAmong } from "../people/belonging";
import type { Viewer } from "../people/viewer";
import { invalid, notFound } from "../refused";
import { announceDesign } from "../workflow/announce";
import { keepDesignChange } from "../workflow/design-history";
import type { FieldEdit } from "@/core/item/request";

/** The fields that a project made for itself, those that were taken out too, in order. */
export async function loadOwnFields(reader: Reader, projectId: string): Promise<OwnField[]> {
  const rows = await reader
    .select()
    .from(ownField)
    .where(eq(ownField.projectId, projectId))
    .orderBy(asc(ownField.position), asc(ownField.id));
  return rows.map(({ projectId: _, ...field }) => field);
}

/**
 * Makes, changes, takes out or brings back a field. What items say in it stays with them and in
 * their histories.
 */
export async function editOwnField(
  viewer: Viewer,
  projectKey: string,
  edit: FieldEdit,
  now = Date.now(),
): Promise<void> {
  await transact(async (tx) => {
    const { project } = await enterProject({
      reader: tx,
      viewer,
      where: { key: projectKey },
      action: "edit workflow",
    });
    const fields = await loadOwnFields(tx, project.id);
    if (edit.kind === "order") {
      for (const [position, id] of edit.ids.entries())
        await tx
          .update(ownField)
          .set({ position })
          .where(and(eq(ownField.id, id), eq(ownField.projectId, project.id)));
    } else if (edit.kind === "save") {
      checkField(edit.field, fields);
      const position =
        fields.find((f) => f.id === edit.field.id)?.position ??
        Math.max(-1, ...fields.map((f) => f.position)) + 1;
      const values = { ...edit.field, position };
      const stored = await tx
        .insert(ownField)
        .values({ ...values, projectId: project.id })
        .onConflictDoUpdate({
          target: ownField.id,
          set: values,
          setWhere: eq(ownField.projectId, project.id),
        })
        .returning({ id: ownField.id });
      if (stored.length === 0) throw notFound("field");
    } else {
      const field = fields.find((f) => f.id === edit.id);
      if (!field) throw notFound("field");
      const uses = fields.filter(
        (f) =>
          f.removedAt === null &&
          f.id !== field.id &&
          JSON.stringify([f.formula, f.source]).includes(`"own.${field.id}"`),
      );
      if (edit.kind === "remove" && uses.length > 0)
        throw uses[0].source
          ? invalid(`“${uses[0].name}” shows it.`, "Let that show something else first.")
          : invalid(`“${uses[0].name}” is computed from it.`, "Change that formula first.");
      await tx
        .update(ownField)
        .set({ removedAt: edit.kind === "remove" ? now : null })
        .where(eq(ownField.id, field.id));
    }
    await keepDesignChange(
      tx,
      { projectId: project.id, byId: viewer.personId, at: now },
      changeOf(edit, fields),
    );
    await announceDesign(tx, project.id, { kind: "own fields changed", data: {} });
  });
}

/** What an edit changes, in words; null where that is nothing that anybody looks for. */
function changeOf(edit: FieldEdit, fields: readonly OwnField[]): DesignChange | null {
  if (edit.kind === "order") return null;
  if (edit.kind !== "save") {
    const name = fields.find((field) => field.id === edit.id)?.name ?? "";
    const did = edit.kind === "remove" ? "took out" : "brought back";
    return plainChange("fields", `${did} the field “${name}”`);
  }
  const told = ({ options, formula, source, ...field }: z.output<typeof ownFieldSchema>) => ({
    ...field,
    options: options.filter(({ offered }) => offered).map(({ name }) => name),
    computed: formula === null ? null : JSON.stringify(formula),
    shows: source === null ? null : JSON.stringify(source),
  });
  const before = fields.find((field) => field.id === edit.field.id);
  const about = { area: "fields", what: `the field “${edit.field.name}”` } as const;
  return savedChange(about, before ? told(before) : null, told(edit.field), FIELD_TOLD);
}

const FIELD_TOLD = {
  name: "name",
  kind: "kind",
  unit: "unit",
  options: "choices",
  computed: "how it is computed",
  shows: "what it shows",
  requiredAtStart: "asked of new items",
  onCard: "on cards",
  onNewItem: "on the form of new items",
} as const;

function checkField(field: z.infer<typeof ownFieldSchema>, fields: readonly OwnField[]): void {
  const before = fields.find((f) => f.id === field.id);
  if (before && before.kind !== field.kind)
    throw invalid(
      "A field keeps its kind: items already say something in it.",
      "Make another field, and take this one out.",
    );
  if (!before && fields.filter((f) => f.removedAt === null).length >= MOST_OWN_FIELDS)
    throw invalid(
      `A project has at most ${MOST_OWN_FIELDS} fields of its own.`,
      "Take out one that nobody uses.",
    );
  const twin = fields.find(
    (f) =>
      f.id !== field.id &&
      f.removedAt === null &&
      f.name.toLowerCase() === field.name.toLowerCase(),
  );
  if (twin) throw invalid(`There is a field “${twin.name}” already.`, "Choose another name.");
  const others = fields.filter((f) => f.id !== field.id);
  const known = new Set(
    fields.filter((f) => f.kind === "number" || f.kind === "computed").map((f) => `"own.${f.id}"`),
  );
  for (const [used] of JSON.stringify(field.formula ?? "").matchAll(/"own\.[^"]+"/g))
    if (!known.has(used) && used !== `"own.${field.id}"`)
      throw invalid(
        "The formula uses a field that is not a number of this project.",
        "Choose one of its numbers.",
      );
  if (field.source) {
    const present = others.filter(({ removedAt }) => removedAt === null);
    if (shownKind(field.source, present) !== field.kind)
      throw invalid(
        "The field cannot show that.",
        "Choose a value that the linked items have, and that stays what the field holds.",
      );
  }
  if (circularField([...others, field]))
    throw invalid(
      "The formula would compute itself.",
      "Take out the number that depends on this one.",
    );
}

/**
 * The own fields of a new item: what was given, each held against its field, and the initial values
 * of the rest.
 * @param asksRequired whether a person makes it, who can be asked for what it must say
 */
export async function initialOwn({
  reader,
  projectId,
  fields,
  typeId,
  given,
  asksRequired,
}: {
  reader: Reader;
  projectId: string;
  fields: readonly OwnField[];
  typeId: string;
  given: OwnValues;
  asksRequired: boolean;
}): Promise<OwnValues> {
  const own: Record<string, OwnValues[string]> = {};
  const mine = fieldsOfType(fields, typeId);
  for (const id of Object.keys(given))
    if (!mine.some((f) => f.id === id))
      throw invalid(
        "Items of this type have no such field.",
        "Reload the page: the fields may have changed.",
      );
  for (const field of mine) {
    const value = given[field.id] ?? (isDerived(field.kind) ? null : field.initial);
    if (value === null || value === undefined) {
      if (asksRequired && mustBeSaid(field, typeId))
        throw invalid(`Fill in ${field.name}.`, "A new item of this type must say it.");
      continue;
    }
    const problem = ownValueProblem(field, value);
    // A default that does not fit any more, because a choice is not offered now, is left out.
    if (problem && given[field.id] === undefined) continue;
    if (problem) throw invalid(problem, "Give it another value.");
    own[field.id] = value;
  }
  // Whoever was the default and has left is nobody's default any more.
  const defaults = mine.flatMap(({ id, kind }) =>
    kind === "person" && given[id] === undefined && typeof own[id] === "string" ? [id] : [],
  );
  const members = await membersAmong(
    reader,
    projectId,
    defaults.map((id) => own[id] as string),
  );
  for (const id of defaults) if (!members.has(own[id] as string)) delete own[id];
  await checkMembers(reader, projectId, newlyNamed(mine, own, {}));
  return own;
}

/** The people that own fields name and did not name before. */
export const newlyNamed = (
  fields: readonly OwnField[],
  own: Readonly<Record<string, unknown>>,
  before: OwnValues,
): unknown[] =>
  fields.flatMap(({ id, kind }) => (kind === "person" && own[id] !== before[id] ? [own[id]] : []));
