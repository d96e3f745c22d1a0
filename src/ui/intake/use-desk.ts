"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { VERDICT_PAST, type Verdict } from "@/core/intake/verdict";
import { tellDone } from "@/ui/kit/notice";
import { request } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import type { DeskView, ReportView } from "./types";

/** The queue and the report that is open on the desk; the next one comes by itself after a verdict. */
export function useDesk(initial: DeskView, initialReport: ReportView | null) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: desk } = useQuery({ queryKey: ["desk", key], queryFn: () => request<DeskView>(`/api/projects/${key}/intake`), initialData: initial });
  const [chosen, setChosen] = useState<string | null>(() => {
    // What the server sent with the page is put in once; afterwards only what is asked for counts.
    if (initialReport) client.setQueryData(["report", initialReport.report.id], initialReport);
    return initialReport?.report.id ?? null;
  });
  const known = chosen !== null && [...desk.queue, ...desk.aside].some((r) => r.id === chosen);
  const [last, setLast] = useState<{ reportId: string; verdictId: string } | null>(null);
  const openId = known ? chosen : (desk.queue[0]?.id ?? null);
  const { data: report, error } = useQuery({
    queryKey: ["report", openId],
    queryFn: () => request<ReportView>(`/api/reports/${openId}`),
    enabled: openId !== null,
  });
  const readAgain = async () => {
    await Promise.all([client.invalidateQueries({ queryKey: ["desk", key] }), client.invalidateQueries({ queryKey: ["report"] }), client.invalidateQueries({ queryKey: ["summary", key] })]);
  };
  useLive((message) => {
    if (message.kind === "intake" || message.kind === "resync") void readAgain();
  });

  /** @throws Problem */
  const judge = async (view: ReportView, verdict: Verdict) => {
    const { id, reference, version } = view.report;
    const at = desk.queue.findIndex((r) => r.id === id);
    const result = await request<{ verdictId: string; itemKey: string | null }>(`/api/reports/${id}/verdicts`, {
      body: { commandId: crypto.randomUUID(), seenVersion: version, verdict },
    });
    const what = verdict.kind === "accept" ? `accepted as ${result.itemKey}` : verdict.kind === "merge" ? `merged into ${result.itemKey}` : VERDICT_PAST[verdict.kind];
    setChosen(desk.queue[at + 1]?.id ?? desk.queue[at - 1]?.id ?? null);
    setLast({ reportId: id, verdictId: result.verdictId });
    await readAgain();
    tellDone(`${reference} is ${what}.`, () => undo(id, result.verdictId));
  };
  /** @throws Problem */
  const undo = async (reportId: string, verdictId: string) => {
    await request(`/api/reports/${reportId}/verdicts`, { method: "DELETE", body: { verdictId } });
    setLast(null);
    // Its old version must not be judged again.
    client.removeQueries({ queryKey: ["report", reportId] });
    setChosen(reportId);
    await readAgain();
  };
  return { desk, openId, report: report ?? null, error, choose: setChosen, judge, undo, last };
}
