"use client";
import { dayNumber, isoDate } from "@/core/calendar/zone";
import { freezeOn } from "@/core/ship/environment";
import { shortHash } from "@/core/ship/short-hash";
import type { DeployedBuild, EnvironmentView, WhatIsWhere } from "@/core/ship/what-is-where-view";
import { Button, TextButton } from "@/ui/kit/button";
import { ago, exact, shortDate } from "@/ui/kit/time";

/** A build that could go to an environment. */
export interface DeployWish {
  environmentId: string;
  repository: string;
  build: string;
}

/** What is deployed, as it is called: by its build, else by its commit. */
export const buildWords = ({ build, commit }: Pick<DeployedBuild, "build" | "commit">): string =>
  build === null ? (commit === null ? "unknown" : shortHash(commit)) : build;

/**
 * What could go to an environment next: what stands on the one before it, or what was built last.
 */
export function nextBuild(environment: EnvironmentView, view: WhatIsWhere): DeployWish | null {
  const { environments, mains } = view;
  const before = environments[environments.indexOf(environment) - 1];
  const offered = before
    ? before.now.flatMap(({ repository, build }) => (build === null ? [] : [{ repository, build }]))
    : mains.flatMap(({ repository, builds: [latest] }) =>
        latest ? [{ repository, build: latest.name }] : [],
      );
  const isThere = (repository: string, build: string) =>
    environment.now.some((one) => one.repository === repository && one.build === build);
  const next = offered.find(({ repository, build }) => !isThere(repository, build));
  return next ? { environmentId: environment.id, ...next } : null;
}

/** An environment at the head of its column: what is on it, since when, and what could go there. */
export function EnvironmentHead({
  environment,
  view,
  onLook,
  onDeploy,
}: {
  environment: EnvironmentView;
  view: WhatIsWhere;
  onLook: () => void;
  onDeploy: (wish: DeployWish) => void;
}) {
  const { project, now, rights } = view;
  const next = nextBuild(environment, view);
  const today = isoDate(dayNumber(now, project.zone));
  const frozen = freezeOn(environment, today);
  const several = new Set(environment.now.map(({ part }) => part)).size > 1;
  const waits = environment.asked.find(({ refused }) => refused === null);
  return (
    <div role="columnheader" className="where-head" data-environment={environment.name}>
      <TextButton className="font-semibold !text-ink" onClick={onLook}>
        {environment.name}
      </TextButton>
      {environment.now.length === 0 && <p className="text-[12.5px] text-ink-soft">nothing yet</p>}
      {environment.now.map((one) => (
        <p key={`${one.repository} ${one.part}`} className="text-[12.5px] text-ink-soft">
          <span className="key !text-ink">{buildWords(one)}</span>
          {several && ` ${one.part}`}
          <span title={exact(one.at, project.zone)}>, {ago(one.at, now)}</span>
          {one.outcome === "rolled back" && <b className="text-signal-ink"> rolled back</b>}
          {one.by && ` by ${one.by.name.split(" ")[0]}`}
        </p>
      ))}
      {frozen && (
        <p className="text-[12.5px] font-semibold text-signal-ink" title={frozen.why || undefined}>
          frozen until {shortDate(frozen.until)}
        </p>
      )}
      {waits && (
        <p className="text-[12.5px] font-semibold text-signal-ink" role="status">
          {waits.build} asked for {ago(waits.at, now)}
        </p>
      )}
      {rights.deploy && next && !waits && (
        <Button
          small
          className="mt-1"
          aria-label={`Deploy ${next.build} to ${environment.name}`}
          onClick={() => onDeploy(next)}
        >
          Deploy {next.build}
        </Button>
      )}
    </div>
  );
}
