"use client";
import { ProcessParts } from "./process-parts";
import { ProcessSheet } from "./process-sheet";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { counted } from "@/core/formats/counted";
import { Redo2, Undo2 } from "lucide-react";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import type { DraftVisitor } from "@/core/workflow/draft-visit";
import { PublishSheet } from "./publish-sheet";
import { ClashQuestion } from "./clash-question";
import { useDesigner, type Designer } from "./use-designer";
import { useVisitors } from "./use-visitors";
import { VersionLook } from "./version-look";
import { Visitors } from "./visitors";
import { WorkflowTools } from "./workflow-tools";
import { ExportMenu, NewWorkflow } from "./workflow-menu";
import { useUndoKeys } from "@/ui/workflow/use-undo-keys";

/** One workflow as a draft: its map, its rules, what is wrong with it, and the way to publish it. */
export function ProcessDesigner({
  view,
  workflowId,
  part,
  onChoose,
  onPart,
  version,
  onVersion,
}: {
  view: DesignView;
  workflowId: string;
  /** What is shown below the map. */
  part: string | null;
  onChoose: (id: string) => void;
  onPart: (part: string) => void;
  /** An earlier version that is looked at. */
  version: number | null;
  onVersion: (version: number | null) => void;
}) {
  const designer = useDesigner(view, workflowId);
  const visitors = useVisitors(
    view.project.key,
    workflowId,
    designer.selection?.id ?? null,
    view.mayEdit,
  );
  const take = (wanted: number) => {
    onVersion(null);
    void designer.takeVersion(wanted);
  };
  const [publishing, setPublishing] = useState(false);
  const { undo, redo } = designer;
  useUndoKeys(undo, redo);

  return (
    <div className="flex h-full flex-col">
      <ProcessHead
        designer={designer}
        view={view}
        visitors={visitors}
        onChoose={onChoose}
        onPublish={() => setPublishing(true)}
      />
      <ClashQuestion designer={designer} around={view.around} />
      {version !== null && !publishing ? (
        <VersionLook
          view={view}
          workflowId={workflowId}
          version={version}
          designer={designer}
          onTake={() => take(version)}
          onBack={() => onVersion(null)}
        />
      ) : publishing ? (
        <div className="min-h-0 flex-1 overflow-y-auto p-5">
          <PublishSheet
            designer={designer}
            counts={view.counts}
            onClose={() => setPublishing(false)}
          />
        </div>
      ) : (
        <ProcessSheet
          designer={designer}
          view={view}
          counts={view.counts}
          visitors={visitors}
          label="Map and what is below it"
        >
          <ProcessParts
            designer={designer}
            view={view}
            workflowId={workflowId}
            part={part}
            onPart={onPart}
            onLook={onVersion}
            onTake={take}
          />
        </ProcessSheet>
      )}
    </div>
  );
}

/** Which workflow it is, how its draft stands, and what is done with it as a whole. */
function ProcessHead({
  designer,
  view,
  visitors,
  onChoose,
  onPublish,
}: {
  designer: Designer;
  view: DesignView;
  visitors: readonly DraftVisitor[];
  onChoose: (id: string) => void;
  onPublish: () => void;
}) {
  const { running, changes, saving, undo, redo } = designer;
  const { key, name } = view.project;
  const { mayEdit } = view;
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-2 gap-y-1 border-b border-line px-4 py-2 min-h-[51px]">
      <h1 className="sr-only">Process of {name}</h1>
      <Select
        className="!w-auto max-w-[270px] font-semibold"
        label="Workflow"
        value={running.id}
        options={view.workflows.map((w) => ({
          value: w.id,
          label: `${w.name}${w.typeNames.length > 0 ? ` (${w.typeNames.join(", ")})` : ", no type yet"}`,
        }))}
        onChange={onChoose}
      />
      {mayEdit && <WorkflowTools designer={designer} view={view} onChoose={onChoose} />}
      <p className="min-w-32 flex-1 basis-32 text-[13px] leading-tight text-ink-soft" role="status">
        {!mayEdit
          ? `version ${running.version} · you can look; a lead can change it`
          : changes.length === 0
            ? `version ${running.version} is in force, nothing changed`
            : `${counted(changes.length, "change")} since version ${running.version}, not published, ${saving === "stored" ? "draft stored" : saving === "failed" ? "not stored yet" : "storing…"}`}
      </p>
      <Visitors visitors={visitors} designer={designer} />
      <ExportMenu projectKey={key} workflowId={running.id} hasDraft={changes.length > 0} />
      {mayEdit && (
        <>
          <NewWorkflow view={view} onMade={onChoose} />
          <Button small disabled={!undo} onClick={() => undo?.()}>
            <Undo2 size={14} aria-hidden="true" /> Undo
          </Button>
          <Button small disabled={!redo} onClick={() => redo?.()}>
            <Redo2 size={14} aria-hidden="true" /> Redo
          </Button>
          {changes.length > 0 && (
            <Button look="quiet" small onClick={() => void designer.discard()}>
              Throw the draft away
            </Button>
          )}
          <Button look="strong" disabled={changes.length === 0} onClick={onPublish}>
            Review and publish
          </Button>
        </>
      )}
    </div>
  );
}
