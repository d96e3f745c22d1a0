"use client";
import { useEffect } from "react";

/** Keeps the address of the page that of the report which is open, so that it can be passed on. */
export function useReportAddress(reference: string | null): void {
  useEffect(() => {
    if (reference === null) return;
    const address = new URL(location.href);
    if (address.searchParams.get("report") === reference) return;
    address.search = new URLSearchParams({ report: reference }).toString();
    window.history.replaceState(null, "", address);
  }, [reference]);
}
