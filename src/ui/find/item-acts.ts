"use client";
import { EDITABLE_FIELDS, itemField, type EditableFields } from "@/core/item/fields";
import { capital } from "@/core/formats/capital";
import type { ItemView } from "@/core/item/item-view";
import { isSameTerm } from "@/core/item/terms/current-name";
import {
  LONGEST_TERM,
  TERM_FIELDS,
  TERM_KINDS,
  TERM_WORDS,
  type TermKind,
} from "@/core/item/terms/term";
import { termsOffered, type UsedTerm } from "@/core/item/terms/view";
import { mayBeReady } from "@/core/item/ready";
import { answeredFirst } from "@/ui/item/answered-first";
import { choicesOf } from "@/ui/item/field-editor";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import type { ActChoice, OfferedAct } from "@/ui/kit/offered-acts";

/** Sends a command to an item; what it still needs is asked for over the page. */
async function tell({ item, ...names }: ItemView, command: SentCommand, done: string) {
  try {
    const { commandId } =
      command.kind === "move"
        ? await answeredFirst((given) => sendCommand(item.id, { ...command, ...given }), names)
        : await sendCommand(item.id, command);
    tellDone(done, async () => {
      await undoCommand(item.id, commandId);
    });
  } catch (error) {
    tellProblem(error);
  }
}

/** Everything that can be done to an item from anywhere: its moves, and the fields that are chosen. */
export function itemActs(
  view: ItemView,
  { notes, terms }: { notes: Record<string, { words: string }>; terms: readonly UsedTerm[] },
): OfferedAct[] {
  const { key, item, card, rights } = view;
  if (item.withdrawnAt !== null) return [];
  const moves = rights.move ? view.transitions : [];
  return [
    ...moves.map(({ id, to, toName, verb }): OfferedAct => ({
      id: `move-${id}`,
      words: verb,
      more: `to ${toName}`,
      also: [`move to ${toName}`],
      key: ".",
      act: () =>
        void tell(
          view,
          { kind: "move", from: item.stateId, to, answers: {} },
          `${key} is in ${toName} now.`,
        ),
    })),
    ...(rights.move && mayBeReady(card) ? [readyAct(view)] : []),
    ...(rights.edit
      ? [...fieldActs(view, notes), ...TERM_KINDS.map((kind) => termAct(view, kind, terms))]
      : []),
  ];
}

function readyAct(view: ItemView): OfferedAct {
  const { key, card } = view;
  const on = card.readySince === null;
  return {
    id: "ready",
    words: on ? "Ready for its next step" : "Not ready any more",
    key: "r",
    act: () =>
      void tell(
        view,
        { kind: "ready", on },
        on ? `${key} is ready for its next step.` : `${key} is not ready any more.`,
      ),
  };
}

/** By which words people look for a field, beside its own. */
const ALSO: Partial<Record<keyof EditableFields, string[]>> = {
  assigneeId: ["assign to", "give to"],
  sprintId: ["plan into sprint"],
  releaseId: ["plan into release"],
};

/** A choice of several fields, each by what it is called. */
function fieldActs(view: ItemView, notes: Record<string, { words: string }>): OfferedAct[] {
  const { key, item, types, people, teams, sprints, releases } = view;
  const workflowId = types.find(({ id }) => id === item.typeId)?.workflowId;
  const named = {
    types: types.filter((type) => type.workflowId === workflowId && type.removedAt === null),
    people,
    teams,
    sprints: sprints.filter(({ past }) => !past),
    releases: releases.filter(({ past }) => !past),
  };
  return EDITABLE_FIELDS.flatMap((field): OfferedAct[] => {
    const { editor, label, panel, words } = itemField(field);
    if (editor.kind !== "choice" || !panel) return [];
    const none = editor.none === undefined ? [] : [{ value: "", label: editor.none }];
    const offered = [...choicesOf(itemField(field), named), ...none];
    const now = String(item[field] ?? "");
    const choices = offered
      .filter(({ value }) => value !== now)
      .map(({ value, label: said }): ActChoice => ({
        id: value,
        words: said,
        more: editor.options === "people" ? notes[value]?.words : undefined,
      }));
    const act = (choice = "") =>
      void tell(
        view,
        {
          kind: "edit",
          seenVersion: item.version,
          changes: { [field]: choice || null } as Partial<EditableFields>,
        },
        `${key}: ${words} is ${choices.find(({ id }) => id === choice)?.words ?? "changed"} now.`,
      );
    const more = now === "" ? undefined : offered.find(({ value }) => value === now)?.label;
    return [{ id: field, words: label, more, key: "e", also: ALSO[field], choices, act }];
  });
}

/** A label or a part is taken off or put on by choosing it, and a new one by writing it. */
function termAct(view: ItemView, kind: TermKind, terms: readonly UsedTerm[]): OfferedAct {
  const { key, item } = view;
  const field = TERM_FIELDS[kind];
  const has = item[field];
  const putOn = (name: string): ActChoice => ({ id: `+${name}`, words: `Put on “${name}”` });
  const written = (text: string): ActChoice | null => {
    const name = text.trim().slice(0, LONGEST_TERM);
    const known = terms.some((term) => term.kind === kind && isSameTerm(term.name, name));
    return name === "" || known || has.includes(name) ? null : putOn(name);
  };
  const others = termsOffered(terms, { kind, typed: "", chosen: has });
  return {
    id: field,
    words: capital(kind),
    key: "e",
    choices: [
      ...has.map((name) => ({ id: `-${name}`, words: `Take off “${name}”` })),
      ...others.map(({ name }) => putOn(name)),
    ],
    written,
    act: (choice = "") => {
      const chosen = choice.slice(1);
      const names = choice.startsWith("-") ? has.filter((one) => one !== chosen) : [...has, chosen];
      const now = names.length === 0 ? `no ${TERM_WORDS[kind].several}` : names.join(", ");
      void tell(
        view,
        { kind: "edit", seenVersion: item.version, changes: { [field]: names } },
        `${key} has ${now} now.`,
      );
    },
  };
}
