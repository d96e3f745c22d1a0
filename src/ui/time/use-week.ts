"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addDays, type Day } from "@/core/calendar/month";
import { timeContract } from "@/core/time/contract";
import { mondayOf, type WeekView } from "@/core/time/week";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

export interface WeekHandle {
  view: WeekView;
  /** Whether another week is on its way. */
  waiting: boolean;
  monday: Day;
  readAgain: () => Promise<unknown>;
  /** So many weeks on, or back. */
  go: (weeks: number) => void;
  goToThis: () => void;
  look: (personId: string) => void;
}

/** A week of somebody, kept in step with what is recorded; the address names it. */
export function useWeek(projectKey: string, initial: WeekView): WeekHandle {
  const client = useQueryClient();
  const [asked, setAsked] = useState({ day: initial.days[0].day, person: initial.person.id });
  const query = queryOf(timeContract.week, { params: { key: projectKey }, query: asked });
  const first = asked.day === initial.days[0].day && asked.person === initial.person.id;
  const { data, isPlaceholderData } = useQuery({
    ...query,
    initialData: first ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "resync"].includes(message.kind), readAgain);
  const view = data ?? initial;
  const ask = (next: typeof asked) => {
    setAsked(next);
    const address = new URL(window.location.href);
    address.searchParams.set("day", next.day);
    address.searchParams.set("person", next.person);
    window.history.replaceState(null, "", address);
  };
  return {
    view,
    waiting: isPlaceholderData,
    monday: asked.day,
    readAgain,
    go: (weeks) => ask({ ...asked, day: addDays(asked.day, 7 * weeks) }),
    goToThis: () => ask({ ...asked, day: mondayOf(view.today) }),
    look: (person) => ask({ ...asked, person }),
  };
}
