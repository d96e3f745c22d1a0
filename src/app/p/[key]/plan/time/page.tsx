import type { Metadata } from "next";
import { forPage, pageViewer } from "@/app/page-access";
import { timeContract } from "@/core/time/contract";
import { readWeek } from "@/server/time/week";
import { WeekScreen } from "@/ui/time/week-screen";

export const metadata: Metadata = { title: "A week's time" };

export default async function WeekPage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const viewer = await pageViewer();
  const [{ key }, asked] = await Promise.all([params, searchParams]);
  // What is no week of anybody is as if nothing had been asked.
  const query = timeContract.week.query.safeParse(asked);
  const initial = await forPage(readWeek(viewer, key, query.success ? query.data : {}));
  return <WeekScreen projectKey={key} initial={initial} />;
}
