"use client";
import { useState } from "react";
import type { ReportView } from "@/core/intake/desk-view";

/**
 * The verdict that somebody else gave on a report since it was opened here; null where it stands as
 * it was opened, or as it was seen since.
 * @param mine the verdicts that were given here
 */
export function useMeanwhile(open: ReportView | null, mine: ReadonlySet<string>) {
  const reportId = open?.report.id ?? null;
  const standing = open?.verdicts.find((v) => v.undoneAt === null) ?? null;
  const verdictId = standing?.id ?? null;
  const [seen, setSeen] = useState({ reportId, verdictId });
  if (seen.reportId !== reportId) setSeen({ reportId, verdictId });
  const isNew = seen.reportId === reportId && seen.verdictId !== verdictId;
  return {
    meanwhile: isNew && standing && !mine.has(standing.id) ? standing : null,
    /** That what stands now was seen. */
    see: () => setSeen({ reportId, verdictId }),
  };
}
