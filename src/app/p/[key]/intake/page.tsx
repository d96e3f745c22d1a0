import type { Metadata } from "next";
import { redirect } from "next/navigation";
import { forPage, pageViewer } from "@/app/page-access";
import { readDesk } from "@/server/intake/desk";
import { reportByReference } from "@/server/intake/found-reports";
import { readReport } from "@/server/intake/read-report";
import { foundQuery } from "@/core/intake/found-report";
import { VERDICT_KINDS } from "@/core/intake/triage-figures";
import { DeskScreen, type JudgedAsked } from "@/ui/intake/desk-screen";

export const metadata: Metadata = { title: "Intake" };

interface Asked {
  /** The reference of the report to open. */
  report?: string | string[];
  /** Words to look for. */
  find?: string | string[];
  /** Judged reports: a verdict, or all of them, and when it was given. */
  judged?: string | string[];
  since?: string | string[];
  until?: string | string[];
}

const first = (value: string | string[] | undefined) =>
  (Array.isArray(value) ? value[0] : value)?.slice(0, 200) || null;

/** The judged reports that an address asks for; what it says otherwise is passed over. */
function judgedAsked({ judged, since, until }: Asked): JudgedAsked | null {
  const wanted = first(judged);
  if (wanted === null) return null;
  const given = foundQuery.safeParse({
    verdict: VERDICT_KINDS.find((k) => k === wanted),
    since: first(since) ?? undefined,
    until: first(until) ?? undefined,
  }).data;
  return {
    verdict: given?.verdict ?? "",
    period:
      given?.since === undefined || given.until === undefined
        ? null
        : { since: given.since, until: given.until },
  };
}

export default async function IntakePage({
  params,
  searchParams,
}: {
  params: Promise<{ key: string }>;
  searchParams: Promise<Asked>;
}) {
  const viewer = await pageViewer();
  const { key } = await params;
  const wanted = await searchParams;
  const { report, find } = wanted;
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
      judged={judgedAsked(wanted)}
    />
  );
}
