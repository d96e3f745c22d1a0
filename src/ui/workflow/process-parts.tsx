"use client";
import dynamic from "next/dynamic";
import type { DesignView } from "@/core/workflow/design-view";
import { Tabs } from "@/ui/kit/tabs";
import { FindingsList } from "./findings-list";
import { HabitsPanel } from "./habits-panel";
import { MoveGrid } from "./move-grid";
import { ReplayPanel } from "./replay-panel";
import { StateInspector } from "./state-inspector";
import type { Designer } from "./use-designer";
import { VersionList } from "./version-list";

// Only who designs loads the rules' editors.
const TryPanel = dynamic(() => import("./try-panel").then((m) => m.TryPanel), { ssr: false });
const TransitionInspector = dynamic(
  () => import("./transition-inspector").then((m) => m.TransitionInspector),
  { ssr: false },
);

const PARTS = ["Check", "Try it", "Against the past", "As it went", "Table", "Versions"] as const;
type Part = (typeof PARTS)[number];

interface PartProps {
  designer: Designer;
  view: DesignView;
  workflowId: string;
}

/** What can be asked and done of a process below its map. */
export function ProcessParts({
  designer,
  view,
  workflowId,
  part: wanted,
  onPart,
  onLook,
  onTake,
}: PartProps & {
  part: string | null;
  onPart: (part: string) => void;
  /** Shows a version as it was, or makes it the draft. */
  onLook: (version: number) => void;
  onTake: (version: number) => void;
}) {
  const { key } = view.project;
  const { mayEdit } = view;
  const panels: Record<Part, () => React.ReactNode> = {
    Check: () => <FindingsList designer={designer} projectKey={key} mayEdit={mayEdit} />,
    "Try it": () => <TryPanel draft={designer.draft} view={view} />,
    "Against the past": () => (
      <ReplayPanel
        designer={designer}
        projectKey={key}
        workflowId={workflowId}
        nameOf={(id) => view.people.find((p) => p.id === id)?.name ?? "somebody"}
      />
    ),
    "As it went": () => (
      <HabitsPanel designer={designer} projectKey={key} workflowId={workflowId} />
    ),
    Table: () => <MoveGrid designer={designer} counts={view.counts} mayEdit={mayEdit} />,
    Versions: () => (
      <VersionList
        view={view}
        workflowId={workflowId}
        running={designer.running.version}
        onLook={onLook}
        onTake={onTake}
      />
    ),
  };
  const parts = mayEdit ? PARTS : PARTS.filter((p) => p !== "Against the past");
  const part = parts.find((p) => p === wanted) ?? "Check";
  const found = designer.findings.length;
  return (
    <Tabs
      label="Parts of the process"
      value={part}
      tabs={parts.map((each) => ({
        value: each,
        label:
          each === "Check" && found > 0 ? (
            <>
              Check <b className="ml-1 text-signal-ink">{found}</b>
            </>
          ) : (
            each
          ),
        panel: panels[each](),
      }))}
      onChange={onPart}
      className="min-h-0 flex-1"
      listClass="px-3 pt-1"
      panelClass="min-h-0 flex-1 overflow-y-auto px-4 py-3"
    />
  );
}

/** What is agreed for the state or the move that is chosen on the map. */
export function ProcessRules({ designer, view }: Omit<PartProps, "workflowId">) {
  const { draft, selection } = designer;
  const { mayEdit } = view;
  const state =
    selection?.kind === "state" ? draft.states.find((s) => s.id === selection.id) : undefined;
  const transition =
    selection?.kind === "transition"
      ? draft.transitions.find((t) => t.id === selection.id)
      : undefined;
  return state ? (
    <StateInspector
      key={state.id}
      designer={designer}
      state={state}
      types={view.types.filter((t) => t.workflowId === draft.id)}
      around={view.around}
      mayEdit={mayEdit}
    />
  ) : transition ? (
    <TransitionInspector
      key={transition.id}
      designer={designer}
      transition={transition}
      around={view.around}
      mayEdit={mayEdit}
    />
  ) : (
    <p className="text-ink-soft">
      Choose a state or a move on the map to see what is agreed there.{" "}
      {mayEdit &&
        "Drag a state along to reorder it, or to the other rail; drag from the small ring beside it to connect it to another."}
    </p>
  );
}
