"use client";
import { useCallback, useEffect, useRef } from "react";
import { useLive, type LiveMessage } from "./use-live";

/** What happens within so long is one reading. */
const TOGETHER_MS = 400;

/**
 * Reads again when something happens that a page is about: at once, and once more for all that
 * happens in the moment after.
 */
export function useReadAgain(
  concerns: (message: LiveMessage) => boolean,
  read: () => unknown,
): void {
  const latest = useRef(read);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const more = useRef(false);
  useEffect(() => {
    latest.current = read;
  });
  const readOnce = useCallback(function again() {
    if (timer.current !== null) {
      more.current = true;
      return;
    }
    void latest.current();
    timer.current = setTimeout(() => {
      timer.current = null;
      if (!more.current) return;
      more.current = false;
      again();
    }, TOGETHER_MS);
  }, []);
  useEffect(
    () => () => {
      if (timer.current !== null) clearTimeout(timer.current);
      timer.current = null;
    },
    [],
  );
  useLive((message) => {
    if (concerns(message)) readOnce();
  });
}

/** Changes of the design, or that nothing of what happened is known. */
export const ofDesign = ({ kind }: LiveMessage): boolean => kind === "design" || kind === "resync";
/** The same of intake. */
export const ofIntake = ({ kind }: LiveMessage): boolean => kind === "intake" || kind === "resync";
