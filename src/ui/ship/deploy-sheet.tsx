"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { counted } from "@/core/formats/counted";
import { shipContract } from "@/core/ship/contract";
import { freezeOn } from "@/core/ship/environment";
import {
  objectionsOf,
  type DeployForecast,
  type EnvironmentView,
  type MainView,
} from "@/core/ship/what-is-where-view";
import { Check } from "@/ui/kit/check";
import { Field } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { Note } from "@/ui/kit/note";
import { queryOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import type { DeployWish } from "./environment-head";
import type { WhereHandle } from "./use-what-is-where";

export interface Wanted extends DeployWish {
  kind: "deploy" | "roll back";
}

/** What a deployment would bring, before the pipeline is asked for it. */
export function DeploySheet({
  handle,
  wanted,
  onWanted,
}: {
  handle: WhereHandle;
  wanted: Wanted | null;
  onWanted: (wanted: Wanted | null) => void;
}) {
  const environment = handle.view.environments.find(({ id }) => id === wanted?.environmentId);
  const doing = wanted?.kind === "roll back" ? "Roll back" : "Deploy to";
  return (
    <Sheet
      open={wanted !== null && environment !== undefined}
      onClose={() => onWanted(null)}
      title={`${doing} ${environment?.name ?? ""}`}
      className="!w-[480px]"
    >
      {wanted && environment && (
        <DeployForm
          handle={handle}
          wanted={wanted}
          environment={environment}
          onChoose={(chosen) => onWanted({ ...wanted, ...chosen })}
          onLeave={() => onWanted(null)}
        />
      )}
    </Sheet>
  );
}

function DeployForm({
  handle: { view, deploy },
  wanted,
  environment,
  onChoose,
  onLeave,
}: {
  handle: WhereHandle;
  wanted: Wanted;
  environment: EnvironmentView;
  onChoose: (chosen: Pick<Wanted, "repository" | "build">) => void;
  onLeave: () => void;
}) {
  const { repository, build, environmentId, kind } = wanted;
  const { project, mains, now } = view;
  const forecast = useQuery(
    queryOf(shipContract.forecastDeployment, {
      params: { key: project.key },
      query: { repository, build, environmentId },
    }),
  );
  const [inFreeze, setInFreeze] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const frozen = freezeOn(environment, isoDate(dayNumber(now, project.zone)));
  const send = async () => {
    setBusy(true);
    const wrong = await deploy(
      { kind, repository, build, environmentId, inFreeze },
      environment.name,
    );
    setBusy(false);
    if (wrong === null) return onLeave();
    setProblem(
      typeof wrong === "string"
        ? `The pipeline did not take it: ${wrong}`
        : `${wrong.sentence} ${wrong.help}`,
    );
  };
  const verb = kind === "deploy" ? `Deploy ${build}` : `Roll back to ${build}`;
  return (
    <form
      aria-label={`${verb} on ${environment.name}`}
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <BuildChoice mains={mains} chosen={wanted} onChoose={onChoose} />
      {forecast.data ? (
        <Forecast forecast={forecast.data} />
      ) : (
        <p className="text-ink-soft" role="status">
          {forecast.error ? "What it would bring cannot be told." : "Looking what it would bring …"}
        </p>
      )}
      {frozen && (
        <Note kind="look">
          <p>
            {environment.name} is frozen until {shortDate(frozen.until)}
            {frozen.why && `: ${frozen.why}`}.
          </p>
          <Check className="mt-1" checked={inFreeze} onChange={setInFreeze}>
            Deploy it all the same
          </Check>
        </Note>
      )}
      <p className="text-[13px] text-ink-soft">
        The pipeline is asked. Nothing changes here until it says that it is done.
      </p>
      <FormFooter
        send={verb}
        busy={busy}
        disabled={frozen !== undefined && !inFreeze}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}

type Chosen = Pick<Wanted, "repository" | "build">;

/** Which build: the latest of each repository, and the one that was asked for. */
function BuildChoice({
  mains,
  chosen: { repository, build },
  onChoose,
}: {
  mains: readonly MainView[];
  chosen: Chosen;
  onChoose: (chosen: Chosen) => void;
}) {
  const offered = mains.map((main): { group: string; builds: Chosen[] } => {
    const names = main.builds.map(({ name }) => name);
    const own = main.repository === repository ? [build, ...names] : names;
    return {
      group: main.repository,
      builds: [...new Set(own)].map((name) => ({ repository: main.repository, build: name })),
    };
  });
  const all = offered.flatMap(({ builds }) => builds);
  const valueOf = (one: Chosen) => `${one.repository} ${one.build}`;
  const optionsOf = (builds: readonly Chosen[]) =>
    builds.map((one) => ({ value: valueOf(one), label: one.build }));
  const label = `Build of ${repository}`;
  return (
    <Field label={label}>
      <Select
        label={label}
        value={valueOf({ repository, build })}
        options={
          offered.length === 1
            ? optionsOf(all)
            : offered.map(({ group, builds }) => ({ group, options: optionsOf(builds) }))
        }
        onChange={(value) => {
          const found = all.find((one) => valueOf(one) === value);
          if (found) onChoose(found);
        }}
      />
    </Field>
  );
}

const LISTED = 8;

function Forecast({ forecast: { brings, takes, commits, hidden } }: { forecast: DeployForecast }) {
  const objections = new Map(objectionsOf(brings).map((one) => [one.key, one.objection]));
  const nothing = commits.come === 0 && commits.go === 0;
  return (
    <div className="flex flex-col gap-2" role="status">
      <p>
        {nothing
          ? "It would change nothing: all of it is there."
          : [
              commits.come > 0 && `It brings ${counted(commits.come, "commit")}`,
              commits.go > 0 &&
                `${commits.come > 0 ? "and takes" : "It takes"} ${counted(commits.go, "commit")} away`,
            ]
              .filter(Boolean)
              .join(" ")}
        {!nothing && (brings.length > 0 ? `, with ${counted(brings.length, "item")}:` : ".")}
      </p>
      <ForecastItems rows={brings} objections={objections} />
      {takes.length > 0 && (
        <>
          <p className="font-semibold text-signal-ink">
            {counted(takes.length, "item")} would not be there any more:
          </p>
          <ForecastItems rows={takes} objections={new Map()} />
        </>
      )}
      {hidden > 0 && (
        <p className="text-[13px] text-ink-soft">
          {counted(hidden, "more item")} outside your view.
        </p>
      )}
    </div>
  );
}

function ForecastItems({
  rows,
  objections,
}: {
  rows: DeployForecast["brings"];
  objections: ReadonlyMap<string, string>;
}) {
  const graveFirst = rows.toSorted(
    (a, b) => Number(objections.has(b.key)) - Number(objections.has(a.key)),
  );
  return (
    <ul className="text-[13px]">
      {graveFirst.slice(0, LISTED).map(({ key, title }) => (
        <li key={key} className="flex items-baseline gap-2">
          <span className="key shrink-0">{key}</span>
          <span className="min-w-0 flex-1 truncate">{title}</span>
          {objections.has(key) && (
            <b
              className={`shrink-0 ${objections.get(key) === "failed its test" ? "text-alarm" : "text-signal-ink"}`}
            >
              {objections.get(key)}
            </b>
          )}
        </li>
      ))}
      {rows.length > LISTED && (
        <li className="text-ink-soft">and {counted(rows.length - LISTED, "more item")}</li>
      )}
    </ul>
  );
}
