"use client";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { Card } from "@/core/board/card";
import { parseIsoDate } from "@/core/calendar/zone";
import { grouped } from "@/core/item/grouped";
import { UNIT_LEVEL } from "@/core/item/item-type";
import type { BacklogView } from "@/core/plan/backlog-view";
import { rankedSection } from "@/core/plan/backlog-sections";
import { planContract } from "@/core/plan/contract";
import {
  dueHere,
  placesOf,
  reachLines,
  type DueHere,
  type ReachDate,
  type ReachLine,
} from "@/core/plan/reach-lines";
import { USUAL_REACH_WEEKS, type ReachView } from "@/core/plan/reach-view";
import { sprintWords } from "@/core/plan/sprint";
import { shortDate } from "@/ui/kit/time";
import type { Backlog } from "./use-backlog";
import { queryOf } from "@/ui/kit/request";

/** So many releases have lines: those that come first. */
const MOST_RELEASES = 3;

const NO_ROWS: readonly Card[] = [];

/** How far a backlog reaches, where its lines stand among the rows, and how due dates stand there. */
export function useReach(
  view: BacklogView,
  { sections, filter }: Pick<Backlog, "sections" | "filter">,
  initial: ReachView,
) {
  const ranked = rankedSection(sections.map(({ section }) => section))?.id ?? null;
  const rows = sections.find(({ section }) => section.id === ranked)?.cards ?? NO_ROWS;
  const [weeks, setWeeks] = useState<number>(USUAL_REACH_WEEKS);
  const usual = weeks === USUAL_REACH_WEEKS && filter.isFirst;
  const { data = initial } = useQuery({
    ...queryOf(planContract.reach, {
      params: { key: view.project.key },
      query: { weeks, filter: filter.text },
    }),
    ...(usual ? { initialData: initial } : {}),
    placeholderData: (before) => before,
  });
  const { reach, hiddenAfter, today } = data;
  const counts = useMemo(() => {
    const levels = new Map(view.types.map(({ id, level }) => [id, level]));
    return rows.map(({ typeId }) => levels.get(typeId) === UNIT_LEVEL);
  }, [view.types, rows]);
  const dates = useMemo(() => datesOf(view, today), [view, today]);
  const lines = useMemo(
    () => (reach ? reachLines(reach, dates, { counts, hiddenAfter }) : []),
    [reach, dates, counts, hiddenAfter],
  );
  const places = useMemo(() => placesOf(counts, hiddenAfter), [counts, hiddenAfter]);
  const dueOf = (card: Card, at: number): DueHere | null => {
    const place = places[at];
    if (!reach || card.dueOn === null || place === null) return null;
    return dueHere(reach, place, parseIsoDate(card.dueOn) - parseIsoDate(today));
  };
  return { data, weeks, setWeeks, ranked, lines: byPlace(lines), noneBy: noneBy(lines), dueOf };
}

/** The ends of the running sprint and the next one, and the days of the releases to come. */
function datesOf({ sprints, releases }: BacklogView, today: string): ReachDate[] {
  const { current, next } = sprintWords(sprints, today);
  const away = (day: string) => parseIsoDate(day) - parseIsoDate(today);
  return [
    ...sprints
      .filter(({ id }) => id === current || id === next)
      .map(({ id, name, endsOn }) => ({
        id,
        words: `the end of ${name}, ${shortDate(endsOn)}`,
        day: endsOn,
        in: away(endsOn),
      })),
    ...releases
      .filter(({ releasedAt, dueOn }) => releasedAt === null && dueOn !== null && dueOn >= today)
      .toSorted((a, b) => (a.dueOn! < b.dueOn! ? -1 : 1))
      .slice(0, MOST_RELEASES)
      .map(({ id, name, dueOn }) => ({
        id,
        words: `${name}, ${shortDate(dueOn!)}`,
        day: dueOn!,
        in: away(dueOn!),
      })),
  ];
}

/** What stands behind the same row is one line. */
const byPlace = (lines: readonly ReachLine[]): Map<number, ReachLine[]> =>
  grouped(
    lines.filter(({ after, beyond }) => !beyond && after > 0),
    ({ after }) => after,
  );

/** By when not even one row is as likely as not to be finished, in words; the last such date. */
function noneBy(lines: readonly ReachLine[]): string | null {
  const none = lines.filter(({ how, after, beyond }) => how === "even" && after === 0 && !beyond);
  return none.at(-1)?.date.words ?? null;
}

export type ReachHandle = ReturnType<typeof useReach>;
