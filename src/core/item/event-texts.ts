import type { Criterion } from "./criterion";
import type { ItemChange, ItemEvent } from "./event";
import type { TimeEntry } from "@/core/time/entry";
import { TEXT_FIELDS, type ItemSnapshot } from "./fields";
import type { OwnValues } from "./own-field";

/** What stands where a text was that has been emptied. */
export const EMPTIED = "(emptied)";

type Rewrite = (text: string) => string;

/**
 * An event with each free text in it rewritten: all that people write in their own words, and the
 * addresses and names of outsiders among it. The one list of where such texts stand: storing puts
 * the id of a text in its place, reading puts the text there again. An empty text is left as it is.
 */
export function rewriteTexts<E extends ItemEvent>(event: E, rewrite: Rewrite): E {
  const change = rewriteChange(event, (text) => (text === "" ? "" : rewrite(text)));
  return { ...event, ...change };
}

function rewriteChange(event: ItemEvent, rewrite: Rewrite): Partial<ItemChange> {
  const maybe = <T>(value: T): T => (typeof value === "string" ? (rewrite(value) as T) : value);
  switch (event.kind) {
    case "created":
      return { new: rewriteFields(event.new, rewrite) };
    case "changed": {
      if (event.field === "criteria")
        return { old: criteria(event.old, rewrite), new: criteria(event.new, rewrite) };
      const isText = (TEXT_FIELDS as readonly string[]).includes(event.field);
      return isText ? { old: maybe(event.old), new: maybe(event.new) } : {};
    }
    case "own changed":
      return { old: maybe(event.old), new: maybe(event.new) };
    case "moved":
    case "reported":
    case "held":
    case "overrode":
    case "withdrawn":
    case "comment taken back":
      return { note: maybe(event.note) };
    case "commented":
      return { new: { ...event.new, body: rewrite(event.new.body) } };
    case "comment edited":
      return {
        old: { body: rewrite(event.old.body) },
        new: { ...event.new, body: rewrite(event.new.body) },
      };
    case "blocked": {
      const { cause, waitingFor } = event.new;
      return { new: { ...event.new, cause: rewrite(cause), waitingFor: maybe(waitingFor) } };
    }
    case "lifted":
      return { old: { ...event.old, cause: rewrite(event.old.cause) } };
    case "undone":
      return { new: rewriteFields(event.new, rewrite) };
    case "emptied":
      return { new: rewriteFields(event.new, rewrite), note: maybe(event.note) };
    case "file added":
      return { new: { ...event.new, name: rewrite(event.new.name) } };
    case "file removed":
      return { old: { ...event.old, name: rewrite(event.old.name) } };
    case "time recorded": {
      const noted = (entry: TimeEntry | null) => entry && { ...entry, note: rewrite(entry.note) };
      return { old: noted(event.old), new: noted(event.new) };
    }
    case "ticked":
      return event.new.criterion ? { new: { ...event.new, text: rewrite(event.new.text) } } : {};
    case "unticked":
      return event.old.criterion ? { old: { ...event.old, text: rewrite(event.old.text) } } : {};
    case "put under":
    case "changed project":
    case "brought back":
    case "talk closed":
    case "ranked":
    case "marked ready":
    case "ready taken back":
    case "linked":
    case "unlinked":
    case "approved":
    case "approval withdrawn":
      return {};
  }
}

/** Fields of an item, or some of them, with each free text rewritten. */
export function rewriteFields<F extends Partial<ItemSnapshot>>(fields: F, rewrite: Rewrite): F {
  const rewritten: Partial<ItemSnapshot> = { ...fields };
  for (const field of TEXT_FIELDS) {
    const text = rewritten[field];
    if (typeof text === "string") rewritten[field] = rewrite(text);
  }
  if (fields.criteria) rewritten.criteria = criteria(fields.criteria, rewrite);
  if (fields.own) rewritten.own = rewriteOwn(fields.own, rewrite);
  if (fields.openBlockers)
    rewritten.openBlockers = fields.openBlockers.map((blocker) => ({
      ...blocker,
      cause: rewrite(blocker.cause),
      waitingFor: blocker.waitingFor === null ? null : rewrite(blocker.waitingFor),
    }));
  return rewritten as F;
}

const criteria = (lines: unknown, rewrite: Rewrite): Criterion[] =>
  (lines as Criterion[]).map(({ id, text }) => ({ id, text: rewrite(text) }));

/** An event does not know which own fields are texts: every value that is a string counts as one. */
const rewriteOwn = (own: OwnValues, rewrite: Rewrite): OwnValues =>
  Object.fromEntries(
    Object.entries(own).map(([id, value]) => [
      id,
      typeof value === "string" ? rewrite(value) : value,
    ]),
  );

/** What is different about an item once a text is emptied wherever it says the same. */
export function withoutText(item: ItemSnapshot, body: string): Partial<ItemSnapshot> {
  const emptied = rewriteFields(item, (text) => (text === body ? EMPTIED : text));
  const differs = (key: string) =>
    JSON.stringify(item[key as keyof ItemSnapshot]) !==
    JSON.stringify(emptied[key as keyof ItemSnapshot]);
  return Object.fromEntries(Object.entries(emptied).filter(([key]) => differs(key)));
}
