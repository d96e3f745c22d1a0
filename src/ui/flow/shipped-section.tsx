"use client";
import { useState } from "react";
import type { LearnView } from "@/core/flow/learn-view";
import { counted } from "@/core/formats/counted";
import { Sheet } from "@/ui/kit/sheet";
import { usePanel } from "@/ui/kit/panel-context";
import { percent } from "@/ui/kit/time";
import { DeliveryList, timeWords } from "@/ui/ship/delivery-words";
import { ChartFrame } from "./chart-frame";

/** How what was delivered came to be live: reviewed, tested, deployed; behind each figure is what makes it. */
export function ShippedSection({ view }: { view: LearnView }) {
  const { shipped, project, now } = view;
  const { openBehind } = usePanel();
  const [open, setOpen] = useState(false);
  const { doneToLive, review, test, untested, deliveries } = shipped;
  const figures = deliveries?.figures ?? null;
  const time = (ms: number | null) => (ms === null ? "–" : timeWords(ms));
  const items = (title: string, ids: string[]) => () => openBehind({ title, ids });
  const deployed = () => setOpen(true);
  return (
    <ChartFrame
      wide
      title="How it came to be live"
      says={
        <>
          Medians of what was delivered in the period, elapsed time; deployments are those to{" "}
          {deliveries?.environment ?? "the live environment"}
          {view.query.type || view.query.class ? " that brought something of this kind" : ""}.
        </>
      }
    >
      <dl className="shipped-figures">
        {figures && (
          <>
            <ShippedFigure
              name="deployed"
              figure={figures.everyDays === null ? "–" : `every ${figures.everyDays.toFixed(1)} d`}
              note={counted(figures.deployments, "deployment")}
              onOpen={deployed}
            />
            <ShippedFigure
              name="commit to live"
              figure={time(figures.leadTime)}
              note="its first live deployment"
              onOpen={deployed}
            />
            <ShippedFigure
              name="failed"
              figure={percent(figures.failureShare)}
              note={`${figures.failed} of ${figures.deployments}`}
              onOpen={deployed}
            />
            <ShippedFigure
              name="to restore"
              figure={time(figures.timeToRestore)}
              note="until what ended it was live"
              onOpen={deployed}
            />
          </>
        )}
        <ShippedFigure
          name="done to live"
          figure={time(doneToLive.median)}
          note={`of ${counted(doneToLive.of, "item")}`}
          onOpen={items("From done to live, the longest first", doneToLive.ids)}
        />
        <ShippedFigure
          name="in review"
          figure={time(review.median)}
          note={`of ${counted(review.of, "item")}, waiting too`}
          onOpen={items("In review, the longest first", review.ids)}
        />
        <ShippedFigure
          name="in test"
          figure={time(test.median)}
          note={`of ${counted(test.of, "item")}, waiting too`}
          onOpen={items("In test, the longest first", test.ids)}
        />
        <ShippedFigure
          name="without a test"
          figure={untested.of === 0 ? "–" : percent(untested.n / untested.of)}
          note={`${untested.n} of ${untested.of}`}
          onOpen={items("Delivered without a test case", untested.ids)}
        />
      </dl>
      <Sheet
        open={open}
        onClose={() => setOpen(false)}
        title={`What went to ${deliveries?.environment ?? ""} in the period`}
        className="!w-[640px]"
      >
        {deliveries && (
          <DeliveryList deliveries={deliveries.deliveries} zone={project.zone} now={now} />
        )}
      </Sheet>
    </ChartFrame>
  );
}

const ShippedFigure = ({
  name,
  figure,
  note,
  onOpen,
}: {
  name: string;
  figure: string;
  note: string;
  onOpen: () => void;
}) => (
  <div>
    <dt className="text-[12.5px] text-ink-soft">{name}</dt>
    <dd>
      <button
        type="button"
        className="font-display text-[20px] leading-tight font-semibold tabular-nums hover:underline"
        aria-label={`${name}: ${figure}`}
        disabled={figure === "–"}
        onClick={onOpen}
      >
        {figure}
      </button>
      <span className="block text-[12.5px] text-ink-soft">{note}</span>
    </dd>
  </div>
);
