"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import type { LearnView } from "@/core/flow/learn-view";
import { breakWords, type PastBreak, type WeekOfBreaks } from "@/core/flow/limit-breaks";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { exact } from "@/ui/kit/time";
import { ChartFrame, Nothing } from "./chart-frame";
import { dayWords } from "./chart-style";

/** What went beyond limits, week by week, and why. */
export function LimitBreaks({ view: { breaks, project } }: { view: LearnView }) {
  const listed = breaks.weeks.reduce((sum, week) => sum + week.breaks.length, 0);
  return (
    <ChartFrame
      wide
      title="Beyond limits"
      says={
        breaks.total > listed
          ? `The latest ${listed} of ${breaks.total} times that something went beyond a limit. A firm one needs a lead's reason.`
          : "Each time that something went beyond a limit, by weeks. A firm one needs a lead's reason."
      }
    >
      {breaks.weeks.length === 0 ? (
        <Nothing>Nothing went beyond a limit in this period.</Nothing>
      ) : (
        <table className="w-full text-[13px]">
          <thead className="text-left text-[12.5px] text-ink-soft">
            <tr>
              <th className="font-normal">Week of</th>
              <th className="text-right font-normal">firm</th>
              <th className="text-right font-normal">advice</th>
              <th className="pl-6 font-normal">which</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {breaks.weeks.map((week) => (
              <Week key={week.week} week={week} zone={project.zone} />
            ))}
          </tbody>
        </table>
      )}
    </ChartFrame>
  );
}

function Week({ week, zone }: { week: WeekOfBreaks; zone: string }) {
  const [open, setOpen] = useState(false);
  const { firm, advice, byLimit } = week;
  return (
    <>
      <tr className="border-t border-line">
        <td className="whitespace-nowrap py-1">{dayWords(week.week)}</td>
        <td className={`text-right font-semibold ${firm > 0 ? "text-alarm" : "text-ink-soft"}`}>
          {firm > 0 ? firm : "–"}
        </td>
        <td className="text-right text-ink-soft">{advice > 0 ? advice : "–"}</td>
        <td className="pl-6">{byLimit.map(({ name, times }) => `${name} ${times}`).join(" · ")}</td>
        <td className="text-right">
          <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "less" : `the ${counted(week.breaks.length, "time")}`}
          </TextButton>
        </td>
      </tr>
      {open && (
        <tr>
          <td colSpan={5} className="bg-well px-3 py-1.5">
            <ul className="flex flex-col gap-0.5">
              {week.breaks.map((one, i) => (
                <Break key={`${one.at} ${i}`} one={one} zone={zone} />
              ))}
            </ul>
          </td>
        </tr>
      )}
    </>
  );
}

function Break({ one: { at, limit, item, by, reason }, zone }: { one: PastBreak; zone: string }) {
  const { openItem } = usePanel();
  return (
    <li className="flex gap-3">
      <span className="w-44 shrink-0 whitespace-nowrap text-ink-soft">{exact(at, zone)}</span>
      <span className={`w-72 shrink-0 ${limit.firm === false ? "" : "font-semibold"}`}>
        {limit.columnName}: {breakWords(limit)}
      </span>
      <span className="flex-1 truncate">
        {item ? (
          <>
            <TextButton className="key !text-accent" onClick={() => openItem(item.key)}>
              {item.key}
            </TextButton>{" "}
            {item.title}
          </>
        ) : (
          <span className="text-ink-soft">an item outside your view</span>
        )}
        {reason && <q className="ml-2 italic">{reason}</q>}
      </span>
      {by && <span className="shrink-0 text-ink-soft">{by}</span>}
    </li>
  );
}
