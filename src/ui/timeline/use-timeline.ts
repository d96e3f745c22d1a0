"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import type { Planned } from "@/core/timeline/bars";
import { timelineAsked, timelineContract } from "@/core/timeline/contract";
import type { TimelineForecast, TimelineItem, TimelineView } from "@/core/timeline/view";
import type { Look } from "@/core/view/look";
import { sendCommand, undoCommand } from "@/ui/item/send-command";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

const NO_FORECAST: TimelineForecast = { today: 0, until: {}, took: null };

/** An item with what is planned of it. */
export interface Replanned {
  item: TimelineItem;
  planned: Planned;
}

/** The items of a timeline, kept in step; what is planned anew stands there at once. */
export function useTimeline(
  projectKey: string,
  look: Look,
  { initial, asked }: { initial: TimelineView; asked: Look },
) {
  const client = useQueryClient();
  const params = { key: projectKey };
  const body = timelineAsked(look);
  const sameAsFirst = JSON.stringify(body) === JSON.stringify(timelineAsked(asked));
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: [...keyOf(timelineContract.read, { params }), body],
    queryFn: () => ask(timelineContract.read, { params, body }),
    initialData: sameAsFirst ? initial : undefined,
    placeholderData: (before) => before,
  });
  const { data: forecast = NO_FORECAST } = useQuery(queryOf(timelineContract.forecast, { params }));
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(timelineContract.read, { params }) });
  useReadAgain(({ kind }) => ["item", "design", "resync"].includes(kind), readAgain);
  const [onTheWay, setOnTheWay] = useState<ReadonlyMap<string, Planned>>(new Map());
  const stored = data ?? initial;
  const view = useMemo(
    (): TimelineView => ({
      ...stored,
      items: stored.items.map((item) => ({ ...item, ...onTheWay.get(item.id) })),
    }),
    [stored, onTheWay],
  );
  /** Plans some items, all of it undone as one. */
  const plan = async (all: readonly Replanned[]) => {
    setOnTheWay(new Map(all.map(({ item, planned }) => [item.id, planned])));
    const sent: { id: string; commandId: string }[] = [];
    try {
      for (const { item, planned } of all) {
        const { commandId } = await sendCommand(item.id, {
          kind: "edit",
          seenVersion: item.version,
          changes: {
            plannedFrom: planned.plannedFrom === null ? null : isoDate(planned.plannedFrom),
            plannedTo: planned.plannedTo === null ? null : isoDate(planned.plannedTo),
          },
        });
        sent.push({ id: item.id, commandId });
      }
    } catch (problem) {
      tellProblem(problem);
    }
    await readAgain();
    setOnTheWay(new Map());
    if (sent.length === 0) return;
    const words = all.length === 1 ? all[0].item.key : counted(sent.length, "item");
    tellDone(`${words} planned anew.`, async () => {
      for (const { id, commandId } of sent.toReversed()) await undoCommand(id, commandId);
      await readAgain();
    });
  };
  return { view, forecast, error, waiting: isPlaceholderData, plan };
}

export type TimelineHandle = ReturnType<typeof useTimeline>;
