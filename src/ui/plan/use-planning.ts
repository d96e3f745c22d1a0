"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { counted } from "@/core/formats/counted";
import { planContract } from "@/core/plan/contract";
import type { PlanItem, PlanningView } from "@/core/plan/planning-view";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** The plan of the next sprints; what is moved stands there at once, and is undone as one. */
export function usePlanning(initial: PlanningView) {
  const client = useQueryClient();
  const query = queryOf(planContract.planning, { params: { key: initial.project.key } });
  const { data: view } = useQuery({ ...query, initialData: initial });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const [onTheWay, setOnTheWay] = useState<ReadonlyMap<string, string | null>>(new Map());
  /** Everything in the plan, where it stands now. */
  const items = useMemo(() => {
    const all = [...view.backlog, ...view.planned];
    return all.map((item) => {
      const goesTo = onTheWay.get(item.id);
      return goesTo === undefined ? item : { ...item, sprintId: goesTo };
    });
  }, [view, onTheWay]);
  /** One move after the other: what is moved twice in a row goes by its own last version. */
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const known = useRef(new Map<string, number>());
  const nameOf = (id: string | null) =>
    id === null ? "the backlog" : (view.sprints.find((one) => one.id === id)?.name ?? "a sprint");
  const put = async (moved: readonly PlanItem[], sprintId: string | null): Promise<string[]> => {
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
  const move = async (wanted: readonly PlanItem[], sprintId: string | null) => {
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
  return { view, items, move, readAgain };
}

export type PlanningHandle = ReturnType<typeof usePlanning>;
