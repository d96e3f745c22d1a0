"use client";
import { useQuery } from "@tanstack/react-query";
import { AlertTriangle } from "lucide-react";
import { reportContract } from "@/core/intake/contract";
import type { Verdict } from "@/core/intake/verdict";
import { queryOf } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";

/** What is asked about a verdict that may break a promise; null for all others. */
function askedOf(verdict: Verdict) {
  if (verdict.kind === "merge") return { verdict: verdict.kind, item: verdict.itemId };
  if (verdict.kind === "park")
    return {
      verdict: verdict.kind,
      item: verdict.itemId ?? undefined,
      until: verdict.until ?? undefined,
    };
  return null;
}

/** Says, before a verdict is given, which promise it breaks. */
export function BreaksPromise({
  reportId,
  verdict,
  zone,
}: {
  reportId: string;
  verdict: Verdict;
  zone: string;
}) {
  const query = askedOf(verdict);
  const names = query !== null && (query.item || query.until);
  const { data } = useQuery({
    ...queryOf(reportContract.breaks, {
      params: { id: reportId },
      query: query ?? { verdict: "park" },
    }),
    enabled: Boolean(names),
  });
  const broken = names ? data?.broken : null;
  if (!broken) return null;
  const due = exact(broken.dueAt, zone);
  return (
    <p
      role="status"
      className="flex items-start gap-2 border-l-[3px] border-signal bg-signal-soft px-3 py-1.5 text-[13px] text-signal-ink"
    >
      <AlertTriangle size={14} aria-hidden="true" className="mt-0.5 shrink-0" />
      <span>
        {verdict.kind === "merge"
          ? `Merging breaks the promise “${broken.target}” of that item: its time runs since the first of its reports came, and was over on ${due}.`
          : broken.certain
            ? `Parking until then breaks the promise “${broken.target}”: it is due on ${due}, and its time runs on meanwhile.`
            : `The promise “${broken.target}” runs on meanwhile: it is due on ${due}.`}
      </span>
    </p>
  );
}
