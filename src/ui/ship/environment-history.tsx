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
  if (history.length === 0 && asked.length === 0)
    return <p className="text-ink-soft">Nothing was deployed there yet.</p>;
  const isBack = (one: DeployedBuild) =>
    rights.deploy &&
    !current.has(one.id) &&
    one.build !== null &&
    one.outcome === "deployed" &&
    !environment.now.some(({ build }) => build === one.build) &&
    history.find(({ build, outcome }) => build === one.build && outcome === "deployed") === one;
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
          {isBack(one) && (
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
