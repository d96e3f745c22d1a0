"use client";
import { TextButton } from "@/ui/kit/button";
import { wordOptions, Select, namedOptions } from "@/ui/kit/select";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { WEEK } from "@/core/calendar/instant";
import { expectationWords } from "@/core/flow/expectation";
import { percentiles, type FinishedRow, type FlowReport } from "@/core/flow/report";
import { CLASSES_OF_SERVICE } from "@/core/item/fields";
import type { State } from "@/core/workflow/state";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { keyOf, ask, problemOf, queryOf } from "@/ui/kit/request";
import { percent, shortDate, shortDays } from "@/ui/kit/time";
import { useLive } from "@/ui/kit/use-live";
import { AgeingChart } from "./ageing-chart";
import { ChartFrame, Nothing } from "./chart-frame";
import { CumulativeChart } from "./cumulative-chart";
import { CycleTimeChart } from "./cycle-time-chart";
import { dayWords } from "./chart-style";
import { ThroughputChart } from "./throughput-chart";
import { TimeInStateChart } from "./time-in-state-chart";
import type { LearnView } from "@/core/flow/learn-view";
import { flowContract } from "@/core/flow/contract";
import { type FlowQuery, PERIODS } from "@/core/flow/request";

/** How work has flowed, from the history alone. */
export function LearnScreen({ initial }: { initial: LearnView }) {
  const client = useQueryClient();
  const [query, setQuery] = useState(initial.query);
  const params = { key: initial.project.key };
  const first = query === initial.query;
  const { data, error, isPlaceholderData } = useQuery({
    ...queryOf(flowContract.learn, { params, query }),
    initialData: first ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const view = data ?? initial;
  useLive((message) => {
    if (message.kind === "resync" || message.kind === "design")
      void client.invalidateQueries({ queryKey: keyOf(flowContract.learn) });
  });
  const { openItem, openBehind } = usePanel();
  const change = (next: typeof query) => {
    setQuery(next);
    const params = new URLSearchParams(
      Object.entries(next).filter(([, v]) => v) as [string, string][],
    );
    window.history.replaceState(null, "", `?${params}`);
  };
  const openBand = (state: State, day: number) =>
    ask(flowContract.band, { params, query: { ...query, state: state.id, day } }).then(
      ({ ids }) => openBehind({ title: `${state.name} at the end of ${dayWords(day)}`, ids }),
      tellProblem,
    );
  const { report } = view;
  const late = report.finished.filter((f) => f.days > report.expectation.days);
  const finishedIds = report.finished.map((f) => f.itemId);
  const figure = (text: string, title: string, ids: string[], alarm = false) => (
    <button
      type="button"
      className={`font-bold underline-offset-2 hover:underline ${alarm ? "text-alarm" : "text-ink"}`}
      onClick={() => openBehind({ title, ids })}
    >
      {text}
    </button>
  );
  const nothing =
    report.finished.length === 0 ? (
      <Nothing>Nothing of this kind finished in this period. Choose a longer one.</Nothing>
    ) : null;
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">How {view.project.name.toLowerCase()} work flowed</h1>
        <div
          className="flex flex-wrap items-center gap-1.5 text-[13.5px] text-ink-soft"
          role="group"
          aria-label="What the charts show"
        >
          the last
          <Select
            label="Period"
            words
            value={query.period}
            options={wordOptions(Object.keys(PERIODS))}
            onChange={(next) => change({ ...query, period: next as FlowQuery["period"] })}
          />
          of
          <Select
            label="Item type"
            words
            value={query.type ?? ""}
            options={[{ value: "", label: "all types" }, ...namedOptions(view.types)]}
            onChange={(next) => change({ ...query, type: next || undefined })}
          />
          in
          <Select
            label="Class of service"
            words
            value={query.class ?? ""}
            options={[{ value: "", label: "all classes" }, ...wordOptions(CLASSES_OF_SERVICE)]}
            onChange={(next) =>
              change({ ...query, class: (next || undefined) as FlowQuery["class"] })
            }
          />
          {(query.type || query.class) && (
            <TextButton onClick={() => change({ period: query.period })}>clear</TextButton>
          )}
          <span>
            {shortDate(view.from)} to {shortDate(view.to)}
          </span>
          {isPlaceholderData && <span role="status">counting…</span>}
          {error && (
            <span role="alert" className="text-alarm">
              {problemOf(error).sentence}
            </span>
          )}
        </div>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-3">
        <dl className="mb-3 grid grid-cols-2 gap-x-4 gap-y-2 md:grid-cols-3 lg:grid-cols-5 xl:grid-cols-9">
          <Figure
            name="kept the expectation"
            figure={figure(
              percent(report.kept.share),
              "Took longer than the expectation",
              late.map((f) => f.itemId),
              report.kept.met === false,
            )}
            note={expectationWords(report.expectation)}
          />
          <Figure
            name="finished"
            figure={figure(String(report.finished.length), "Finished in the period", finishedIds)}
            note={<OtherEnds report={report} onRows={openBehind} />}
          />
          <Figure
            name="half took at most"
            figure={figure(
              report.percentiles.p50 === null ? "–" : `${report.percentiles.p50} d`,
              "Took at most this long",
              report.finished
                .filter((f) => f.days <= (report.percentiles.p50 ?? 0))
                .map((f) => f.itemId),
            )}
            note={report.percentiles.p85 === null ? "" : `85 % at most ${report.percentiles.p85} d`}
          />
          <Figure
            name="in progress now"
            figure={figure(
              String(report.ageing.length),
              "In progress now",
              report.ageing.map((a) => a.itemId),
            )}
            note={`${report.little.averageWip.toFixed(1)} on average`}
          />
          <Figure
            name="flow efficiency"
            figure={figure(percent(report.times.efficiency), "Finished in the period", finishedIds)}
            note={`${shortDays(report.times.blocked)} blocked per item`}
          />
          <Figure
            name="unplanned"
            figure={figure(
              percent(view.unplanned.share.share),
              "Finished and not planned",
              view.unplanned.share.unplanned,
            )}
            note={`${view.unplanned.share.unplanned.length} of ${view.unplanned.share.finished} delivered`}
          />
          <Figure
            name="escaped bugs"
            figure={figure(
              String(view.unplanned.escaped.reduce((sum, e) => sum + e.ids.length, 0)),
              "Found in finished work",
              view.unplanned.escaped.flatMap((e) => e.ids),
            )}
            note={
              view.unplanned.escaped.length === 0
                ? "none in the period"
                : view.unplanned.escaped.map((e) => `${e.release}: ${e.ids.length}`).join(", ")
            }
          />
          <Figure
            name="promises kept"
            figure={figure(
              percent(view.promises.share),
              "A promise missed",
              view.promises.missedIds,
            )}
            note={
              view.promises.share === null
                ? "none was decided"
                : `${view.promises.missed} of ${view.promises.decided} missed`
            }
          />
          <Figure
            name="Little’s law"
            figure={
              <span className="font-bold">
                {report.little.gap === null
                  ? "–"
                  : `${report.little.gap >= 0 ? "+" : "−"}${Math.abs(report.little.gap).toFixed(1)}`}
              </span>
            }
            note={
              report.little.averageTime === null
                ? "nothing finished"
                : `WIP ${report.little.averageWip.toFixed(1)}, rate × time ${(report.little.throughput * report.little.averageTime).toFixed(1)}`
            }
          />
        </dl>
        <div className="grid gap-3 lg:grid-cols-2">
          <ChartFrame
            title="Cumulative flow"
            says="Items in each state at the end of each day; hatched bands wait. The upright distance is WIP, the level one about the time."
          >
            <CumulativeChart
              report={report}
              states={view.states}
              onBand={(state, day) => void openBand(state, day)}
            />
          </ChartFrame>
          <ChartFrame
            title="Cycle time"
            says="Each item by its days from start to first delivery, both counted. Open diamonds took longer than expected."
          >
            {nothing ?? (
              <CycleTimeChart report={report} zone={view.project.zone} onItem={openItem} />
            )}
          </ChartFrame>
          <ChartFrame
            title="Throughput"
            says="Finished items by ISO week; hollow bars are weeks that are not whole."
          >
            {nothing ?? (
              <ThroughputChart
                weeks={report.throughput}
                onWeek={(w) =>
                  openBehind({
                    title: `Finished in the week of ${dayWords(w.week)}`,
                    ids: w.itemIds,
                  })
                }
              />
            )}
          </ChartFrame>
          <ChartFrame
            title="Age of what is in progress"
            says="Days since the start, today included, over the state it is in. Squares are blocked, rings are past 85 %."
          >
            {report.ageing.length === 0 ? (
              <Nothing>Nothing of this kind is in progress.</Nothing>
            ) : (
              <AgeingChart report={report} states={view.states} onItem={openItem} />
            )}
          </ChartFrame>
          <ChartFrame
            wide
            title="Where the time went"
            says={
              <>
                Average days per finished item in each state: high while worked on, low while
                waiting. Flow efficiency {percent(report.times.efficiency)}; elapsed time, blocked
                counts as waiting.
              </>
            }
          >
            {nothing ?? <TimeInStateChart times={report.times} states={view.states} />}
          </ChartFrame>
        </div>
      </div>
    </div>
  );
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

function Figure({ name, figure, note }: { name: string; figure: ReactNode; note: ReactNode }) {
  return (
    <div>
      <dt className="text-[12.5px] text-ink-soft">{name}</dt>
      <dd className="font-display text-[22px] leading-tight">{figure}</dd>
      <dd
        className="line-clamp-3 text-[12px] leading-snug text-ink-soft"
        title={typeof note === "string" ? note : undefined}
      >
        {note}
      </dd>
    </div>
  );
}
