"use client";
import { TextButton, Button } from "@/ui/kit/button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { WorkingCalendar } from "@/core/calendar/working-time";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import { conditionSentence } from "@/core/condition/sentence";
import type { ServiceTarget, TargetState } from "@/core/intake/service-target";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { percent } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useLive } from "@/ui/kit/use-live";
import { CalendarEditor } from "./calendar-editor";
import { PromiseMark } from "./promise-mark";
import { newTarget, TargetEditor } from "./target-editor";
import { v7 as newId } from "uuid";
import type { PromisesView } from "@/core/intake/promises-view";
import { intakeContract } from "@/core/intake/contract";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

/** What is promised to whoever asks, and how it stands: the most urgent first. */
export function PromisesScreen({ initial }: { initial: PromisesView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { openItem, openBehind } = usePanel();
  const { data: view } = useQuery({
    ...queryOf(intakeContract.promises, { params: { key } }),
    initialData: initial,
    refetchInterval: 60_000,
  });
  useLive((message) => {
    if (message.kind === "design" || message.kind === "intake" || message.kind === "resync")
      void client.invalidateQueries({
        queryKey: keyOf(intakeContract.promises, { params: { key } }),
      });
  });
  const [editing, setEditing] = useState<string | "calendar" | null>(null);
  const [made, setMade] = useState<ServiceTarget | null>(null);
  const { targets, calendar, version } = view.rules;
  const close = () => {
    setEditing(null);
    setMade(null);
  };
  const store = async (
    change: { targets?: ServiceTarget[]; calendar?: WorkingCalendar },
    done: string,
  ): Promise<boolean> => {
    try {
      await ask(intakeContract.changeRules, {
        params: { key },
        body: { seenVersion: version, ...change },
      });
      tellDone(done);
      close();
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
  const move = (at: number, by: number) => {
    const next = [...targets];
    next.splice(at + by, 0, ...next.splice(at, 1));
    void store({ targets: next }, "The order is changed: the first promise that fits counts.");
  };
  const nameOf = (id: string | null) => view.people.find((p) => p.id === id)?.name ?? "nobody yet";
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
        <section aria-label="Open promises" className="min-w-0">
          {view.open.length === 0 && (
            <p className="py-6 text-ink-soft">
              {targets.length === 0
                ? "Nothing is promised yet. A promise says how soon a first answer comes, and how soon it is done."
                : "Nothing that is open has a promise."}
            </p>
          )}
          {view.open.length > 0 && (
            <p
              aria-hidden="true"
              className="flex items-center gap-2 pb-1 text-[12px] text-ink-soft"
            >
              <span className="min-w-0 flex-1">Open, what is due next first</span>
              <span className="w-20">State</span>
              <span className="hidden w-24 2xl:inline">Who has it</span>
              <span className="w-[176px]">Answer</span>
              <span className="w-[176px]">Done</span>
            </p>
          )}
          <ol>
            {view.open.map((r) => (
              <li
                key={r.itemId}
                className="flex items-center gap-2 border-t border-line py-1"
                data-promise={r.key}
              >
                <TypeGlyph typeId={r.typeId} />
                <TextButton
                  className="key w-[74px] text-left !text-accent"
                  onClick={() => openItem(r.key)}
                >
                  {r.key}
                </TextButton>
                <span className="min-w-0 flex-1 truncate">{r.title}</span>
                <span className="w-20 truncate text-[12.5px] text-ink-soft">{r.stateName}</span>
                <span className="hidden w-24 truncate text-[12.5px] text-ink-soft 2xl:inline">
                  {nameOf(r.assigneeId)}
                </span>
                <span className="w-[176px]">
                  {r.answer && <PromiseMark state={r.answer} reads="answer" />}
                </span>
                <span className="w-[176px]">
                  {r.resolve && <PromiseMark state={r.resolve} reads="done" />}
                </span>
              </li>
            ))}
          </ol>
        </section>
        <div className="flex flex-col gap-6">
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
              The first that fits an item counts. While its requester is asked, time stands still.
            </p>
            <ul>
              {[...targets, ...(made ? [made] : [])].map((t, i) => {
                const kept = view.kept.find((k) => k.target === t.name);
                return (
                  <li key={t.id} className="border-t border-line py-1.5" data-target={t.name}>
                    <div className="flex items-center gap-2">
                      <b className="min-w-0 flex-1 truncate">{t.name || "New promise"}</b>
                      {view.mayEdit && t !== made && (
                        <>
                          <Button
                            look="quiet"
                            small
                            className="!px-1"
                            aria-label={`${t.name} further up`}
                            disabled={i === 0}
                            onClick={() => move(i, -1)}
                          >
                            ↑
                          </Button>
                          <Button
                            small
                            aria-expanded={editing === t.id}
                            onClick={() => (editing === t.id ? close() : setEditing(t.id))}
                          >
                            {editing === t.id ? "Close" : "Change"}
                          </Button>
                        </>
                      )}
                    </div>
                    {t !== made && (
                      <p className="text-[13px]">
                        {t.answerHours !== null && <>answer within {t.answerHours} h</>}
                        {t.answerHours !== null && t.resolveHours !== null && ", "}
                        {t.resolveHours !== null && <>done within {t.resolveHours} h</>}{" "}
                        <span className="text-ink-soft">
                          {t.working ? "of working time" : "by the clock"}, when{" "}
                          {conditionSentence(t.condition, view.vocabulary)}
                        </span>
                      </p>
                    )}
                    {kept && t !== made && (
                      <button
                        type="button"
                        className="text-left text-[12.5px] text-ink-soft hover:underline"
                        onClick={() =>
                          openBehind({ title: `${t.name}: missed`, ids: kept.both.missedIds })
                        }
                      >
                        last 12 weeks: {kept.both.missed} of {kept.both.decided} missed
                        {kept.answered.share !== null && (
                          <>
                            , answers kept{" "}
                            <b className="text-ink">{percent(kept.answered.share)}</b>
                          </>
                        )}
                        {kept.resolved.share !== null && (
                          <>
                            , done in time{" "}
                            <b className="text-ink">{percent(kept.resolved.share)}</b>
                          </>
                        )}
                      </button>
                    )}
                    {editing === t.id && (
                      <TargetEditor
                        target={t}
                        vocabulary={view.vocabulary}
                        isNew={t === made}
                        onCancel={close}
                        onSave={(next) =>
                          void store(
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
                          void store(
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
          </section>
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
