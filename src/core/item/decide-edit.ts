import { refuse, type Refusal } from "@/core/workflow/refusal";
import { same } from "@/core/workflow/same";
import type { ItemCommand } from "./command";
import type { ItemChange } from "./event";
import { FIELD_WORDS, type EditableField, type EditableFields, type ItemSnapshot } from "./fields";
import { refuseWithoutDate } from "./fixed-date";
import {
  fieldsOfType,
  isDerived,
  ownValueProblem,
  type OwnField,
  type OwnValue,
} from "./own-field";

/** What an edit is decided by, beside the item. */
export interface EditContext {
  ownFields: readonly OwnField[];
  /**
   * Fields that were changed after a given version, needed to see whether an edit is stale; own
   * fields by their ids.
   */
  changedSince: (version: number) => string[];
}

/**
 * What an edit changes. One of a field that somebody else changed since the version it is based on
 * is a conflict; one that changes nothing is none.
 */
export function decideEdit(
  item: ItemSnapshot,
  command: Extract<ItemCommand, { kind: "edit" }>,
  context: EditContext,
): ItemChange[] | Refusal {
  const { title } = command.changes;
  const changes =
    title === undefined ? command.changes : { ...command.changes, title: title.trim() };
  const wanted = Object.entries(changes).filter(
    ([field, value]) => !same(item[field as EditableField], value),
  );
  if (changes.title === "")
    return refuse("invalid", "An item needs a title.", "Say in a few words what it is.");
  if (command.seenVersion > item.version)
    return refuse(
      "invalid",
      "This edit refers to a version that does not exist yet.",
      "Reload the item and edit again.",
    );
  const changedSince =
    command.seenVersion < item.version ? context.changedSince(command.seenVersion) : [];
  const own = ownChanges(item, command.own ?? {});
  const problem = ownProblem(item, command.own ?? {}, context);
  if (problem) return problem;
  const stale = [
    ...wanted.map(([field]) => field),
    ...own.flatMap((c) => (c.kind === "own changed" ? [c.field] : [])),
  ].filter((field) => changedSince.includes(field));
  if (stale.length > 0) {
    const nameOf = (field: string) =>
      FIELD_WORDS[field as EditableField] ??
      context.ownFields.find((f) => f.id === field)?.name ??
      "field";
    const words = stale.map(nameOf);
    const refusal = refuse(
      "conflict",
      `Somebody else changed the ${words.join(" and the ")} while you were editing.`,
      "Compare both texts and keep what is right.",
    );
    const conflict = stale.map((field) => ({
      field,
      current: field in FIELD_WORDS ? item[field as EditableField] : (item.own[field] ?? null),
    }));
    return { ...refusal, conflict, version: item.version };
  }
  const turned = refusePlanTurned(item, changes);
  if (turned) return turned;
  const undated = refuseWithoutDate(item, { ...item, ...changes });
  if (undated) return undated;
  const changed = wanted.map(([field, value]): ItemChange => ({
    kind: "changed",
    field: field as EditableField,
    old: item[field as EditableField],
    new: value,
  }));
  return [...changed, ...own];
}

/** Nothing is planned to end before it begins; what was so before is left alone. */
function refusePlanTurned(item: ItemSnapshot, changes: Partial<EditableFields>): Refusal | null {
  if (changes.plannedFrom === undefined && changes.plannedTo === undefined) return null;
  const { plannedFrom, plannedTo } = { ...item, ...changes };
  if (plannedFrom === null || plannedTo === null || plannedFrom <= plannedTo) return null;
  return refuse(
    "invalid",
    "The last planned day is before the first one.",
    "Choose a later last day, or an earlier first one.",
  );
}

/** The events that give own fields their values; what changes nothing gives none. */
export function ownChanges(
  item: ItemSnapshot,
  values: Readonly<Record<string, OwnValue | null>>,
): ItemChange[] {
  return Object.entries(values).flatMap(([field, value]): ItemChange[] => {
    const old = item.own[field] ?? null;
    return same(old, value) ? [] : [{ kind: "own changed", field, old, new: value }];
  });
}

/** Why an own field cannot take a value; null when every one can. */
function ownProblem(
  item: ItemSnapshot,
  values: Readonly<Record<string, OwnValue | null>>,
  { ownFields }: Pick<EditContext, "ownFields">,
): Refusal | null {
  const fields = fieldsOfType(ownFields, item.typeId);
  for (const [id, value] of Object.entries(values)) {
    const field = fields.find((f) => f.id === id);
    if (!field)
      return refuse(
        "invalid",
        "Items of this type have no such field.",
        "Look at the item anew: its fields may have changed.",
      );
    const problem =
      value === null
        ? isDerived(field.kind)
          ? ownValueProblem(field, "")
          : null
        : ownValueProblem(field, value);
    if (problem) return refuse("invalid", problem, "Give it another value.");
  }
  return null;
}
