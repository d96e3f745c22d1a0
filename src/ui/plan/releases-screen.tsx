"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { addDays } from "@/core/calendar/month";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { LOOSE_DAYS, type ReleasesView, type ReleaseView } from "@/core/plan/release-view";
import { SIZE_UNITS, type SizeUnit } from "@/core/plan/sprint-ledger";
import { newRelease, type Release } from "@/core/plan/sprint";
import { ChartFrame, Nothing } from "@/ui/flow/chart-frame";
import { Button, TextButton } from "@/ui/kit/button";
import { ChoiceTabs } from "@/ui/kit/choice-tabs";
import { Sheet } from "@/ui/kit/sheet";
import { exact, shortDate } from "@/ui/kit/time";
import { BurnUp } from "./burn-up";
import { ReleaseDrops, ReleasePlace } from "./release-drops";
import { ReleaseItems } from "./release-items";
import { ReleaseForm } from "./timebox-form";
import { useReleases, type ReleasesHandle } from "./use-releases";

/** What goes out together, when, how far it is, and what was finished and is in none of them. */
export function ReleasesScreen({
  initial,
  first,
}: {
  initial: ReleasesView;
  first: ReleaseView | null;
}) {
  const handle = useReleases(initial, first);
  const { view, shown, chosen, look, store } = handle;
  const [edited, setEdited] = useState<{ release: Release; isNew: boolean } | null>(null);
  const [all, setAll] = useState(false);
  const make = () => setEdited({ release: newRelease(newId()), isNew: true });
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-3 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Releases</h1>
        <p className="text-ink-soft">
          {counted(view.releases.filter(({ releasedAt }) => releasedAt === null).length, "release")}{" "}
          to come
        </p>
        <span className="flex-1" />
        {view.rights.plan && <Button onClick={make}>New release</Button>}
      </div>
      <ReleaseDrops handle={handle}>
        <nav aria-label="Releases" className="releases-list">
          {shownIn(view, chosen, all).map((one) => (
            <ReleasePlace
              key={one.id}
              line={one}
              chosen={one.id === chosen}
              onLook={() => look(one.id)}
            >
              <Line line={one} today={view.today} zone={view.project.zone} />
            </ReleasePlace>
          ))}
          {!all && view.releases.length > shownIn(view, chosen, false).length && (
            <TextButton className="mt-2 self-start" onClick={() => setAll(true)}>
              All {view.releases.length}
            </TextButton>
          )}
          {view.releases.length === 0 && (
            <p className="p-2 text-ink-soft">
              None yet. A release is a set of items that go out together, with a day.
            </p>
          )}
        </nav>
        <div className="min-w-0 flex-1 overflow-y-auto px-4 py-3">
          {shown && (
            <Chosen
              handle={handle}
              shown={shown}
              onEdit={() => setEdited({ release: shown.release, isNew: false })}
            />
          )}
          <Loose handle={handle} />
        </div>
      </ReleaseDrops>
      <Sheet
        open={edited !== null}
        onClose={() => setEdited(null)}
        title={edited?.isNew ? "A new release" : (edited?.release.name ?? "")}
      >
        {edited && (
          <ReleaseForm
            key={edited.release.id}
            given={edited.release}
            isNew={edited.isNew}
            onSend={async (body) => {
              const stored = await store(body);
              if (stored) setEdited(null);
              return stored;
            }}
            onCancel={() => setEdited(null)}
          />
        )}
      </Sheet>
    </div>
  );
}

/** So many of those that are out stand there before the others are asked for. */
const OUT_SHOWN = 5;

/** Those to come, the latest that are out, and whatever is wrong or chosen. */
function shownIn({ releases }: ReleasesView, chosen: string | null, all: boolean) {
  const out = releases.filter(({ releasedAt }) => releasedAt !== null).slice(0, OUT_SHOWN);
  return releases.filter(
    (one) =>
      all ||
      one.releasedAt === null ||
      one.id === chosen ||
      one.done < one.items ||
      out.includes(one),
  );
}

type LineOf = ReleasesView["releases"][number];

/** A release in the list: its name and day, how far it is, and what is wrong with it. */
function Line({ line, today, zone }: { line: LineOf; today: string; zone: string }) {
  const { name, startsOn, dueOn, releasedAt, items, done, moved } = line;
  const begins = startsOn !== null && startsOn > today ? `from ${shortDate(startsOn)}, ` : "";
  const open = items - done;
  return (
    <>
      <span className="flex items-baseline gap-2">
        <b className="flex-1">{name}</b>
        <span className="text-[12.5px] text-ink-soft">
          {releasedAt !== null
            ? `out ${shortDate(isoDate(dayNumber(releasedAt, zone)))}`
            : `${begins}${dueOn ? shortDate(dueOn) : "no day yet"}`}
        </span>
      </span>
      <span className="plan-bar" aria-hidden="true">
        <span style={{ width: items === 0 ? 0 : `${(100 * done) / items}%` }} />
      </span>
      <span className="block text-[12.5px] text-ink-soft">
        {done} of {counted(items, "item")} done{moved && ` · ${moved}`}
      </span>
      {releasedAt !== null && open > 0 && (
        <b className="block text-[12.5px] text-alarm">is out, and holds {open} open</b>
      )}
      {releasedAt === null && dueOn !== null && dueOn < today && (
        <b className="block text-[12.5px] text-alarm">its day is past</b>
      )}
    </>
  );
}

function Chosen({
  handle: { view, put },
  shown,
  onEdit,
}: {
  handle: ReleasesHandle;
  shown: ReleaseView;
  onEdit: () => void;
}) {
  const [unit, setUnit] = useState<SizeUnit>("items");
  const { release, items, unseen, days, dates } = shown;
  return (
    <section aria-label={release.name}>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[18px]">{release.name}</h2>
        <p>
          <DueWords shown={shown} today={view.today} />
        </p>
        <span className="flex-1" />
        {view.rights.plan && (
          <Button small onClick={onEdit}>
            Change
          </Button>
        )}
      </div>
      {dates.length > 0 && (
        <ul className="mb-3 text-[13px] text-ink-soft" aria-label="How its day moved">
          {dates.toReversed().map(({ from, to, why, at, by }) => (
            <li key={at}>
              {from === null ? "set to" : `from ${shortDate(from)} to`}{" "}
              {to ? shortDate(to) : "no day"}
              {why && <>: “{why}”</>} · {by}, {exact(at, view.project.zone)}
            </li>
          ))}
        </ul>
      )}
      <ChartFrame
        title="How it gets ready"
        says={
          <ChoiceTabs label="Counted in" values={SIZE_UNITS} chosen={unit} onChoose={setUnit} />
        }
      >
        {days.length > 0 ? (
          <>
            <BurnUp of={{ ...shown, dueOn: shown.release.dueOn }} unit={unit} />
            <p className="text-[12.5px] text-ink-soft">
              stepped: all that is in it · full: finished · broken: to all of it, 85 % sure · red:
              its day
            </p>
          </>
        ) : (
          <Nothing>Nothing is in it yet. Drop rows of the backlog onto it.</Nothing>
        )}
      </ChartFrame>
      <ReleaseItems
        title={`In it ${items.length}`}
        items={items}
        movable={view.rights.plan}
        act={
          view.rights.plan
            ? {
                words: "Take out",
                label: (key) => `Take out ${key}`,
                run: (one) => void put(one, null),
              }
            : null
        }
      />
      {unseen > 0 && (
        <p className="text-[12.5px] text-ink-soft">and {unseen} that you may not see</p>
      )}
    </section>
  );
}

/** Its day, how that moved, and by when all of it will probably be finished. */
function DueWords({ shown: { release, until }, today }: { shown: ReleaseView; today: string }) {
  const { startsOn, dueOn, releasedAt, moved } = release;
  if (releasedAt !== null)
    return <>is out{moved && <span className="text-ink-soft">, {moved}</span>}</>;
  const sure = until?.sure == null ? null : addDays(today, until.sure);
  const late = sure !== null && dueOn !== null && sure > dueOn;
  return (
    <>
      {startsOn !== null && `from ${shortDate(startsOn)}, `}
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
          {" · "}85 % sure by <b className={late ? "text-alarm" : ""}>{shortDate(sure)}</b>
        </>
      )}
    </>
  );
}

/** What was delivered lately and is in no release. */
function Loose({ handle: { view, shown, put } }: { handle: ReleasesHandle }) {
  if (view.looseTotal === 0) return null;
  const into = view.rights.plan && shown?.release.releasedAt === null ? shown.release : null;
  return (
    <section aria-label="Finished, in no release">
      <ReleaseItems
        title={`Finished in the last ${LOOSE_DAYS} days, in no release: ${view.looseTotal}`}
        items={view.loose}
        movable={view.rights.plan}
        act={
          into && {
            words: `Into ${into.name}`,
            label: (key) => `Put ${key} into ${into.name}`,
            run: (one) => void put(one, into),
          }
        }
      />
    </section>
  );
}
