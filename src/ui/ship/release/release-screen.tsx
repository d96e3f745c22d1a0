"use client";
import Link from "next/link";
import { useState } from "react";
import { addDays } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import type { ReleasePage } from "@/core/ship/release/release-page";
import { ChartFrame, Nothing } from "@/ui/flow/chart-frame";
import { Button, ButtonLink } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import { BurnUp } from "@/ui/plan/burn-up";
import { AgainstList } from "./against-list";
import { ReleaseTags } from "./release-tags";
import { WithdrawForm } from "./withdraw-form";
import { OutForm } from "./out-form";
import { ReleaseNotes } from "./release-notes";
import { ReleaseStages } from "./release-stages";
import { TestedList } from "./tested-list";
import { useReleasePage, type ReleasePageHandle } from "./use-release-page";

/** A release as it is sent out: what is in it, what stands against it, and what its notes say. */
export function ReleaseScreen({ initial }: { initial: ReleasePage }) {
  const handle = useReleasePage(initial);
  const { view } = handle;
  const [goingOut, setGoingOut] = useState(false);
  const [withdrawing, setWithdrawing] = useState(false);
  const { release, project } = view;
  if (!release)
    return (
      <div className="p-4">
        <h1 className="mb-2 text-[18px]">Releases</h1>
        <p className="text-ink-soft">
          There is no release yet.{" "}
          <Link className="link" href={`/p/${project.key}/plan/releases`}>
            Plan one
          </Link>
          : what is in it, and what stands against it, stands here.
        </p>
      </div>
    );
  return (
    <div className="release-screen">
      <div className="min-h-0 overflow-y-auto px-5 py-3">
        <Head
          handle={handle}
          onOut={() => setGoingOut(true)}
          onWithdraw={() => setWithdrawing(true)}
        />
        <ReleaseTags handle={handle} />
        <ReleaseStages stages={view.stages} />
        <AgainstList handle={handle} />
        <TestedList view={view} />
        <ChartFrame title="How it got ready" says="the tasks under its items are counted too">
          {view.days.length > 0 ? (
            <BurnUp of={{ ...view, dueOn: release.dueOn }} unit="items" />
          ) : (
            <Nothing>Nothing was in it yet.</Nothing>
          )}
        </ChartFrame>
      </div>
      <ReleaseNotes handle={handle} />
      <Sheet
        open={goingOut}
        onClose={() => setGoingOut(false)}
        title={`${release.name} is out`}
        className="!w-[640px]"
      >
        <OutForm handle={handle} onLeave={() => setGoingOut(false)} />
      </Sheet>
      <Sheet
        open={withdrawing}
        onClose={() => setWithdrawing(false)}
        title={`${release.name} is taken back`}
        className="!w-[640px]"
      >
        <WithdrawForm handle={handle} onLeave={() => setWithdrawing(false)} />
      </Sheet>
    </div>
  );
}

function Head({
  handle,
  onOut,
  onWithdraw,
}: {
  handle: ReleasePageHandle;
  onOut: () => void;
  onWithdraw: () => void;
}) {
  const { view, look, takeBack, outAfterAll } = handle;
  const { project, rights } = view;
  const release = view.release!;
  const dayOf = (at: number) => shortDate(isoDate(dayNumber(at, project.zone)));
  return (
    <div className="mb-3 flex flex-wrap items-center gap-x-3 gap-y-1">
      <h1 className="sr-only">Releases</h1>
      <Select
        label="Release"
        plain
        className="!w-auto !text-[18px] font-bold"
        value={release.id}
        options={view.releases.map(({ id, name, releasedAt }) => ({
          value: id,
          label: releasedAt === null ? name : `${name}, out ${dayOf(releasedAt)}`,
        }))}
        onChange={look}
      />
      <p className="text-[13px]">
        <Due view={view} />
      </p>
      <span className="flex-1" />
      {rights.plan && (
        <>
          <ButtonLink small href={`/p/${project.key}/plan/releases?release=${release.id}`}>
            Change the day
          </ButtonLink>
          {release.releasedAt === null ? (
            <Button small look="strong" onClick={onOut}>
              It is out …
            </Button>
          ) : view.withdrawn ? (
            <Button small onClick={() => void outAfterAll()}>
              It is out after all
            </Button>
          ) : (
            <>
              <Button small look="danger" onClick={onWithdraw}>
                Take it back …
              </Button>
              <Button small onClick={() => void takeBack()}>
                It is not out
              </Button>
            </>
          )}
        </>
      )}
    </div>
  );
}

/** Its day, how that moved, and when it will probably be ready. */
function Due({ view: { release, until, today, project, withdrawn } }: { view: ReleasePage }) {
  const { dueOn, releasedAt, moved } = release!;
  if (releasedAt !== null)
    return (
      <>
        out since <b>{shortDate(isoDate(dayNumber(releasedAt, project.zone)))}</b>
        {moved && <span className="text-ink-soft"> {moved}</span>}
        {withdrawn && (
          <>
            {", "}
            <b className="text-alarm">
              taken back {shortDate(isoDate(dayNumber(withdrawn.at, project.zone)))}
            </b>
            : {withdrawn.why}
          </>
        )}
      </>
    );
  const sure = until?.sure == null ? null : addDays(today, until.sure);
  const late = sure !== null && dueOn !== null && sure > dueOn;
  return (
    <>
      {dueOn ? (
        <>
          due <b>{shortDate(dueOn)}</b>
        </>
      ) : (
        <b className="text-signal-ink">no day yet</b>
      )}
      {moved && <span className="text-ink-soft"> {moved}</span>}
      {sure !== null && (
        <>
          {" · "}probably ready <b className={late ? "text-alarm" : ""}>{shortDate(sure)}</b>
        </>
      )}
    </>
  );
}
