"use client";
import { useLayoutEffect } from "react";

/**
 * Lets the browser ask before a page with something that is not stored is closed or loaded anew.
 */
export function useWarnBeforeLeaving(unstored: boolean): void {
  // With the words on the screen and not a moment after them: who reads "stored" may leave.
  useLayoutEffect(() => {
    if (!unstored) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [unstored]);
}
