"use client";

import { type DeskFilter, WHOLE_DESK } from "@/core/intake/desk-filter";
import { type DeskView } from "@/core/intake/desk-view";
import { workLeft } from "@/core/intake/pace";
import { counted } from "@/core/formats/counted";
import { useRouter } from "next/navigation";
import { Button, TextButton } from "@/ui/kit/button";
import Link from "next/link";
import { Select } from "@/ui/kit/select";

/** How much waits and how long that takes, and the ways to other desks. */
export function DeskHead({
  desk,
  storing,
  onFilter,
  onHelp,
}: {
  desk: DeskView;
  /** How many verdicts are on their way. */
  storing: number;
  onFilter: (filter: DeskFilter) => void;
  onHelp: () => void;
}) {
  const router = useRouter();
  const leftMs = workLeft(desk.took, desk.queue.length);
  const missed = desk.queue.filter((r) => r.promise?.state.standing === "missed").length;
  return (
    <div className="flex shrink-0 items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5 max-sm:flex-wrap">
      <h1 className="text-[18px] whitespace-nowrap">Triage desk</h1>
      <p className="text-ink-soft">
        <b className="text-ink">{desk.queue.length}</b>{" "}
        {desk.queue.length === 1 ? "report waits" : "reports wait"} for a verdict
        {leftMs !== null && desk.queue.length > 0 && (
          <span
            title={`The median of the last ${desk.took.length} verdicts, times the reports that wait`}
          >
            , about{" "}
            <b className="text-ink">
              {leftMs < 90_000 ? "a minute" : `${Math.round(leftMs / 60_000)} minutes`}
            </b>{" "}
            of work left
          </span>
        )}
        {missed > 0 && (
          <>
            ,{" "}
            <TextButton
              className="!text-alarm"
              onClick={() =>
                onFilter({ ...WHOLE_DESK, show: "near its promise", order: "by promise" })
              }
            >
              {missed} past {missed === 1 ? "its" : "their"} promise
            </TextButton>
          </>
        )}
      </p>
      <span role="status" className="flex-1 text-[13px] text-ink-soft">
        {storing > 0 && `storing ${counted(storing, "verdict")}…`}
      </span>
      {desk.desks.length > 1 && (
        <Select
          label="Desk"
          className="!w-auto"
          value={desk.project.key}
          options={desk.desks.map((d) => ({
            value: d.key,
            label: `${d.name} (${d.key === desk.project.key ? desk.queue.length : d.waiting})`,
          }))}
          onChange={(next) => router.push(`/p/${next}/intake`)}
        />
      )}
      {desk.mayJudge && (
        <Link
          prefetch={false}
          className="link text-[13px] whitespace-nowrap"
          href={`/p/${desk.project.key}/intake/import`}
        >
          Import a table
        </Link>
      )}
      <Button small className="max-sm:hidden" onClick={onHelp}>
        Keys <kbd>?</kbd>
      </Button>
    </div>
  );
}
