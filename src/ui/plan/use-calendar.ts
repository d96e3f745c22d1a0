"use client";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addMonths, type Day } from "@/core/calendar/month";
import type { CalendarView } from "@/core/plan/calendar-view";
import { planContract } from "@/core/plan/contract";
import { queryOf } from "@/ui/kit/request";
import { useReadAgain } from "@/ui/kit/use-read-again";

/** A month of a project's days, kept in step with what changes; the address names it. */
export function useCalendar(initial: CalendarView) {
  const client = useQueryClient();
  const [day, setDay] = useState<Day>(initial.month);
  const query = queryOf(planContract.calendar, {
    params: { key: initial.project.key },
    query: { day },
  });
  const { data, isPlaceholderData } = useQuery({
    ...query,
    initialData: day === initial.month ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const view = data ?? initial;
  const readAgain = () => client.invalidateQueries({ queryKey: query.queryKey });
  useReadAgain((message) => ["item", "design", "resync"].includes(message.kind), readAgain);
  const show = (month: Day) => {
    setDay(month);
    const address = new URL(window.location.href);
    address.searchParams.set("day", month);
    window.history.replaceState(null, "", address);
  };
  return {
    view,
    waiting: isPlaceholderData,
    readAgain,
    go: (months: number) => show(addMonths(day, months)),
    goToThis: () => show(`${view.today.slice(0, 7)}-01`),
  };
}
