"use client";
import { useEffect } from "react";

/**
 * Lets the browser ask before a page with something that is not stored is closed or loaded anew.
 */
export function useWarnBeforeLeaving(unstored: boolean): void {
  useEffect(() => {
    if (!unstored) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [unstored]);
}
