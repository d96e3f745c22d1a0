import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { planContract } from "@/core/plan/contract";
import { readCalendar } from "@/server/plan/calendar";
import { CalendarScreen } from "@/ui/plan/calendar-screen";

export const metadata: Metadata = { title: "Calendar" };

export default async function CalendarPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const [{ key }, asked] = await Promise.all([params, searchParams]);
  // What is no day is as if none had been asked for.
  const query = planContract.calendar.query.safeParse(asked);
  const initial = await forPage(
    readCalendar(viewer, key, query.success ? query.data.day : undefined),
  );
  return <CalendarScreen initial={initial} />;
}
