import { z } from "zod";
import type { State, StateKind } from "@/core/workflow/state";
import type { EditableFields, ItemSnapshot } from "./fields";
import type { ItemType } from "./item-type";
import { keepsStanding } from "./keeps-standing";
import { isDerived, type OwnField, type OwnValue, type OwnValues } from "./own-field";

/*
 * What becomes of an item that moves to another project. Its key there is a new one and the old one
 * keeps leading to it; its talk, history and clock go on. What it says is kept as far as the other
 * project has a place for it.
 */

/** So many items under one go with it at most. */
export const MOST_TAKEN_ALONG = 200;

/** Which project it would go to, where one is chosen; with a type, what that asks for there. */
export const projectChangeQuery = z.object({
  to: z.string().min(1).max(20).optional(),
  type: z.string().min(1).max(64).optional(),
});
export type ProjectChangeQuery = z.output<typeof projectChangeQuery>;

/** What a project has that matters to an item that comes to it. */
export interface ProjectOffer {
  ownFields: readonly OwnField[];
  /** Who belongs to it, of those that the item names. */
  members: ReadonlySet<string>;
  /** The item's sprint and release, where they take items of this project too. */
  timeboxes: ReadonlySet<string>;
}

const alike = (a: string, b: string) => a.toLocaleLowerCase("en") === b.toLocaleLowerCase("en");

/**
 * The type that fits best in another project: of the same name and level, else the first of that
 * level; null where the project has none.
 */
export function likeliestType(
  of: Pick<ItemType, "name" | "level">,
  offered: readonly ItemType[],
): ItemType | null {
  const fitting = offered
    .filter(({ removedAt, level }) => removedAt === null && level === of.level)
    .sort((a, b) => a.position - b.position);
  return fitting.find(({ name }) => alike(name, of.name)) ?? fitting[0] ?? null;
}

/** States in which an item stands as it does now. */
export const standingStates = <S extends Pick<State, "kind">>(
  is: StateKind,
  states: readonly S[],
): S[] => states.filter(({ kind }) => keepsStanding(is, kind));

/** The state that fits best: of the same name, else of the same kind, else the first that fits. */
export function likeliestState<S extends Pick<State, "name" | "kind">>(
  was: Pick<State, "name" | "kind">,
  states: readonly S[],
): S | null {
  const fitting = standingStates(was.kind, states);
  return (
    fitting.find(({ name }) => alike(name, was.name)) ??
    fitting.find(({ kind }) => kind === was.kind) ??
    fitting[0] ??
    null
  );
}

/** What an item says in its own fields, told by the fields of another project. */
export interface OwnElsewhere {
  own: OwnValues;
  /** Names of fields that say something for which there is no place. */
  lost: string[];
}

/**
 * The values of own fields in another project: by fields of the same name and kind, choices by their
 * names. What nobody sets is left out.
 * @param members who belongs to that project, of those that the values name
 */
export function ownElsewhere(
  own: OwnValues,
  from: readonly OwnField[],
  { ownFields, members }: Pick<ProjectOffer, "ownFields" | "members">,
  typeId: string,
): OwnElsewhere {
  const there: Record<string, OwnValue> = {};
  const lost: string[] = [];
  for (const field of from) {
    const value = own[field.id];
    if (value === undefined || isDerived(field.kind)) continue;
    const twin = ownFields.find(
      (one) =>
        one.removedAt === null &&
        one.kind === field.kind &&
        alike(one.name, field.name) &&
        (one.typeIds.length === 0 || one.typeIds.includes(typeId)),
    );
    const told = twin === undefined ? null : valueElsewhere(value, field, twin, members);
    if (twin !== undefined && told !== null) there[twin.id] = told;
    else lost.push(field.name);
  }
  return { own: there, lost };
}

/** A value as another field of the same kind says it; null where that has no such choice. */
function valueElsewhere(
  value: OwnValue,
  from: OwnField,
  to: OwnField,
  members: ReadonlySet<string>,
): OwnValue | null {
  const choice = (id: string): string | null => {
    const name = from.options.find((option) => option.id === id)?.name;
    return (
      to.options.find((option) => option.offered && name && alike(option.name, name))?.id ?? null
    );
  };
  if (from.kind === "one of") return choice(String(value));
  if (from.kind === "many of" && Array.isArray(value)) {
    const told = value.map(choice);
    return told.every((id) => id !== null) ? told : null;
  }
  if (from.kind === "person") return members.has(String(value)) ? value : null;
  return value;
}

/** What of its fields an item cannot keep, and what they are then: nothing. */
export function fieldsLost(
  item: ItemSnapshot,
  { members, timeboxes }: Pick<ProjectOffer, "members" | "timeboxes">,
): Partial<EditableFields> {
  const belongs = (id: string | null) => id === null || members.has(id);
  const takes = (id: string | null) => id === null || timeboxes.has(id);
  return {
    ...(belongs(item.assigneeId) ? {} : { assigneeId: null }),
    ...(belongs(item.reviewerId) ? {} : { reviewerId: null }),
    ...(takes(item.sprintId) ? {} : { sprintId: null }),
    ...(takes(item.releaseId) ? {} : { releaseId: null }),
  };
}

/** Where an item could go, and what that would mean. */
export interface ElsewhereView {
  /** Other projects in which this person may make items. */
  projects: { key: string; name: string }[];
  change: ProjectChangeView | null;
}

/** What a move to another project would mean, for whoever is about to do it. */
export interface ProjectChangeView {
  project: { key: string; name: string };
  /** Types of that project that it can become, with the states in which it would stand as now. */
  types: (Pick<ItemType, "id" | "name"> & { states: Pick<State, "id" | "name">[] })[];
  typeId: string;
  stateId: string;
  /** What it says now and could not say there, in words. */
  lost: string[];
  /** How many items under it go along. */
  below: number;
  /** Fields that have to say something there, and would not. */
  asked: OwnField[];
  people: { id: string; name: string }[];
}
