"use client";
import { useRef, useState } from "react";
import { counted } from "@/core/formats/counted";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";

/** What of an item is known where it is put into a sprint. */
export interface Sprintable {
  id: string;
  key: string;
  version: number;
  sprintId: string | null;
}

/** Puts items into sprints, as one step that is undone as one; they stand there at once. */
export function useSprintMoves({
  nameOf,
  readAgain,
}: {
  /** What the sprint is called, or the backlog. */
  nameOf: (sprintId: string | null) => string;
  readAgain: () => Promise<unknown>;
}) {
  const [onTheWay, setOnTheWay] = useState<ReadonlyMap<string, string | null>>(new Map());
  /** One move after the other: what is moved twice in a row goes by its own last version. */
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const known = useRef(new Map<string, number>());
  const put = async (moved: readonly Sprintable[], sprintId: string | null): Promise<string[]> => {
    const commands: string[] = [];
    try {
      for (const { id, version } of moved) {
        const changes = { sprintId };
        const seenVersion = Math.max(version, known.current.get(id) ?? 0);
        const sent = await sendCommand(id, { kind: "edit", seenVersion, changes });
        known.current.set(id, sent.card.version);
        commands.push(sent.commandId);
      }
    } finally {
      await readAgain();
      setOnTheWay((now) => {
        const rest = new Map(now);
        for (const { id } of moved) if (rest.get(id) === sprintId) rest.delete(id);
        return rest;
      });
    }
    return commands;
  };
  const move = async (wanted: readonly Sprintable[], sprintId: string | null) => {
    const moved = wanted.filter((item) => item.sprintId !== sprintId);
    if (moved.length === 0) return;
    setOnTheWay((now) => new Map([...now, ...moved.map(({ id }) => [id, sprintId] as const)]));
    try {
      const done = line.current.then(() => put(moved, sprintId));
      line.current = done.catch(() => undefined);
      const commands = await done;
      const what = moved.length === 1 ? moved[0].key : counted(moved.length, "item");
      tellDone(`${what} in ${nameOf(sprintId)}.`, async () => {
        for (const [i, commandId] of commands.entries()) await undoCommand(moved[i].id, commandId);
        await readAgain();
      });
    } catch (error) {
      tellProblem(error);
    }
  };
  return { onTheWay, move };
}
