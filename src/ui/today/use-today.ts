"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { alertsContract } from "@/core/alerts/contract";
import type { EditableFields } from "@/core/item/fields";
import { todayContract } from "@/core/today/contract";
import type { DayLine } from "@/core/today/day";
import type { SmallThingLine } from "@/core/today/housekeeping";
import type { TodayView } from "@/core/today/today-view";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, queryOf } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";

/** Several changes in a moment are one look at the day. */
const SETTLE_MS = 800;

/** Somebody's day, kept in step with what happens, and what they do about it. */
export function useToday(
  initial: TodayView,
  openItem: (line: Pick<DayLine, "card" | "projectKey">) => void,
) {
  const client = useQueryClient();
  const params = { key: initial.project.key };
  const { data: view } = useQuery({
    ...queryOf(todayContract.read, { params }),
    initialData: initial,
  });
  const readAgain = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keyOf(todayContract.read, { params }) }),
      client.invalidateQueries({ queryKey: keyOf(todayContract.count, { params }) }),
    ]);
  const settling = useRef<ReturnType<typeof setTimeout> | null>(null);
  useLive((message) => {
    if (message.kind === "database") return;
    if (settling.current) clearTimeout(settling.current);
    settling.current = setTimeout(() => void readAgain(), SETTLE_MS);
  });
  const doing = async (act: () => Promise<unknown>) => {
    try {
      await act();
      await readAgain();
    } catch (error) {
      tellProblem(error);
    }
  };
  /** Moves an item by its next step; where that asks for something, the item opens with it. */
  const move = async (line: Pick<DayLine, "card" | "projectKey">, to: string, verb: string) => {
    const { card } = line;
    try {
      const sent = await sendCommand(card.id, {
        kind: "move",
        from: card.stateId,
        to,
        answers: {},
      });
      await readAgain();
      tellDone(`${card.key}: ${verb.toLowerCase()}.`, async () => {
        await undoCommand(card.id, sent.commandId);
        await readAgain();
      });
    } catch (error) {
      const problem = problemOf(error);
      tellProblem(error);
      if (problem.asks.length > 0 || problem.code !== "not found") openItem(line);
    }
  };
  return {
    view,
    move,
    seen: (ids: string[]) => doing(() => ask(alertsContract.act, { body: { kind: "read", ids } })),
    answer: (line: DayLine, commentId: string, body: string) =>
      doing(() => sendCommand(line.card.id, { kind: "comment", body, answersId: commentId })),
    mend: ({ card }: SmallThingLine, changes: Partial<EditableFields>) =>
      doing(() => sendCommand(card.id, { kind: "edit", seenVersion: card.version, changes })),
    rest: ({ card, thing }: SmallThingLine, why: string) =>
      doing(() => ask(todayContract.rest, { body: { itemId: card.id, thing, why } })),
  };
}
