"use client";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { shipContract } from "@/core/ship/contract";
import { freezeOn } from "@/core/ship/environment";
import type { EnvironmentView } from "@/core/ship/what-is-where-view";
import { Check } from "@/ui/kit/check";
import { FormFooter } from "@/ui/kit/form-footer";
import { Note } from "@/ui/kit/note";
import { queryOf } from "@/ui/kit/request";
import { Sheet } from "@/ui/kit/sheet";
import { shortDate } from "@/ui/kit/time";
import { BuildChoice } from "./build-choice";
import { Forecast } from "./deploy-forecast";
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
