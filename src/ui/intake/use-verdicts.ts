"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { reportContract } from "@/core/intake/contract";
import type { QueueRow } from "@/core/intake/desk-view";
import { VERDICT_PAST, type Verdict } from "@/core/intake/verdict";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, type Problem } from "@/ui/kit/request";

type Judged = Pick<QueueRow, "id" | "reference" | "version" | "title">;
interface Given {
  reportId: string;
  verdictId: string;
}

/** What a verdict did to its report: "accepted as TIX-12". */
function pastOf({ kind }: Verdict, itemKey: string | null): string {
  if (kind === "accept") return `accepted as ${itemKey}`;
  return kind === "merge" ? `merged into ${itemKey}` : VERDICT_PAST[kind];
}

const mergeInto = (itemId: string): Verdict => ({ kind: "merge", itemId });

/** The verdict on one of several: each item is called as its report is, unless it is for all. */
const verdictOn = (of: Judged, verdict: Verdict, together: boolean): Verdict =>
  verdict.kind === "accept" && !together
    ? { ...verdict, acceptance: { ...verdict.acceptance, title: of.title } }
    : verdict;

/** Verdicts on one report or on several, and how they are undone. */
export function useVerdicts({
  tookSoFar,
  goOn,
  choose,
  readAgain,
}: {
  /** How long the open report has been read, in milliseconds. */
  tookSoFar: () => number;
  /** Opens what comes after the reports that were judged. */
  goOn: (ids: readonly string[], order: readonly QueueRow[]) => void;
  choose: (id: string | null) => void;
  readAgain: () => Promise<void>;
}) {
  const client = useQueryClient();
  // Verdicts of this sitting, those on several at once together; undone from the last to the first.
  const [stack, setStack] = useState<Given[][]>([]);

  const [mine, setMine] = useState<ReadonlySet<string>>(new Set());

  /** @throws Problem */
  const give = (of: Judged, verdict: Verdict, tookMs: number | null) => {
    const commandId = newId();
    setMine((ids) => new Set(ids).add(commandId));
    return ask(reportContract.judge, {
      params: { id: of.id },
      body: { commandId, seenVersion: of.version, verdict, tookMs },
    });
  };

  /** @throws Problem */
  const judge = async (of: Judged, verdict: Verdict, order: readonly QueueRow[]) => {
    const result = await give(of, verdict, tookSoFar());
    goOn([of.id], order);
    const given = [{ reportId: of.id, verdictId: result.verdictId }];
    setStack((s) => [...s, given]);
    await readAgain();
    tellDone(`${of.reference} is ${pastOf(verdict, result.itemKey)}.`, () => undo(given));
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
      const own = into === null ? verdictOn(of, verdict, together) : mergeInto(into);
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
      // Its old version must not be judged again; the one that is open is read anew as it stands.
      const queryKey = keyOf(reportContract.read, { params: { id: reportId } });
      client.removeQueries({ queryKey, type: "inactive" });
    }
    setStack((s) =>
      s.filter((batch) => !batch.some((b) => given.some((g) => g.verdictId === b.verdictId))),
    );
    choose(given.at(-1)?.reportId ?? null);
    await readAgain();
  };
  return { mine, judge, judgeSeveral, undo, last: stack.at(-1) ?? [] };
}
