"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { DeskView, QueueRow, ReportView } from "@/core/intake/desk-view";
import { VERDICT_PAST, type Verdict } from "@/core/intake/verdict";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { keyOf, ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { useLive } from "@/ui/kit/use-live";
import { v7 as newId } from "uuid";
import { flowContract } from "@/core/flow/contract";
import { reportContract, intakeContract } from "@/core/intake/contract";

type Judged = Pick<QueueRow, "id" | "reference" | "version" | "title">;
interface Given {
  reportId: string;
  verdictId: string;
}

const NEAR_MS = 60_000;
const reportQuery = (id: string) => queryOf(reportContract.read, { params: { id } });

const PRESENCE_EVERY_MS = 15_000;

/**
 * The queue and the report that is open on the desk; the next one comes by itself after a verdict.
 */
export function useDesk(initial: DeskView, initialReport: ReportView | null) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: desk } = useQuery({
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
  const known = chosen !== null && [...desk.queue, ...desk.aside].some((r) => r.id === chosen);
  // Verdicts of this sitting, those on several at once together; undone from the last to the first.
  const [stack, setStack] = useState<Given[][]>([]);
  const openId = known ? chosen : (desk.queue[0]?.id ?? null);
  const { data: report, error } = useQuery({
    ...reportQuery(openId ?? ""),
    enabled: openId !== null,
  });
  /** Reads a report before it is opened, so that it is there at once. */
  const bringNear = useCallback(
    (id: string) => void client.prefetchQuery({ ...reportQuery(id), staleTime: NEAR_MS }),
    [client],
  );
  const readAgain = async () => {
    await Promise.all([
      client.invalidateQueries({ queryKey: keyOf(intakeContract.desk, { params: { key } }) }),
      client.invalidateQueries({ queryKey: keyOf(reportContract.read) }),
      client.invalidateQueries({ queryKey: keyOf(flowContract.summary, { params: { key } }) }),
    ]);
  };
  useLive((message) => {
    if (message.kind === "intake" || message.kind === "resync") void readAgain();
  });

  // When reading of it began: the pace of the desk is measured from here to the verdict.
  const beganAt = useRef(0);
  const tookSoFar = useRef(() => Math.min(Date.now() - beganAt.current, 86_400_000));
  useEffect(() => {
    beganAt.current = Date.now();
    if (openId === null || !desk.mayJudge) return;
    // Who else is at the desk sees that this report is being read. That this is not told is no
    // reason to disturb anybody.
    const tell = () =>
      void ask(reportContract.open, { params: { id: openId } }, { retry: false }).catch(
        () => undefined,
      );
    tell();
    const timer = setInterval(tell, PRESENCE_EVERY_MS);
    return () => clearInterval(timer);
  }, [openId, desk.mayJudge]);

  /** @throws Problem */
  const give = (of: Judged, verdict: Verdict, tookMs: number | null) =>
    ask(reportContract.judge, {
      params: { id: of.id },
      body: { commandId: newId(), seenVersion: of.version, verdict, tookMs },
    });

  /** Where the desk goes on: the next that waits, none of those just judged. */
  const goOn = (ids: readonly string[], order: readonly QueueRow[]) => {
    const at = order.findIndex((r) => ids.includes(r.id));
    const rest = order.filter((r) => !ids.includes(r.id));
    setChosen(rest.find((r) => order.indexOf(r) > at)?.id ?? rest.at(-1)?.id ?? null);
  };

  /** @throws Problem */
  const judge = async (of: Judged, verdict: Verdict, order: readonly QueueRow[]) => {
    const result = await give(of, verdict, tookSoFar.current());
    const what =
      verdict.kind === "accept"
        ? `accepted as ${result.itemKey}`
        : verdict.kind === "merge"
          ? `merged into ${result.itemKey}`
          : VERDICT_PAST[verdict.kind];
    goOn([of.id], order);
    const given = [{ reportId: of.id, verdictId: result.verdictId }];
    setStack((s) => [...s, given]);
    await readAgain();
    tellDone(`${of.reference} is ${what}.`, () => undo(given));
  };

  /**
   * The same verdict on several reports, one after the other; what is refused is told by name and
   * stays in the queue.
   * @param together one item for all of them: the first is accepted, the others are merged into it
   * @throws Problem where nothing at all could be judged
   */
  const judgeSeveral = async (
    several: readonly Judged[],
    verdict: Verdict,
    together: boolean,
    order: readonly QueueRow[],
  ) => {
    const given: Given[] = [];
    const refused: { reference: string; problem: Problem }[] = [];
    let into: string | null = null;
    for (const of of several) {
      const own: Verdict =
        into !== null
          ? { kind: "merge", itemId: into }
          : verdict.kind === "accept"
            ? {
                ...verdict,
                acceptance: {
                  ...verdict.acceptance,
                  title: together ? verdict.acceptance.title : of.title,
                },
              }
            : verdict;
      try {
        const result: { verdictId: string; itemId: string | null } = await give(of, own, null);
        given.push({ reportId: of.id, verdictId: result.verdictId });
        if (together && into === null) into = result.itemId;
      } catch (failure) {
        refused.push({ reference: of.reference, problem: problemOf(failure) });
      }
    }
    if (given.length === 0 && refused[0]) throw refused[0].problem;
    goOn(
      given.map((g) => g.reportId),
      order,
    );
    // Undone from the last to the first, so that an item loses its merged reports before it is
    // taken back.
    const backwards = given.toReversed();
    setStack((s) => [...s, backwards]);
    await readAgain();
    tellDone(`${given.length} reports are ${VERDICT_PAST[verdict.kind]}.`, () => undo(backwards));
    for (const { reference, problem } of refused)
      tellProblem(
        Object.assign(problem, {
          sentence: `${reference} stays in the queue: ${problem.sentence}`,
        }),
      );
  };

  /** @throws Problem */
  const undo = async (given: readonly Given[]) => {
    for (const { reportId, verdictId } of given) {
      await ask(reportContract.undoVerdict, { params: { id: reportId }, body: { verdictId } });
      // Its old version must not be judged again.
      client.removeQueries({ queryKey: keyOf(reportContract.read, { params: { id: reportId } }) });
    }
    setStack((s) =>
      s.filter((batch) => !batch.some((b) => given.some((g) => g.verdictId === b.verdictId))),
    );
    setChosen(given.at(-1)?.reportId ?? null);
    await readAgain();
  };
  return {
    desk,
    openId,
    report: report ?? null,
    error,
    choose: setChosen,
    judge,
    judgeSeveral,
    undo,
    last: stack.at(-1) ?? [],
    readAgain,
    bringNear,
  };
}
