"use client";
import { dayNumber } from "@/core/calendar/zone";
import type { DeskView, ReportView } from "@/core/intake/desk-view";
import { tellingOf } from "@/core/intake/letters";
import { UNJUDGED } from "@/core/intake/report";
import { afterVerdict, type Verdict } from "@/core/intake/verdict";
import { isRefusal } from "@/core/workflow/refusal";

/** What the requester will read, before it is sent. */
export function ToldByVerdict({
  verdict,
  desk,
  view,
}: {
  verdict: Verdict;
  desk: DeskView;
  view: ReportView;
}) {
  const into =
    verdict.kind === "merge" ? view.similar.find((s) => s.id === verdict.itemId) : undefined;
  // Of an item that was searched for it is not known here how far it is; the letter says it.
  if (verdict.kind === "merge" && !into) return null;
  const after = afterVerdict(UNJUDGED, verdict, "item", dayNumber(desk.now, desk.project.zone));
  const telling = isRefusal(after) ? null : tellingOf(verdict, after, desk.now, into?.progress);
  if (telling === null || !("text" in telling) || verdict.kind === "ask") return null;
  return (
    <p className="border-l-[3px] border-line-strong pl-3 text-[12.5px] text-ink-soft">
      {view.report.mail !== "" ? "They will read" : "Their page will say"}: “{telling.text}”{" "}
      <span className="whitespace-nowrap">Sent in a minute, so that it can be undone.</span>
    </p>
  );
}
