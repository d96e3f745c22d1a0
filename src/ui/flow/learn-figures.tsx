"use client";
import type { ReactNode } from "react";
import { WEEK } from "@/core/calendar/instant";
import { expectationWords } from "@/core/flow/expectation";
import type { LearnView } from "@/core/flow/learn-view";
import { counted } from "@/core/formats/counted";
import { percentiles, type FinishedRow, type FlowReport } from "@/core/flow/report";
import { usePanel } from "@/ui/kit/panel-context";
import { percent, shortDays } from "@/ui/kit/time";

const idsOf = (rows: readonly { itemId: string }[]) => rows.map((row) => row.itemId);

/** The figures of the period; behind each are the items that make it. */
export function LearnFigures({ view: { report, unplanned, promises } }: { view: LearnView }) {
  const { openBehind } = usePanel();
  const { kept, expectation, finished, ageing, times, little } = report;
  const { p50, p85 } = report.percentiles;
  const escaped = unplanned.escaped.flatMap((e) => e.ids);
  return (
    <dl className="mb-3 grid grid-cols-2 gap-x-4 gap-y-2 md:grid-cols-3 lg:grid-cols-5 xl:grid-cols-9">
      <Figure
        name="kept the expectation"
        figure={percent(kept.share)}
        alarm={kept.met === false}
        title="Took longer than the expectation"
        ids={idsOf(finished.filter((f) => f.days > expectation.days))}
        note={expectationWords(expectation)}
      />
      <Figure
        name="finished"
        figure={String(finished.length)}
        title="Finished in the period"
        ids={idsOf(finished)}
        note={<OtherEnds report={report} onRows={openBehind} />}
      />
      <Figure
        name="half took at most"
        figure={p50 === null ? "–" : `${p50} d`}
        title="Took at most this long"
        ids={idsOf(finished.filter((f) => f.days <= (p50 ?? 0)))}
        note={p85 === null ? "" : `85 % at most ${p85} d`}
      />
      <Figure
        name="in progress now"
        figure={String(ageing.length)}
        title="In progress now"
        ids={idsOf(ageing)}
        note={`${little.averageWip.toFixed(1)} on average`}
      />
      <Figure
        name="flow efficiency"
        figure={percent(times.efficiency)}
        title="Finished in the period"
        ids={idsOf(finished)}
        note={`${shortDays(times.blocked)} blocked per item`}
      />
      <Figure
        name="unplanned"
        figure={percent(unplanned.share.share)}
        title="Finished and not planned"
        ids={unplanned.share.unplanned}
        note={`${unplanned.share.unplanned.length} of ${unplanned.share.finished} delivered`}
      />
      <Figure
        name="escaped bugs"
        figure={String(escaped.length)}
        title="Found after the release was out"
        ids={escaped}
        note={
          unplanned.escaped.map((e) => `${e.release}: ${e.ids.length}`).join(", ") ||
          "none in the period"
        }
      />
      <Figure
        name="promises kept"
        figure={percent(promises.share)}
        title="A promise missed"
        ids={promises.missedIds}
        note={
          promises.share === null
            ? "none was decided"
            : `missed at ${promises.missed} of ${counted(promises.decided, "item")}`
        }
      />
      <Figure name="Little’s law" {...lawWords(little)} />
    </dl>
  );
}

/** How far average WIP is from throughput × average time, and what both are. */
function lawWords({ gap, averageTime, averageWip, throughput }: FlowReport["little"]) {
  const figure = gap === null ? "–" : `${gap >= 0 ? "+" : "−"}${Math.abs(gap).toFixed(1)}`;
  const note =
    averageTime === null
      ? "nothing finished"
      : `WIP ${averageWip.toFixed(1)}, rate × time ${(throughput * averageTime).toFixed(1)}`;
  return { figure, note };
}

/**
 * How many finish in a week, and beside it what ended otherwise and what finished once more: each
 * opens its items.
 */
function OtherEnds({
  report,
  onRows,
}: {
  report: FlowReport;
  onRows: (behind: { title: string; ids: string[] }) => void;
}) {
  const weeks = (report.period.to - report.period.from) / WEEK;
  const rows = (words: string, title: string, of: FinishedRow[]) =>
    of.length > 0 && (
      <>
        {", "}
        <button
          type="button"
          className="underline-offset-2 hover:underline"
          title={`${median(of)} d in the middle`}
          onClick={() => onRows({ title, ids: of.map((f) => f.itemId) })}
        >
          {of.length} {words}
        </button>
      </>
    );
  return (
    <>
      {(report.finished.length / weeks).toFixed(1)} a week
      {rows("stopped after start", "Started, and ended otherwise than delivered", report.stopped)}
      {rows("finished again", "Finished once more after the first delivery", report.again)}
    </>
  );
}

const median = (rows: readonly FinishedRow[]) => percentiles(rows.map((f) => f.days)).p50;

function Figure({
  name,
  figure,
  alarm = false,
  title,
  ids,
  note,
}: {
  name: string;
  figure: string;
  alarm?: boolean;
  /** What the items behind the figure are called; without it there are none. */
  title?: string;
  ids?: string[];
  note: ReactNode;
}) {
  const { openBehind } = usePanel();
  return (
    <div>
      <dt className="text-[12.5px] text-ink-soft">{name}</dt>
      <dd className="font-display text-[22px] leading-tight">
        {title && ids ? (
          <button
            type="button"
            className={`font-bold underline-offset-2 hover:underline ${alarm ? "text-alarm" : "text-ink"}`}
            onClick={() => openBehind({ title, ids })}
          >
            {figure}
          </button>
        ) : (
          <span className="font-bold">{figure}</span>
        )}
      </dd>
      <dd
        className="line-clamp-3 text-[12px] leading-snug text-ink-soft"
        title={typeof note === "string" ? note : undefined}
      >
        {note}
      </dd>
    </div>
  );
}
