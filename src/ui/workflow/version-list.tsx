"use client";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { Button, TextButton } from "@/ui/kit/button";
import { exact } from "@/ui/kit/time";
import { VersionChanges } from "./version-changes";

type Version = DesignView["versions"][number];

/**
 * The versions of a workflow, the newest first: who published each, when and why; what it changed
 * is folded. Each can be looked at, and be taken as the draft again.
 */
export function VersionList({
  view,
  workflowId,
  running,
  onLook,
  onTake,
}: {
  view: DesignView;
  workflowId: string;
  running: number;
  onLook: (version: number) => void;
  onTake: (version: number) => void;
}) {
  return (
    <ol className="flex max-w-[820px] flex-col" aria-label="Versions">
      {view.versions
        .filter((v) => v.workflowId === workflowId)
        .map((v) => (
          <li key={v.version} className="border-b border-line py-1.5 text-[13px]">
            <VersionRow
              version={v}
              view={view}
              inForce={v.version === running}
              onLook={() => onLook(v.version)}
              onTake={() => onTake(v.version)}
            />
          </li>
        ))}
    </ol>
  );
}

function VersionRow({
  version: v,
  view,
  inForce,
  onLook,
  onTake,
}: {
  version: Version;
  view: DesignView;
  inForce: boolean;
  onLook: () => void;
  onTake: () => void;
}) {
  const [open, setOpen] = useState(false);
  const Fold = open ? ChevronDown : ChevronRight;
  return (
    <>
      <div className="flex items-baseline gap-3">
        <b className="w-6 shrink-0 text-right text-[15px]">{v.version}</b>
        <div className="min-w-0 flex-1">
          <p className={v.note ? "font-semibold" : "text-ink-soft"}>
            {v.note || "Nobody wrote why."}
          </p>
          <p className="text-ink-soft">
            {v.by ?? "somebody"}, {exact(v.at, view.project.zone)}
            {inForce && ", in force"}
            {v.version > 1 && (
              <>
                {" · "}
                <TextButton aria-expanded={open} onClick={() => setOpen(!open)}>
                  <Fold size={13} aria-hidden="true" className="inline" /> What it changed
                </TextButton>
              </>
            )}
          </p>
        </div>
        <Button small aria-label={`Look at version ${v.version}`} onClick={onLook}>
          Look at it
        </Button>
        {view.mayEdit && !inForce && (
          <Button small aria-label={`Make version ${v.version} the draft`} onClick={onTake}>
            Make it the draft
          </Button>
        )}
      </div>
      {open && (
        <div className="ml-9 mt-1">
          <VersionChanges
            projectKey={view.project.key}
            workflowId={v.workflowId}
            version={v.version}
            around={view.around}
          />
        </div>
      )}
    </>
  );
}
