"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import type { DeskView, QueueRow, ReportView } from "@/core/intake/desk-view";
import { readAnew } from "@/ui/kit/read-anew";
import { keyOf, queryOf } from "@/ui/kit/request";
import { ofIntake, useReadAgain } from "@/ui/kit/use-read-again";
import { flowContract } from "@/core/flow/contract";
import { reportContract, intakeContract } from "@/core/intake/contract";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";
import { useMeanwhile } from "./use-meanwhile";
import { useReportAddress } from "./use-report-address";
import { useReading } from "./use-reading";
import { useVerdicts } from "./use-verdicts";

const NEAR_MS = 60_000;
const reportQuery = (id: string) => queryOf(reportContract.read, { params: { id } });

/**
 * The queue and the report that is open on the desk; the next one comes by itself after a verdict.
 */
export function useDesk(
  initial: DeskView,
  initialReport: ReportView | null,
  /** The report that the address names. */
  asked: string | null,
) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: read } = useQuery({
    ...queryOf(intakeContract.desk, { params: { key } }),
    initialData: initial,
  });
  const [chosen, setChosen] = useState<string | null>(() => {
    // What the server sent with the page is put in once; afterwards only what is asked for counts.
    if (initialReport)
      client.setQueryData(
        keyOf(reportContract.read, { params: { id: initialReport.report.id } }),
        initialReport,
      );
    return initialReport?.report.id ?? null;
  });
  const readDesk = () =>
    Promise.all([
      client.invalidateQueries({ queryKey: keyOf(intakeContract.desk, { params: { key } }) }),
      readAnew(client, { queryKey: keyOf(reportContract.read) }),
      readAnew(client, { queryKey: keyOf(intakeContract.find, { params: { key } }) }),
    ]);
  const readAgain = async () => {
    await Promise.all([
      readDesk(),
      client.invalidateQueries({ queryKey: keyOf(flowContract.summary, { params: { key } }) }),
    ]);
  };
  // The figures of the frame are read again by the frame.
  useReadAgain(ofIntake, readDesk);
  const { mine, judged, sending, ...verdicts } = useVerdicts({
    known: read.given,
    choose: setChosen,
    readAgain,
  });
  useWarnBeforeLeaving(sending > 0);
  const waits = (row: QueueRow) => !judged.has(row.id);
  const desk: DeskView = {
    ...read,
    queue: read.queue.filter(waits),
    aside: read.aside.filter(waits),
  };

  // A link to another report may come while the desk is open.
  const [followed, setFollowed] = useState(asked);
  if (asked !== followed) {
    setFollowed(asked);
    if (initialReport && asked !== null) setChosen(initialReport.report.id);
  }
  // What is open stays open, whoever judges it meanwhile, until somebody goes on.
  const openId = chosen ?? desk.queue[0]?.id ?? null;
  if (chosen !== openId) setChosen(openId);
  const [firstOpen] = useState(openId);
  const { data: report, error } = useQuery({
    ...reportQuery(openId ?? ""),
    enabled: openId !== null,
  });
  /** Reads a report before it is opened, so that it is there at once. */
  const bringNear = useCallback(
    (id: string) => void client.prefetchQuery({ ...reportQuery(id), staleTime: NEAR_MS }),
    [client],
  );

  const tookSoFar = useReading(openId, desk.mayJudge);
  /** Where the desk goes on: the next that waits, none of those just judged. */
  const goOn = (ids: readonly string[], order: readonly { id: string }[]) => {
    const at = order.findIndex((r) => ids.includes(r.id));
    const rest = order.filter((r) => !ids.includes(r.id));
    setChosen(rest.find((r) => order.indexOf(r) > at)?.id ?? rest.at(-1)?.id ?? null);
  };

  useReportAddress(report?.report.reference ?? null);
  const { meanwhile, see } = useMeanwhile(report ?? null, mine);
  return {
    desk,
    openId,
    /** Whether another report was opened than the first. */
    moved: openId !== firstOpen,
    /** How many verdicts are being stored. */
    storing: sending,
    meanwhile,
    see,
    report: report ?? null,
    error,
    choose: setChosen,
    goOn,
    tookSoFar,
    ...verdicts,
    readAgain,
    bringNear,
  };
}

export type Desk = ReturnType<typeof useDesk>;
