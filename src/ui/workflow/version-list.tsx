"use client";
import type { DesignView } from "@/core/workflow/design-view";
import { Button } from "@/ui/kit/button";
import { exact } from "@/ui/kit/time";

/** The versions of a workflow, the newest first, each to be taken as the draft again. */
export function VersionList({
  view,
  workflowId,
  running,
  onTake,
}: {
  view: DesignView;
  workflowId: string;
  running: number;
  onTake: (version: number) => void;
}) {
  return (
    <ol className="flex flex-col" aria-label="Versions">
      {view.versions
        .filter((v) => v.workflowId === workflowId)
        .map((v) => (
          <li
            key={v.version}
            className="flex items-start gap-3 border-b border-line py-1.5 text-[13px]"
          >
            <b className="w-6 text-right">{v.version}</b>
            <span className="flex-1">
              {v.summary}{" "}
              <span className="text-ink-soft">
                {v.by ?? "somebody"}, {exact(v.at, view.project.zone)}
              </span>
            </span>
            {view.mayEdit && v.version !== running && (
              <Button small onClick={() => onTake(v.version)}>
                Make it the draft
              </Button>
            )}
          </li>
        ))}
    </ol>
  );
}
