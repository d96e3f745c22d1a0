"use client";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import type { Workflow } from "@/core/workflow/workflow";
import { Button } from "@/ui/kit/button";
import { Note } from "@/ui/kit/note";
import { problemOf } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import { exact } from "@/ui/kit/time";
import { ProcessSheet } from "./process-sheet";
import type { Designer } from "./use-designer";
import { Changes, useVersion } from "./version-changes";

const DRAFT = "draft";

/**
 * A version as it was published, with its map and its rules, and what is different in another one.
 * The draft stays as it is.
 */
export function VersionLook({
  view,
  workflowId,
  version,
  designer,
  onTake,
  onBack,
}: {
  view: DesignView;
  workflowId: string;
  version: number;
  designer: Designer;
  onTake: () => void;
  onBack: () => void;
}) {
  const { key, zone } = view.project;
  const looked = useVersion(key, workflowId, version);
  const told = view.versions.find((v) => v.workflowId === workflowId && v.version === version);
  if (looked.error)
    return (
      <div className="flex flex-col items-start gap-2 p-5">
        <Note kind="problem">{problemOf(looked.error).sentence}</Note>
        <Button onClick={onBack}>Back to the draft</Button>
      </div>
    );
  const shown = looked.data && asItWas(designer, looked.data);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-well px-4 py-1.5 text-[13px]">
        <p className="min-w-0 flex-1 basis-72" role="status">
          <b>You look at version {version}</b>
          {told &&
            `, published by ${told.by ?? "somebody"} on ${exact(told.at, zone)}${told.note ? `: ${told.note}` : ""}`}
        </p>
        {view.mayEdit && version !== designer.running.version && (
          <Button small onClick={onTake}>
            Make it the draft
          </Button>
        )}
        <Button small look="strong" onClick={onBack}>
          {view.mayEdit ? "Back to the draft" : "Back to today"}
        </Button>
      </div>
      {shown ? (
        <ProcessSheet
          designer={shown}
          view={{ ...view, mayEdit: false }}
          counts={{}}
          label="Map and what is different"
        >
          <Compared
            key={version}
            view={view}
            workflowId={workflowId}
            version={version}
            looked={shown.draft}
            draft={designer.changes.length > 0 ? designer.draft : null}
            running={designer.running.version}
          />
        </ProcessSheet>
      ) : (
        <p className="p-4 text-ink-soft">One moment…</p>
      )}
    </div>
  );
}

/** The designer with an earlier version in place of its draft; nothing in it can be changed. */
const asItWas = (designer: Designer, version: Workflow): Designer => ({
  ...designer,
  draft: version,
  edit: () => undefined,
  addAfter: () => "",
  undo: null,
  redo: null,
  findings: [],
  changes: [],
});

function Compared({
  view,
  workflowId,
  version,
  looked,
  draft,
  running,
}: {
  view: DesignView;
  workflowId: string;
  version: number;
  looked: Workflow;
  /** Null where nobody has changed anything. */
  draft: Workflow | null;
  running: number;
}) {
  const first = version === running ? (draft ? DRAFT : `${version - 1}`) : `${running}`;
  const [chosen, setChosen] = useState(first);
  const other = useVersion(view.project.key, workflowId, chosen === DRAFT ? 0 : Number(chosen));
  const compared = chosen === DRAFT ? draft : other.data;
  const others = view.versions.filter((v) => v.workflowId === workflowId && v.version !== version);
  const isLater = chosen === DRAFT || Number(chosen) > version;
  const options = [
    ...(draft ? [{ value: DRAFT, label: "the draft" }] : []),
    ...others.map((v) => ({
      value: `${v.version}`,
      label: `version ${v.version}${v.version === running ? ", in force" : ""}`,
    })),
  ];
  return (
    <section
      aria-label="What is different"
      className="min-h-0 flex-1 overflow-y-auto px-4 py-3 text-[13px]"
    >
      {options.length === 0 ? (
        <p className="text-ink-soft">There is no other version to compare it with.</p>
      ) : (
        <>
          <div className="mb-1 flex items-center gap-2">
            <span>{isLater ? `From version ${version} to` : `To version ${version} from`}</span>
            <Select
              className="!w-auto"
              label="Compare with"
              value={chosen}
              options={options}
              onChange={setChosen}
            />
          </div>
          {other.error ? (
            <p className="text-alarm">{problemOf(other.error).sentence}</p>
          ) : !compared ? (
            <p className="text-ink-soft">One moment…</p>
          ) : (
            <Changes
              from={isLater ? looked : compared}
              to={isLater ? compared : looked}
              around={view.around}
            />
          )}
        </>
      )}
    </section>
  );
}
