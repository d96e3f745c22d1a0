"use client";
import { useState } from "react";
import type { FactName } from "@/core/condition/facts";
import { ownFieldOf } from "@/core/condition/facts";
import { EDITABLE_FIELDS, type EditableField, type EditableFields } from "@/core/item/fields";
import { isDerived, type OwnValue } from "@/core/item/own-field";
import type { TableRow } from "@/core/item/list/table";
import { answeredFirst } from "@/ui/item/answered-first";
import type { Names } from "@/ui/item/ask-form";
import { sendCommand, undoCommand, type SentCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";

const isField = (fact: FactName): fact is EditableField & FactName =>
  (EDITABLE_FIELDS as readonly string[]).includes(fact);

/** How a cell is changed: its value is set, the item is moved, or not at all. */
export function editOf(
  fact: FactName,
  { edit, move }: { edit: boolean; move: boolean },
): "value" | "move" | null {
  if (fact === "stateId") return move ? "move" : null;
  const own = ownFieldOf(fact);
  const settable = own ? !isDerived(own.kind) && own.kind !== "many of" : isField(fact);
  return settable && edit ? "value" : null;
}

/** The command that sets what a fact says. */
function commandFor(
  fact: FactName,
  value: unknown,
  seenVersion: number,
): Extract<SentCommand, { kind: "edit" }> {
  const own = ownFieldOf(fact);
  return own
    ? { kind: "edit", seenVersion, changes: {}, own: { [own.id]: value as OwnValue | null } }
    : { kind: "edit", seenVersion, changes: { [fact]: value } as Partial<EditableFields>, own: {} };
}

/** Changes of single cells: shown at once, stored through the door, and taken back where refused. */
export function useCellEdit(readAgain: () => Promise<unknown>, names: Names) {
  /** By item and fact: what was typed and is not read back yet. */
  const [typed, setTyped] = useState<ReadonlyMap<string, unknown>>(new Map());
  const put = (place: string, value: { value: unknown } | null) =>
    setTyped((before) => {
      const next = new Map(before);
      if (value) next.set(place, value.value);
      else next.delete(place);
      return next;
    });
  const store = async (
    { card }: Pick<TableRow, "card">,
    fact: FactName,
    value: unknown,
    label: string,
  ) => {
    const place = `${card.id} ${fact}`;
    put(place, { value });
    try {
      const { commandId } = await sendCommand(card.id, commandFor(fact, value, card.version));
      tellDone(`${card.key}: ${label} is stored.`, async () => {
        await undoCommand(card.id, commandId);
        await readAgain();
      });
      await readAgain();
    } catch (error) {
      tellProblem(error);
    } finally {
      put(place, null);
    }
  };
  const move = async ({ card }: TableRow, to: string, toName: string, open: () => void) => {
    try {
      const { commandId } = await answeredFirst(
        (given) => sendCommand(card.id, { kind: "move", from: card.stateId, to, ...given }),
        names,
      );
      tellDone(`${card.key} is in ${toName} now.`, async () => {
        await undoCommand(card.id, commandId);
        await readAgain();
      });
      await readAgain();
    } catch (error) {
      tellProblem(error, { label: "Open the item", onClick: open });
    }
  };
  return {
    store,
    move,
    /** What was typed and is not stored yet; undefined where nothing was. */
    typedAt: (id: string, fact: FactName) => typed.get(`${id} ${fact}`),
  };
}
