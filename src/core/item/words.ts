import type { StateId } from "@/core/workflow/state";
import { blockerWords } from "./blocker";
import { criteriaChange, type Criterion } from "./criterion";
import type { EventOf, ItemEvent } from "./event";
import {
  FIELD_WORDS,
  ITEM_FIELDS,
  itemField,
  type EditableField,
  type FieldEditor,
  type NamedThings,
} from "./fields";
import type { TalkClosing } from "@/core/talk/comment";
import { shortDate } from "@/core/calendar/day-words";
import { amountWords } from "@/core/time/amount";
import type { TimeEntry } from "@/core/time/entry";
import { linkWords } from "./link-way";
import { outsideWords } from "./outside";
import { ownValueWords, type OwnField } from "./own-field";

/** How to name what events refer to by id. */
export interface Names {
  state: (id: StateId) => string;
  person: (id: string) => string;
  team: (id: string) => string;
  type: (id: string) => string;
  sprint: (id: string) => string;
  release: (id: string) => string;
  own: (id: string) => OwnField | undefined;
}

/** An event as a sentence without its subject: "moved it from Building to Waiting for review". */
export function eventWords(event: ItemEvent, names: Names): string {
  switch (event.kind) {
    case "created":
      return `created it in ${names.state(event.new.stateId)}`;
    case "moved":
      return `${event.new.isReturn ? "sent it back" : "moved it"} from ${names.state(event.old.stateId)} to ${names.state(event.new.stateId)}`;
    case "changed":
      return changeWords(event.field, event.old, event.new, names);
    case "own changed": {
      const field = names.own(event.field);
      const show = (value: typeof event.new) =>
        field ? ownValueWords(field, value, names.person) : String(value);
      const name = field?.name ?? "a field that is gone";
      if (event.new === null) return `cleared ${name} (was ${show(event.old)})`;
      return event.old === null
        ? `set ${name} to ${show(event.new)}`
        : `changed ${name} from ${show(event.old)} to ${show(event.new)}`;
    }
    case "reported":
      return `heard: ${outsideWords(event.new)}`;
    case "held":
      return `left it where it is instead of moving it to ${names.state(event.new.to)}`;
    case "put under":
      return event.new
        ? `put it under ${event.new.key}`
        : `took it out from under ${event.old?.key ?? "another item"}`;
    case "changed project":
      return `moved it to another project: it was ${event.old.key} and is ${event.new.key} now`;
    case "ranked":
      return "gave it another place in the order";
    case "overrode":
      return `went beyond the ${event.new.firm === false ? "advised " : ""}limit of ${event.new.columnName} (${event.new.side} ${event.new.limit}, now ${event.new.wouldHold})`;
    case "commented":
      return event.new.audience === "reporters" ? "wrote to whoever reported it" : "commented";
    case "comment edited":
      return "changed a comment";
    case "comment taken back":
      return "took a comment back";
    case "talk closed":
      return TALK_WORDS[event.new ?? "open"];
    case "blocked":
      return `marked it blocked: ${blockedWords(event.new)}`;
    case "lifted":
      return event.old.cause ? `lifted the blocker: ${event.old.cause}` : "lifted the blocker";
    case "marked ready":
      return "marked it ready for its next step";
    case "ready taken back":
      return "took back that it is ready";
    case "linked":
      return `linked it: ${linkWords(event.new)}`;
    case "unlinked":
      return `took away the link: ${linkWords(event.old)}`;
    case "ticked":
      return `ticked “${event.new.text}”`;
    case "unticked":
      return `took the tick from “${event.old.text}”`;
    case "approved":
      return `approved it as ${event.new.role}`;
    case "approval withdrawn":
      return "took the approval back";
    case "undone":
      return event.new.stateId
        ? `undid the step: it is in ${names.state(event.new.stateId)} as before`
        : "undid the last step";
    case "emptied":
      return "emptied a text of it";
    case "file added":
      return `added the file ${event.new.name}`;
    case "file removed":
      return `took the file ${event.old.name} off`;
    case "time recorded":
      return timeWords(event);
    case "withdrawn":
      return event.cause === "undo" ? "took it back to where it came from" : "withdrew it";
    case "brought back":
      return "brought it back";
  }
}

function timeWords({ old, new: now }: EventOf<"time recorded">): string {
  const told = ({ minutes, on }: TimeEntry) => `${amountWords(minutes)} on ${shortDate(on)}`;
  if (now === null) return `removed ${told(old!)} that were recorded`;
  return old === null
    ? `recorded ${told(now)}`
    : `changed what was recorded from ${told(old)} to ${told(now)}`;
}

const TALK_WORDS: Record<TalkClosing | "open", string> = {
  open: "opened its talk again",
  members: "closed its talk to everybody outside the project",
  nobody: "closed its talk",
};

function blockedWords({ cause, waitingFor, dependency }: EventOf<"blocked">["new"]): string {
  const dependencyId = dependency?.itemId;
  const words = blockerWords({ cause, dependencyId }, () => dependency?.key ?? null);
  return waitingFor ? `${words}, waiting for ${waitingFor}` : words;
}

/** What was said with an event; null where nothing was. */
export const noteOf = (event: ItemEvent): string | null => {
  if (event.kind === "time recorded") return event.new?.note || null;
  return "note" in event ? event.note : null;
};

const editorOf = (field: string): FieldEditor | null =>
  field in ITEM_FIELDS ? itemField(field as EditableField).editor : null;

/** How to name what a field refers to; null for a field that says what it means. */
function namingOf(editor: FieldEditor | null, names: Names): ((id: string) => string) | null {
  if (editor?.kind !== "choice" || typeof editor.options !== "string") return null;
  const by: Record<NamedThings, (id: string) => string> = {
    people: names.person,
    teams: names.team,
    types: names.type,
    sprints: names.sprint,
    releases: names.release,
  };
  return by[editor.options];
}

function changeWords(
  field: keyof typeof FIELD_WORDS,
  before: unknown,
  after: unknown,
  names: Names,
): string {
  const name = FIELD_WORDS[field];
  const editor = editorOf(field);
  if (editor?.kind === "text" && editor.long)
    return after ? `rewrote the ${name}` : `cleared the ${name}`;
  if (editor?.kind === "criteria")
    return `in the ${name} ${criteriaChange(before as Criterion[], after as Criterion[])}`;
  const show = (value: unknown): string => {
    if (value === null || value === "") return "none";
    if (Array.isArray(value)) return value.join(", ") || "none";
    const name = namingOf(editor, names);
    return name ? name(String(value)) : String(value);
  };
  if (after === null || after === "") return `cleared the ${name} (was ${show(before)})`;
  return before === null || before === ""
    ? `set the ${name} to ${show(after)}`
    : `changed the ${name} from ${show(before)} to ${show(after)}`;
}
