"use client";
import { useEffect, useRef } from "react";
import { DAY } from "@/core/calendar/instant";
import { reportContract } from "@/core/intake/contract";
import { ask } from "@/ui/kit/request";

const PRESENCE_EVERY_MS = 15_000;

/**
 * Tells the others at the desk which report is being read, and measures for how long: the pace of
 * the desk is counted from the opening of a report to its verdict.
 * @returns how long it has been read so far, in milliseconds
 */
export function useReading(openId: string | null, mayJudge: boolean): () => number {
  const beganAt = useRef(0);
  const tookSoFar = useRef(() => Math.min(Date.now() - beganAt.current, DAY));
  useEffect(() => {
    beganAt.current = Date.now();
    if (openId === null || !mayJudge) return;
    // That this is not told is no reason to disturb anybody.
    const tell = () =>
      void ask(reportContract.open, { params: { id: openId } }, { retry: false }).catch(
        () => undefined,
      );
    tell();
    const timer = setInterval(tell, PRESENCE_EVERY_MS);
    return () => clearInterval(timer);
  }, [openId, mayJudge]);
  // Only asked for when a verdict is given.
  // eslint-disable-next-line react-hooks/refs
  return tookSoFar.current;
}
