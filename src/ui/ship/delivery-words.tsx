"use client";
import { useState } from "react";
import { DAY, HOUR, MINUTE } from "@/core/calendar/instant";
import { counted } from "@/core/formats/counted";
import type { Failure, FailureKind } from "@/core/ship/delivery-figures";
import { DELIVERY_WEEKS, type DeliveriesView } from "@/core/ship/what-is-where-view";
import { TextButton } from "@/ui/kit/button";
import { Sheet } from "@/ui/kit/sheet";
import { ago, exact, percent, shortDays } from "@/ui/kit/time";
import { buildWords } from "./environment-head";
import { HostLink } from "./host-link";

/** "3.1 h", "8.4 d" */
export function timeWords(ms: number): string {
  if (ms < 2 * HOUR) return `${Math.round(ms / MINUTE)} min`;
  return ms < 2 * DAY ? `${(ms / HOUR).toFixed(1)} h` : shortDays(ms / DAY);
}

/** The four figures of what went live; a press on one opens the deployments behind all of them. */
export function DeliveryWords({
  view: { environment, figures, deliveries },
  zone,
  now,
}: {
  view: DeliveriesView;
  zone: string;
  now: number;
}) {
  const [open, setOpen] = useState(false);
  const { everyDays, leadTime, failureShare, timeToRestore } = figures;
  if (everyDays === null) return null;
  const told = [
    [`${environment} every`, counted(Math.round(everyDays * 10) / 10, "day")],
    ["from commit to live", leadTime === null ? null : timeWords(leadTime)],
    ["failed", percent(failureShare)],
    ["to mend", timeToRestore === null ? null : timeWords(timeToRestore)],
  ] as const;
  return (
    <div className="delivery-words" role="group" aria-label="How it goes live">
      <span className="text-ink-soft">the last {DELIVERY_WEEKS} weeks:</span>
      {told.map(
        ([words, figure]) =>
          figure !== null && (
            <TextButton key={words} className="!text-ink" onClick={() => setOpen(true)}>
              {words} <b className="tabular-nums">{figure}</b>
            </TextButton>
          ),
      )}
      <Sheet
        open={open}
        onClose={() => setOpen(false)}
        title={`What went to ${environment} in the last ${DELIVERY_WEEKS} weeks`}
        className="!w-[640px]"
      >
        <p className="mb-2 text-[13px] text-ink-soft">
          {counted(figures.deployments, "deployment")}, {figures.failed} of them failed. From commit
          to live is the median over commits, of the first deployment that has them; to mend, from a
          failing deployment to the one that ended it. What names a failure is said under{" "}
          <i>How code goes</i>.
        </p>
        <DeliveryList deliveries={deliveries} zone={zone} now={now} />
      </Sheet>
    </div>
  );
}

const FAILED: Record<FailureKind, string> = {
  "rolled back": "rolled back",
  withdrawn: "release taken back",
  hotfix: "hotfix",
};

const failureWords = (at: number, { kind, endedAt }: Failure): string =>
  endedAt === null
    ? `${FAILED[kind]}, not mended yet`
    : `${FAILED[kind]} after ${timeWords(endedAt - at)}`;

/** Each deployment to live, with what became of it. */
export function DeliveryList({
  deliveries,
  zone,
  now,
}: Pick<DeliveriesView, "deliveries"> & { zone: string; now: number }) {
  return (
    <ul className="deliveries">
      {deliveries.map((one) => (
        <li key={one.id}>
          <b className="key">
            <HostLink url={one.url}>{buildWords(one)}</HostLink>
          </b>
          <span className="text-ink-soft" title={exact(one.at, zone)}>
            {ago(one.at, now)}
            {one.by && ` by ${one.by}`}
          </span>
          <span>
            {one.commits === 0 ? "nothing new" : counted(one.commits, "commit")}
            {one.leadTime !== null && ` after ${timeWords(one.leadTime)}`}
          </span>
          <span className="font-semibold text-alarm">
            {one.failure && failureWords(one.at, one.failure)}
          </span>
        </li>
      ))}
    </ul>
  );
}
