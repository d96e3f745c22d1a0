"use client";
import { EDITABLE_FIELDS, itemField, type EditableFields } from "@/core/item/fields";
import type { ItemView } from "@/core/item/item-view";
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
export function itemActs(view: ItemView, notes: Record<string, { words: string }>): OfferedAct[] {
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
    ...(rights.edit ? [...fieldActs(view, notes), labelAct(view)] : []),
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

/** A label is taken off by choosing it, and put on by writing it. */
function labelAct(view: ItemView): OfferedAct {
  const { key, item } = view;
  const written = (text: string): ActChoice | null => {
    const label = text.trim().slice(0, 40);
    return label === "" || item.labels.includes(label)
      ? null
      : { id: `+${label}`, words: `Put on “${label}”` };
  };
  return {
    id: "labels",
    words: "Label",
    key: "e",
    choices: item.labels.map((label) => ({ id: `-${label}`, words: `Take off “${label}”` })),
    written,
    act: (choice = "") => {
      const label = choice.slice(1);
      const labels = choice.startsWith("-")
        ? item.labels.filter((one) => one !== label)
        : [...item.labels, label];
      void tell(
        view,
        { kind: "edit", seenVersion: item.version, changes: { labels } },
        `${key} has ${labels.length === 0 ? "no labels" : labels.join(", ")} now.`,
      );
    },
  };
}
