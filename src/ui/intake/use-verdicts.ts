"use client";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { v7 as newId } from "uuid";
import { reportContract } from "@/core/intake/contract";
import type { QueueRow } from "@/core/intake/desk-view";
import { undoneWords, type GivenLately } from "@/core/intake/found-report";
import type { ReportStatus } from "@/core/intake/report";
import { counted } from "@/core/formats/counted";
import { VERDICT_PAST, type Verdict } from "@/core/intake/verdict";
import type { MoveAnswers } from "@/core/item/command";
import { answeredFirst } from "@/ui/item/answered-first";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, keyOf, problemOf, type Problem } from "@/ui/kit/request";

type Judged = Pick<QueueRow, "id" | "reference" | "version" | "title">;
/** What a verdict did to its report: "accepted as TIX-12". */
function pastOf({ kind }: Verdict, itemKey: string | null): string {
  if (kind === "accept") return `accepted as ${itemKey}`;
  return kind === "merge" ? `merged into ${itemKey}` : VERDICT_PAST[kind];
}

interface Refused {
  reference: string;
  problem: Problem;
}

const tellRefused = ({ reference, problem }: Refused) =>
  tellProblem(
    Object.assign(problem, { sentence: `${reference} stays in the queue: ${problem.sentence}` }),
  );

const mergeInto = (itemId: string): Verdict => ({ kind: "merge", itemId });

/** The verdict on one of several: each item is called as its report is, unless it is for all. */
const verdictOn = (of: Judged, verdict: Verdict, together: boolean): Verdict =>
  verdict.kind === "accept" && !together
    ? { ...verdict, acceptance: { ...verdict.acceptance, title: of.title } }
    : verdict;

interface Giving {
  tookMs: number | null;
  /** Why its item goes beyond a firm limit. */
  overrideReason?: string;
}

/** What an item that is made still needs, where that was asked for. */
const withAnswers = (verdict: Verdict, { dueOn }: MoveAnswers): Verdict =>
  verdict.kind === "accept" && dueOn
    ? { ...verdict, acceptance: { ...verdict.acceptance, dueOn } }
    : verdict;

/** Sends verdicts, and knows those given here and how many are on their way. */
function useGiving() {
  const [mine, setMine] = useState<ReadonlySet<string>>(new Set());
  const [sending, setSending] = useState(0);
  /** @throws Problem */
  const give = async (of: Judged, verdict: Verdict, { tookMs, overrideReason }: Giving) => {
    const commandId = newId();
    setMine((ids) => new Set(ids).add(commandId));
    const body = { commandId, seenVersion: of.version, verdict, tookMs, overrideReason };
    setSending((n) => n + 1);
    try {
      return await ask(reportContract.judge, { params: { id: of.id }, body }, { outlives: true });
    } finally {
      setSending((n) => n - 1);
    }
  };
  return { give, mine, sending };
}

/** Verdicts on one report or on several, and how they are undone. */
export function useVerdicts({
  known,
  choose,
  readAgain,
}: {
  /** What the reader gave in earlier sittings and may undo, the latest first. */
  known: readonly GivenLately[];
  choose: (id: string | null) => void;
  readAgain: () => Promise<void>;
}) {
  const client = useQueryClient();
  // Verdicts of this sitting, those on several at once together; undone from the last to the first.
  const [stack, setStack] = useState<GivenLately[][]>([]);
  const [taken, setTaken] = useState<ReadonlySet<string>>(new Set());
  const { give, mine, sending } = useGiving();
  /** Reports that were judged here, until the queue says so too: they wait no more. */
  const [judged, setJudged] = useState<ReadonlySet<string>>(new Set());
  const onItsWay = useRef<Promise<unknown>>(Promise.resolve());

  /** Holds reports out of the queue until something is stored and read again. */
  const heldOut = <T>(ids: readonly string[], work: () => Promise<T>): Promise<T> => {
    setJudged((before) => new Set([...before, ...ids]));
    const done = work().finally(() =>
      setJudged((before) => new Set([...before].filter((id) => !ids.includes(id)))),
    );
    onItsWay.current = Promise.allSettled([onItsWay.current, done]);
    return done;
  };

  /** @throws Problem */
  const judge = (of: Judged, verdict: Verdict, tookMs: number) =>
    heldOut([of.id], async () => {
      const result = await answeredFirst(({ answers, overrideReason }) =>
        give(of, withAnswers(verdict, answers), { tookMs, overrideReason }),
      );
      const given = [{ reportId: of.id, verdictId: result.verdictId }];
      setStack((s) => [...s, given]);
      tellDone(`${of.reference} is ${pastOf(verdict, result.itemKey)}.`, () => undo(given));
      await readAgain();
    });

  /**
   * The same verdict on several reports, one after the other; what is refused is told by name and
   * stays in the queue.
   * @param together one item for all of them: the first is accepted, the others are merged into it
   * @throws Problem where nothing at all could be judged
   */
  const judgeSeveral = (several: readonly Judged[], verdict: Verdict, together: boolean) =>
    heldOut(
      several.map((r) => r.id),
      async () => {
        const given: GivenLately[] = [];
        const refused: Refused[] = [];
        let into: string | null = null;
        for (const of of several) {
          const own = into === null ? verdictOn(of, verdict, together) : mergeInto(into);
          try {
            const result: { verdictId: string; itemId: string | null } = await give(of, own, {
              tookMs: null,
            });
            given.push({ reportId: of.id, verdictId: result.verdictId });
            if (together && into === null) into = result.itemId;
          } catch (failure) {
            refused.push({ reference: of.reference, problem: problemOf(failure) });
          }
        }
        if (given.length === 0 && refused[0]) throw refused[0].problem;
        // Undone from the last to the first, so that an item loses its merged reports before it is
        // taken back.
        const backwards = given.toReversed();
        setStack((s) => [...s, backwards]);
        await readAgain();
        tellDone(
          `${counted(given.length, "report")} ${given.length === 1 ? "is" : "are"} ${VERDICT_PAST[verdict.kind]}.`,
          () => undo(backwards),
        );
        refused.forEach(tellRefused);
      },
    );

  /** @returns what it did, in a sentence @throws Problem */
  const undo = async (given: readonly GivenLately[]): Promise<string> => {
    const stand: { reference: string; status: ReportStatus }[] = [];
    for (const { reportId, verdictId } of given) {
      const asked = { params: { id: reportId }, body: { verdictId } };
      stand.push(await ask(reportContract.undoVerdict, asked));
      // Its old version must not be judged again; the one that is open is read anew as it stands.
      const queryKey = keyOf(reportContract.read, { params: { id: reportId } });
      client.removeQueries({ queryKey, type: "inactive" });
    }
    const gone = new Set(given.map((g) => g.verdictId));
    setTaken((before) => new Set([...before, ...gone]));
    setStack((s) => s.filter((batch) => !batch.some((b) => gone.has(b.verdictId))));
    choose(given.at(-1)?.reportId ?? null);
    await readAgain();
    return undoneWords(stand);
  };
  // Those of this sitting, together as they were given; then what the server knows of others.
  const earlier = known.find((g) => !taken.has(g.verdictId));
  const last = stack.at(-1) ?? (earlier ? [earlier] : []);
  const latest = useRef(last);
  useEffect(() => {
    latest.current = last;
  });
  /** Undoes the verdict that was given last, also one that is still on its way. @throws Problem */
  const undoLast = (): Promise<string | null> => {
    const undone = onItsWay.current.then(() =>
      latest.current.length === 0 ? null : undo(latest.current),
    );
    // The next one waits for this one: each press undoes one more.
    onItsWay.current = undone.catch(() => null);
    return undone;
  };
  return { mine, judged, sending, judge, judgeSeveral, undo, undoLast };
}
