"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { KEY_PLACE, type Environment, type FreezeWindow } from "@/core/ship/environment";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { DateInput } from "@/ui/kit/date-input";
import { TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { ListEditor } from "@/ui/kit/list-editor";
import { problemWords } from "@/ui/kit/request";
import { plain, type WhereHandle } from "./use-what-is-where";

const fresh = (name = ""): Environment => ({
  ...{ id: newId(), name, address: "", live: false, freezes: [] },
});

/** Which environments there are, in which order a build reaches them, and when each is frozen. */
export function EnvironmentsForm({
  handle: { view, settle },
  onLeave,
}: {
  handle: WhereHandle;
  onLeave: () => void;
}) {
  const [draft, setDraft] = useState<readonly Environment[]>(() =>
    view.environments.length > 0 ? view.environments.map(plain) : view.unlisted.map(fresh),
  );
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const today = isoDate(dayNumber(view.now, view.project.zone));
  const set = (id: string, change: Partial<Environment>) =>
    setDraft((all) => all.map((one) => (one.id === id ? { ...one, ...change } : one)));
  const setLive = (id: string, live: boolean) =>
    setDraft((all) => all.map((one) => ({ ...one, live: one.id === id && live })));
  const send = async () => {
    setBusy(true);
    const wrong = await settle(draft);
    setBusy(false);
    if (wrong === null) return onLeave();
    setProblem(problemWords(wrong));
  };
  return (
    <form
      aria-label="Environments"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p className="text-[13px] text-ink-soft">
        In the order in which a build reaches them, named as the pipeline names them. In an address{" "}
        <code className="key">{KEY_PLACE}</code> stands for the item’s key.
      </p>
      <ListEditor
        label="Environments"
        items={draft}
        keyOf={({ id }) => id}
        nameOf={({ name }) => name || "New environment"}
        empty="None yet."
        onRemove={(at) => setDraft((all) => all.filter((_, i) => i !== at))}
        onMove={(from, to) =>
          setDraft((all) => {
            const others = all.filter((_, i) => i !== from);
            return [...others.slice(0, to), all[from], ...others.slice(to)];
          })
        }
        row={(one) => (
          <EnvironmentFields
            environment={one}
            onSet={(change) => set(one.id, change)}
            onLive={(live) => setLive(one.id, live)}
          />
        )}
      >
        <Button small className="mt-1" onClick={() => setDraft((all) => [...all, fresh()])}>
          Add an environment
        </Button>
      </ListEditor>
      <Freezes draft={draft} today={today} onSet={(id, freezes) => set(id, { freezes })} />
      <FormFooter send="Store them" busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}

function EnvironmentFields({
  environment: { name, address, live },
  onSet,
  onLive,
}: {
  environment: Environment;
  onSet: (change: Partial<Environment>) => void;
  onLive: (live: boolean) => void;
}) {
  const called = name || "the new one";
  return (
    <div className="flex min-w-0 flex-1 items-center gap-2">
      <TextInput
        required
        maxLength={60}
        className="!w-[140px]"
        aria-label={`Name of ${called}`}
        placeholder="test"
        value={name}
        onChange={(event) => onSet({ name: event.target.value })}
      />
      <TextInput
        maxLength={300}
        className="min-w-0 flex-1"
        aria-label={`Address of ${called}`}
        placeholder={`https://test.example/${KEY_PLACE}`}
        value={address}
        onChange={(event) => onSet({ address: event.target.value })}
      />
      <Check checked={live} onChange={onLive} aria-label={`${called} is live`}>
        live
      </Check>
    </div>
  );
}

/** The days on which nothing is to be deployed. */
function Freezes({
  draft,
  today,
  onSet,
}: {
  draft: readonly Environment[];
  today: string;
  onSet: (environmentId: string, freezes: FreezeWindow[]) => void;
}) {
  const all = draft.flatMap((environment) =>
    environment.freezes.map((freeze) => ({ environment, freeze })),
  );
  const change = (environment: Environment, id: string, to: Partial<FreezeWindow>) =>
    onSet(
      environment.id,
      environment.freezes.map((one) => (one.id === id ? { ...one, ...to } : one)),
    );
  return (
    <ListEditor
      label="Frozen days"
      items={all}
      keyOf={({ freeze }) => freeze.id}
      nameOf={({ environment }) => `Frozen days of ${environment.name}`}
      empty="No environment has frozen days."
      onRemove={(at) => {
        const { environment, freeze } = all[at];
        onSet(
          environment.id,
          environment.freezes.filter(({ id }) => id !== freeze.id),
        );
      }}
      row={({ environment, freeze }) => (
        <div className="flex min-w-0 flex-1 items-center gap-2">
          <b className="w-[96px] truncate">{environment.name}</b>
          <DateInput
            label={`${environment.name} frozen from`}
            className="w-[130px]"
            value={freeze.from}
            onChange={(from) => change(environment, freeze.id, { from })}
          />
          to
          <DateInput
            label={`${environment.name} frozen until`}
            className="w-[130px]"
            value={freeze.until}
            onChange={(until) => change(environment, freeze.id, { until })}
          />
          <TextInput
            maxLength={200}
            className="min-w-0 flex-1"
            aria-label={`Why ${environment.name} is frozen`}
            placeholder="why"
            value={freeze.why}
            onChange={(event) => change(environment, freeze.id, { why: event.target.value })}
          />
        </div>
      )}
    >
      <div className="mt-1 flex flex-wrap gap-2">
        {draft
          .filter(({ name }) => name.trim() !== "")
          .map((environment) => (
            <Button
              key={environment.id}
              small
              look="quiet"
              onClick={() =>
                onSet(environment.id, [
                  ...environment.freezes,
                  { id: newId(), from: today, until: today, why: "" },
                ])
              }
            >
              Freeze {environment.name}
            </Button>
          ))}
      </div>
    </ListEditor>
  );
}
