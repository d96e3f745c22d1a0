"use client";
import { Button } from "@/ui/kit/button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { WorkingCalendar } from "@/core/calendar/working-time";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import type { ServiceTarget, TargetState } from "@/core/intake/service-target";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ofDesign, ofIntake, useReadAgain } from "@/ui/kit/use-read-again";
import { CalendarEditor } from "./calendar-editor";
import { newTarget, TargetEditor } from "./target-editor";
import { v7 as newId } from "uuid";
import type { PromisesView } from "@/core/intake/promises-view";
import { intakeContract } from "@/core/intake/contract";
import { queryOf, keyOf, ask } from "@/ui/kit/request";
import { OpenPromises } from "@/ui/intake/open-promises";
import { KeptLine, TargetLine } from "@/ui/intake/target-line";

/** Stores promises or the calendar, and says so; answers whether that was done. */
type Store = (
  change: { targets?: ServiceTarget[]; calendar?: WorkingCalendar },
  done: string,
) => Promise<boolean>;

/** What is promised to whoever asks, and how it stands: the most urgent first. */
export function PromisesScreen({ initial }: { initial: PromisesView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { openBehind } = usePanel();
  const { data: view } = useQuery({
    ...queryOf(intakeContract.promises, { params: { key } }),
    initialData: initial,
    refetchInterval: 60_000,
  });
  useReadAgain(
    (message) => ofDesign(message) || ofIntake(message),
    () =>
      client.invalidateQueries({ queryKey: keyOf(intakeContract.promises, { params: { key } }) }),
  );
  const { calendar, version } = view.rules;
  const store: Store = async (change, done) => {
    try {
      await ask(intakeContract.changeRules, {
        params: { key },
        body: { seenVersion: version, ...change },
      });
      tellDone(done);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await client.invalidateQueries({
        queryKey: keyOf(intakeContract.promises, { params: { key } }),
      });
    }
  };
  const standing = (kind: TargetState["standing"]) => [
    ...view.open
      .filter((r) => [r.answer, r.resolve].some((s) => s?.standing === kind))
      .map((r) => r.itemId),
    ...view.unseen.filter((states) => states.includes(kind)).map(() => OUTSIDE_VIEW),
  ];
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-[18px]">Promises of {view.project.name}</h1>
        <p className="text-ink-soft">
          {(["missed", "at risk", "paused"] as const).map((kind) => (
            <button
              key={kind}
              type="button"
              className="mr-3 hover:underline"
              onClick={() => openBehind({ title: `Promises: ${kind}`, ids: standing(kind) })}
            >
              <b
                className={
                  kind === "missed" && standing(kind).length > 0 ? "text-alarm" : "text-ink"
                }
              >
                {standing(kind).length}
              </b>{" "}
              {kind === "paused" ? "stand still" : kind}
            </button>
          ))}
        </p>
      </div>
      <div className="mt-3 grid gap-8 xl:grid-cols-[minmax(0,1fr)_360px]">
        <OpenPromises view={view} />
        <div className="flex flex-col gap-6">
          <Targets view={view} store={store} />
          <CalendarEditor
            key={JSON.stringify(calendar)}
            calendar={calendar}
            zone={view.project.zone}
            mayEdit={view.mayEdit}
            onSave={(next) => void store({ calendar: next }, "The working calendar is changed.")}
          />
        </div>
      </div>
    </div>
  );
}

/** What is promised, in order: the first that fits an item counts. */
function Targets({ view, store }: { view: PromisesView; store: Store }) {
  const [editing, setEditing] = useState<string | null>(null);
  const [made, setMade] = useState<ServiceTarget | null>(null);
  const { targets } = view.rules;
  const close = () => {
    setEditing(null);
    setMade(null);
  };
  const save = async (change: { targets: ServiceTarget[] }, done: string) => {
    if (await store(change, done)) close();
  };
  const move = (at: number, by: number) => {
    const next = [...targets];
    next.splice(at + by, 0, ...next.splice(at, 1));
    void save({ targets: next }, "The order is changed: the first promise that fits counts.");
  };
  return (
    <section aria-label="What is promised">
      <div className="flex items-baseline">
        <h2 className="flex-1 text-[15px]">What is promised</h2>
        {view.mayEdit && (
          <Button
            small
            disabled={made !== null}
            onClick={() => {
              const target = newTarget(newId());
              setMade(target);
              setEditing(target.id);
            }}
          >
            New promise
          </Button>
        )}
      </div>
      <p className="text-[12.5px] text-ink-soft">
        The first that fits an item counts. A new or changed promise is for what comes in from then
        on. While the requester is asked, time stands still.
      </p>
      <ul>
        {[...targets, ...(made ? [made] : [])].map((t, i) => {
          return (
            <li key={t.id} className="border-t border-line py-1.5" data-target={t.name}>
              <TargetLine
                target={t}
                view={view}
                isNew={t === made}
                open={editing === t.id}
                onOpen={() => (editing === t.id ? close() : setEditing(t.id))}
                onUp={i > 0 ? () => move(i, -1) : null}
              />
              {editing === t.id && (
                <TargetEditor
                  target={t}
                  vocabulary={view.vocabulary}
                  isNew={t === made}
                  onCancel={close}
                  onSave={(next) =>
                    void save(
                      {
                        targets:
                          t === made
                            ? [...targets, next]
                            : targets.map((x) => (x.id === t.id ? next : x)),
                      },
                      `${next.name} is promised from now on.`,
                    )
                  }
                  onRemove={() =>
                    void save(
                      { targets: targets.filter((x) => x.id !== t.id) },
                      `${t.name} is not promised any more.`,
                    )
                  }
                />
              )}
            </li>
          );
        })}
      </ul>
      <EndedPromises view={view} />
    </section>
  );
}

/** Promises that are made no more, as long as something that came in under them is counted. */
function EndedPromises({ view }: { view: PromisesView }) {
  const ended = view.kept.filter((k) => k.ended);
  if (ended.length === 0) return null;
  return (
    <>
      <h3 className="mt-2 text-[13px]">Promised no more</h3>
      <p className="text-[12.5px] text-ink-soft">What came in under them is still owed.</p>
      <ul>
        {ended.map((k) => (
          <li key={k.targetId} className="border-t border-line py-1.5">
            <b>{k.target}</b>
            <KeptLine kept={k} />
          </li>
        ))}
      </ul>
    </>
  );
}
