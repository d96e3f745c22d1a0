"use client";
import type { DeployedBuild, EnvironmentView, WhatIsWhere } from "@/core/ship/what-is-where-view";
import { Button } from "@/ui/kit/button";
import { ago, exact } from "@/ui/kit/time";
import { buildWords, type DeployWish } from "./environment-head";
import { HostLink } from "./host-link";

const OUTCOMES = {
  deployed: "deployed",
  "rolled back": "rolled back to",
  failed: "failed",
  removed: "taken away",
} as const;

/** So many builds before the one that is there are offered. */
const OFFERED = 4;

/** The deployments of the latest builds that went well there and are there no more. */
function buildsToGoBackTo({ history, now }: EnvironmentView): Set<string> {
  const there = new Set(now.map(({ build }) => build));
  const byBuild = new Map<string, DeployedBuild>();
  for (const one of history)
    if (one.outcome === "deployed" && one.build !== null && !there.has(one.build))
      byBuild.set(one.build, byBuild.get(one.build) ?? one);
  return new Set([...byBuild.values()].slice(0, OFFERED).map(({ id }) => id));
}

/** What was deployed to an environment, the latest first; what went well can be gone back to. */
export function EnvironmentHistory({
  environment,
  view: { project, now, rights },
  onRollBack,
}: {
  environment: EnvironmentView;
  view: WhatIsWhere;
  onRollBack: (wish: DeployWish) => void;
}) {
  const { history, asked, id } = environment;
  const current = new Set(environment.now.map((one) => one.id));
  const offered = buildsToGoBackTo(environment);
  if (history.length === 0 && asked.length === 0)
    return <p className="text-ink-soft">Nothing was deployed there yet.</p>;
  return (
    <ul className="environment-history" aria-label={`Deployments to ${environment.name}`}>
      {asked.map((one) => (
        <li key={one.id}>
          <b className="key">{one.build}</b>
          <span className={one.refused === null ? "text-signal-ink" : "text-alarm"}>
            {one.refused === null
              ? `asked for by ${one.by}, ${ago(one.at, now)}`
              : `asked for by ${one.by}; the pipeline did not take it: ${one.refused}`}
          </span>
        </li>
      ))}
      {history.map((one) => (
        <li key={one.id} data-outcome={one.outcome}>
          <b className="key">
            <HostLink url={one.url}>{buildWords(one)}</HostLink>
          </b>
          <span>
            <span className={one.outcome === "failed" ? "font-semibold text-alarm" : ""}>
              {OUTCOMES[one.outcome]}
            </span>{" "}
            <span className="text-ink-soft">
              <span title={exact(one.at, project.zone)}>{ago(one.at, now)}</span>
              {one.by && ` by ${one.by.name}`}
              {current.has(one.id) && ", is there now"}
            </span>
          </span>
          {rights.deploy && offered.has(one.id) && (
            <Button
              small
              look="quiet"
              onClick={() =>
                onRollBack({ environmentId: id, repository: one.repository, build: one.build! })
              }
            >
              Roll back to {one.build}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
