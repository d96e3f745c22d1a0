import { z } from "zod";
import { labelOf, type Vocabulary } from "@/core/condition/vocabulary";
import { EDITABLE_FIELDS, ITEM_FIELDS, type ItemSnapshot } from "@/core/item/fields";
import { commandRequest, editableFields, type CommandRequest } from "@/core/item/request";
import { ownChangesSchema } from "@/core/item/own-field";
import {
  LONGEST_TERM,
  MOST_TERMS_OF_ITEM,
  TERM_FIELDS,
  TERM_KINDS,
  type TermKind,
} from "@/core/item/terms/term";

/*
 * What can be done to several items at once: one act, of which each item gets the command that fits
 * how it stands when its turn comes.
 */

const [move] = commandRequest.options;
const id = z.string().min(1).max(64);
const term = z.string().trim().min(1).max(LONGEST_TERM);

export const bulkAct = z.discriminatedUnion("kind", [
  z.object({
    kind: z.literal("move"),
    to: id,
    answers: move.shape.answers,
    overrideReason: move.shape.overrideReason,
  }),
  z.object({
    kind: z.literal("set"),
    changes: editableFields
      .omit({ title: true, description: true, labels: true, parts: true })
      .partial(),
    own: ownChangesSchema.default({}),
    overrideReason: move.shape.overrideReason,
  }),
  z.object({
    kind: z.enum(TERM_KINDS),
    add: z.array(term).max(MOST_TERMS_OF_ITEM).default([]),
    remove: z.array(term).max(MOST_TERMS_OF_ITEM).default([]),
  }),
  z.object({ kind: z.literal("rank"), end: z.enum(["top", "bottom"]) }),
  z.object({
    kind: z.literal("block"),
    cause: z.string().trim().min(1, "A blocker needs a cause.").max(500),
    waitingFor: z.string().trim().max(200).nullable().default(null),
  }),
  z.object({ kind: z.literal("put under"), parentKey: z.string().max(30).nullable() }),
]);
export type BulkAct = z.output<typeof bulkAct>;

/** What is done by a job: an act, or taking back what another one did. */
export type BulkDoing = BulkAct | { kind: "undo"; of: string };

/** Labels or parts with some more and some fewer, in their order. */
function relabelled(
  names: readonly string[],
  { add, remove }: Extract<BulkAct, { kind: TermKind }>,
): string[] {
  const kept = names.filter((each) => !remove.includes(each));
  return [...kept, ...add.filter((each) => !kept.includes(each))];
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * The command that an act is for one item; null where the item is already as it would be.
 * @param last the item at the end of all ranks, for what is ranked there
 */
export function commandFor(
  act: BulkAct,
  item: ItemSnapshot,
  last: string | null = null,
): CommandRequest | null {
  switch (act.kind) {
    case "move": {
      const { to, answers, overrideReason } = act;
      const from = item.stateId;
      return from === to ? null : { kind: "move", from, to, answers, overrideReason };
    }
    case "set": {
      const changed = Object.entries(act.changes).filter(
        ([field, value]) => !same(item[field as keyof ItemSnapshot], value),
      );
      const own = Object.entries(act.own).filter(
        ([field, value]) => !same(item.own[field] ?? null, value),
      );
      if (changed.length + own.length === 0) return null;
      return {
        kind: "edit",
        seenVersion: item.version,
        changes: Object.fromEntries(changed),
        own: Object.fromEntries(own),
        overrideReason: act.overrideReason,
      };
    }
    case "label":
    case "part": {
      const field = TERM_FIELDS[act.kind];
      const names = relabelled(item[field], act);
      return same(names, item[field])
        ? null
        : { kind: "edit", seenVersion: item.version, changes: { [field]: names }, own: {} };
    }
    case "rank":
      if (act.end === "top") return { kind: "place", below: null };
      return last === null || last === item.id ? null : { kind: "place", below: last };
    case "block":
      return { kind: "block", cause: act.cause, waitingFor: act.waitingFor };
    case "put under":
      return { kind: "put under", parentKey: act.parentKey };
  }
}

/** What an act does, in words behind "To 12 items:". */
export function actWords(doing: BulkDoing, vocabulary: Vocabulary): string {
  switch (doing.kind) {
    case "move":
      return `moved to ${labelOf("stateId", doing.to, vocabulary)}`;
    case "set": {
      const fields = EDITABLE_FIELDS.filter((field) => field in doing.changes);
      const own = vocabulary.own.filter((field) => field.id in doing.own).map(({ name }) => name);
      return `set ${[...fields.map((field) => ITEM_FIELDS[field].words), ...own].join(", ")}`;
    }
    case "label":
    case "part": {
      const said = doing.kind === "label" ? "labelled" : "put to the part";
      return [
        doing.add.length > 0 && `${said} ${doing.add.join(", ")}`,
        doing.remove.length > 0 && `no more ${said} ${doing.remove.join(", ")}`,
      ]
        .filter(Boolean)
        .join(", ");
    }
    case "rank":
      return `put at the ${doing.end} of the order`;
    case "block":
      return `blocked: ${doing.cause}`;
    case "put under":
      return doing.parentKey === null ? "put under nothing" : `put under ${doing.parentKey}`;
    case "undo":
      return "taken back";
  }
}
