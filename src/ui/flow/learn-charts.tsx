"use client";
import { flowContract } from "@/core/flow/contract";
import type { LearnView } from "@/core/flow/learn-view";
import type { FlowQuery } from "@/core/flow/request";
import type { State } from "@/core/workflow/state";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask } from "@/ui/kit/request";
import { percent } from "@/ui/kit/time";
import { AgeingChart } from "./ageing-chart";
import { ChartFrame, Nothing } from "./chart-frame";
import { dayWords } from "./chart-style";
import { CumulativeChart } from "./cumulative-chart";
import { CycleTimeChart } from "./cycle-time-chart";
import { ShippedSection } from "./shipped-section";
import { LimitBreaks } from "./limit-breaks";
import { ThroughputChart } from "./throughput-chart";
import { TriageSection } from "./triage-section";
import { TimeInStateChart } from "./time-in-state-chart";

/** The charts of the period; each point, bar and band opens its items. */
export function LearnCharts({ view, query }: { view: LearnView; query: FlowQuery }) {
  const { openItem, openBehind } = usePanel();
  const { report } = view;
  const params = { key: view.project.key };
  const openBand = (state: State, day: number) =>
    ask(flowContract.band, { params, query: { ...query, state: state.id, day } }).then(
      ({ ids }) => openBehind({ title: `${state.name} at the end of ${dayWords(day)}`, ids }),
      tellProblem,
    );
  const nothing =
    report.finished.length === 0 ? (
      <Nothing>Nothing of this kind finished in this period. Choose a longer one.</Nothing>
    ) : null;
  return (
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
        {nothing ?? <CycleTimeChart report={report} zone={view.project.zone} onItem={openItem} />}
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
            Average days per finished item in each state: high while worked on, low while waiting.
            Flow efficiency {percent(report.times.efficiency)}; elapsed time; blocked, and ready for
            the next step, count as waiting.
          </>
        }
      >
        {nothing ?? <TimeInStateChart times={report.times} states={view.states} />}
      </ChartFrame>
      <ShippedSection view={view} />
      <LimitBreaks view={view} />
      {view.triage && <TriageSection view={{ ...view, triage: view.triage }} />}
    </div>
  );
}
