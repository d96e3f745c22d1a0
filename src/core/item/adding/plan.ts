import type { Condition } from "@/core/condition/condition";
import { factsIn } from "@/core/condition/condition";
import { holds, type Asker } from "@/core/condition/evaluate";
import { NOTHING_AROUND } from "@/core/condition/facts";
import { computedFields } from "@/core/item/compute-fields";
import type { CreatedData } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import type { ItemType } from "@/core/item/item-type";
import { NEW_ITEM } from "@/core/item/new-item";
import { fieldsOfType, type OwnField } from "@/core/item/own-field";
import { applyEvent } from "@/core/item/snapshot";
import { statesInOrder, stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";
import type { Adding } from "./contract";
import { meantBy } from "./meant";

/** Where an item is to be added, with all that the project has for it. */
export interface Place {
  /** What the place, its board and its view ask for, each part by itself. */
  parts: readonly Condition[];
  states: readonly StateId[];
  types: readonly ItemType[];
  workflows: readonly Workflow[];
  ownFields: readonly OwnField[];
  /** The type of what it is to stand under; null: of nothing that is named. */
  underTypeId: string | null;
  /** The type that somebody chose; null: the one that fits. */
  typeId: string | null;
}

/** What adding there comes to, and what of the parts will not hold. */
export interface Planned extends Omit<Adding, "elsewhere"> {
  stateName: string;
  /** Whether a move leads to the column, where the place is one. */
  reached: boolean;
  unmet: Condition[];
}

/** The types that can stand under another, those of the next level first. */
function typesUnder(types: readonly ItemType[], underTypeId: string): ItemType[] {
  const level = types.find(({ id }) => id === underTypeId)?.level ?? 0;
  return types
    .filter((type) => type.level < level && type.removedAt === null)
    .toSorted((a, b) => b.level - a.level);
}

/** The types that can stand there: those whose workflow has one of the states. */
function typesFor({ types, workflows, states, underTypeId }: Place): ItemType[] {
  if (underTypeId !== null) return typesUnder(types, underTypeId);
  const offered = types.filter((type) => type.level >= 1 && type.removedAt === null);
  const stands = (type: ItemType) =>
    workflows
      .find((workflow) => workflow.id === type.workflowId)
      ?.states.some((state) => states.includes(state.id));
  const standing = offered.filter(stands);
  return standing.length > 0 ? standing : offered;
}

/**
 * What an item becomes that is added at a place: its type, what it says, and the move that takes it
 * there. Parts that ask for a text are left to whoever writes the title.
 * @returns null where the project has no type for it
 */
export function planAdding(place: Place, asker: Asker): Planned | null {
  const { parts, states, workflows, ownFields } = place;
  const meant = meantBy({ kind: "all", of: [...parts] }, asker);
  const { typeId: wanted, ...fields } = meant.fields;
  const offered = typesFor(place);
  const named = (id: string | null | undefined) => offered.find((type) => type.id === id);
  const type = named(place.typeId) ?? named(wanted) ?? offered[0];
  const workflow = workflows.find(({ id }) => id === type?.workflowId);
  if (!type || !workflow) return null;
  const [first] = statesInOrder(workflow);
  const there = states.length === 0 || states.includes(first.id);
  const move = there
    ? undefined
    : transitionsFrom(workflow, first.id).find(({ to }) => states.includes(to));
  const state = move ? stateOf(workflow, move.to) : first;
  const has = new Set(fieldsOfType(ownFields, type.id).map((field) => field.id));
  const own = Object.fromEntries(Object.entries(meant.own).filter(([id]) => has.has(id)));
  const item = imagined({ ...fields, typeId: type.id, own }, state, asker);
  const asked = {
    ...NOTHING_AROUND,
    item,
    everIn: [...new Set([first.id, state.id])],
    computed: computedFields(ownFields, item),
  };
  const isWritten = (part: Condition) => {
    const facts = factsIn(part);
    return facts.has("title") || facts.has("description");
  };
  return {
    typeId: type.id,
    types: offered.map(({ id, name }) => ({ id, name })),
    fields: type.template ? { description: type.template, ...fields } : fields,
    own,
    into: move ? { to: move.to, verb: move.verb } : null,
    stateName: state.name,
    reached: there || move !== undefined,
    unmet: parts.filter((part) => !isWritten(part) && !holds(part, asked, asker)),
  };
}

/** The item as it would be. */
function imagined(
  said: Partial<CreatedData> & { typeId: string },
  state: { id: StateId; kind: ItemSnapshot["stateKind"] },
  { now, personId }: Asker,
): ItemSnapshot {
  const created = {
    ...NEW_ITEM,
    title: "",
    ...said,
    projectId: "",
    number: 0,
    stateId: state.id,
    stateKind: state.kind,
    rank: "",
  };
  return applyEvent(null, {
    itemId: "",
    seq: 1,
    at: now,
    actorId: personId,
    cause: "person",
    commandId: "",
    kind: "created",
    new: created,
  });
}
