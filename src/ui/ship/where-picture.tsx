"use client";
import { useRef, type CSSProperties, type KeyboardEvent } from "react";
import {
  furthestOf,
  isOn,
  lastOf,
  type EnvironmentView,
  type WhatIsWhere,
  type WhereRow,
} from "@/core/ship/what-is-where-view";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { ago, exact, span } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { EnvironmentHead, type DeployWish } from "./environment-head";

/** Items against environments: a line for each, as far as all of it has come. */
export function WherePicture({
  view,
  rows,
  onLook,
  onDeploy,
}: {
  view: WhatIsWhere;
  rows: readonly WhereRow[];
  /** Shows what was deployed to an environment. */
  onLook: (environmentId: string) => void;
  onDeploy: (wish: DeployWish) => void;
}) {
  const { environments, mains, project, now } = view;
  const table = useRef<HTMLDivElement>(null);
  /** Arrows go from row to row. */
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const on = (event.target as HTMLElement).closest<HTMLElement>(".where-row");
    if (!by || !on) return;
    event.preventDefault();
    const all = [...table.current!.querySelectorAll<HTMLElement>(".where-row")];
    all[all.indexOf(on) + by]?.querySelector<HTMLElement>("button")?.focus();
  };
  return (
    <div
      ref={table}
      className="where"
      role="table"
      aria-label="What is where"
      style={{ "--stops": environments.length + 1 } as CSSProperties}
      onKeyDown={onKey}
    >
      <div className="where-heads" role="row">
        <span role="columnheader" className="sr-only">
          Item
        </span>
        <div role="columnheader" className="where-head">
          <b>merged</b>
          {mains.map(({ repository, pushedAt }) => (
            <p key={repository} className="text-[12.5px] text-ink-soft">
              <span className="key">main</span>
              {mains.length > 1 && ` of ${repository}`}
              {pushedAt !== null && (
                <span title={exact(pushedAt, project.zone)}>, {ago(pushedAt, now)}</span>
              )}
            </p>
          ))}
        </div>
        {environments.map((environment) => (
          <EnvironmentHead
            key={environment.id}
            environment={environment}
            view={view}
            onLook={() => onLook(environment.id)}
            onDeploy={onDeploy}
          />
        ))}
      </div>
      {rows.map((row) => (
        <Row key={row.id} row={row} view={view} />
      ))}
      {rows.length === 0 && mains.length > 0 && (
        <p className="px-4 py-8 text-center text-ink-soft">
          Nothing: all that was merged has gone on.
        </p>
      )}
    </div>
  );
}

function Row({ row, view }: { row: WhereRow; view: WhatIsWhere }) {
  const { openItem } = usePanel();
  const { environments, now, project } = view;
  const furthest = furthestOf(row, environments);
  const at = furthest ? environments.indexOf(furthest) : -1;
  return (
    <div className="where-row" role="row" data-item={row.key}>
      <div role="rowheader" className="where-item">
        <TypeGlyph typeId={row.typeId} />
        <TextButton className="key shrink-0 !text-accent" onClick={() => openItem(row.key)}>
          {row.key}
        </TextButton>
        <span className="truncate font-semibold" title={row.title}>
          {row.title}
        </span>
      </div>
      <Stop
        way={at < 0 ? "here" : "passed"}
        words={at < 0 ? `${since(row.mergedAt, now)}, ${row.stateName}` : ""}
        title={`merged ${exact(row.mergedAt, project.zone)}`}
      />
      {environments.map((environment, i) => (
        <Stop key={environment.id} {...stopOf(row, { environment, i, at, view })} />
      ))}
    </div>
  );
}

interface StopProps {
  way: "passed" | "left out" | "here" | "some" | "ahead";
  words: string;
  title: string;
  failed?: boolean;
}

/** How the line of an item goes through the column of an environment. */
function stopOf(
  row: WhereRow,
  {
    environment,
    i,
    at,
    view,
  }: { environment: EnvironmentView; i: number; at: number; view: WhatIsWhere },
): StopProps {
  const { environments, now, project } = view;
  const presence = row.presences.find((one) => one.environmentId === environment.id);
  const title = presence
    ? `${presence.whole ? "all" : "some"} of it on ${environment.name} since ${exact(presence.since, project.zone)}`
    : `not on ${environment.name}`;
  if (i === at) {
    const failed = row.testResult === "failed" && environment.id !== lastOf(environments)?.id;
    const state = failed ? "failed its test" : row.stateName;
    return { way: "here", words: `${since(presence!.since, now)}, ${state}`, title, failed };
  }
  if (i < at) return { way: isOn(row, environment.id) ? "passed" : "left out", words: "", title };
  if (presence) return { way: "some", words: `in part, ${since(presence.since, now)}`, title };
  return { way: "ahead", words: "", title };
}

const since = (at: number, now: number): string => span(Math.max(0, now - at));

function Stop({ way, words, title, failed = false }: StopProps) {
  return (
    <div
      role="cell"
      className="where-stop"
      data-way={way}
      data-failed={failed || undefined}
      title={title}
    >
      <span aria-hidden={words === ""}>{words}</span>
      {words === "" && <span className="sr-only">{title}</span>}
    </div>
  );
}
