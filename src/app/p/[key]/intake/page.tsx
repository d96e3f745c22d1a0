import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { forPage, pageViewer } from "@/app/page-access";
import { readDesk } from "@/server/intake/desk";
import { reportByReference } from "@/server/intake/found-reports";
import { readReport } from "@/server/intake/read-report";
import { DeskScreen } from "@/ui/intake/desk-screen";

export const metadata: Metadata = { title: "Intake" };

interface Asked {
  /** The reference of the report to open. */
  report?: string | string[];
  /** Words to look for. */
  find?: string | string[];
}

const first = (value: string | string[] | undefined) =>
  (Array.isArray(value) ? value[0] : value)?.slice(0, 200) || null;

export default async function IntakePage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Asked>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const { report, find } = await searchParams;
  const asked = first(report)?.toUpperCase() ?? null;
  const at = asked === null ? null : await reportByReference(viewer, asked);
  if (at && at.projectKey !== key)
    redirect(`/p/${at.projectKey}/intake?report=${encodeURIComponent(asked!)}`);
  const desk = await forPage(readDesk(viewer, key));
  const openId = at?.id ?? desk.queue[0]?.id;
  return (
    <DeskScreen
      initial={desk}
      initialReport={openId ? await readReport(viewer, openId) : null}
      asked={asked}
      words={first(find) ?? ""}
    />
  );
}
