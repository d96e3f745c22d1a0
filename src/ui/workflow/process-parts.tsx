"use client";
import dynamic from "next/dynamic";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { Tabs } from "@/ui/kit/tabs";
import { MoveGrid } from "./move-grid";
import { StateInspector } from "./state-inspector";
import type { Designer } from "./use-designer";
import { VersionList } from "./version-list";

// Only who designs loads the rules' editors.
const TryPanel = dynamic(() => import("./try-panel").then((m) => m.TryPanel), { ssr: false });
const TransitionInspector = dynamic(
  () => import("./transition-inspector").then((m) => m.TransitionInspector),
  { ssr: false },
);

const PARTS = ["Rules", "Table", "Try it", "Versions"] as const;
type Part = (typeof PARTS)[number];

/** What can be read and changed of a process beside its map. */
export function ProcessParts({
  designer,
  view,
  workflowId,
}: {
  designer: Designer;
  view: DesignView;
  workflowId: string;
}) {
  const [part, setPart] = useState<Part>("Rules");
  const panels: Record<Part, () => React.ReactNode> = {
    Rules: () => <Rules designer={designer} view={view} />,
    Table: () => <MoveGrid designer={designer} counts={view.counts} mayEdit={view.mayEdit} />,
    "Try it": () => <TryPanel draft={designer.draft} view={view} />,
    Versions: () => (
      <VersionList
        view={view}
        workflowId={workflowId}
        running={designer.running.version}
        onTake={(version) => void designer.takeVersion(version)}
      />
    ),
  };
  return (
    <Tabs
      label="Parts of the process"
      value={part}
      tabs={PARTS.map((each) => ({ value: each, label: each, panel: panels[each]() }))}
      onChange={setPart}
      className="flex-1"
      listClass="px-3 pt-1"
      panelClass="min-h-0 flex-1 overflow-y-auto px-4 py-3"
    />
  );
}

/** What is agreed for the state or the move that is chosen on the map. */
function Rules({ designer, view }: { designer: Designer; view: DesignView }) {
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
    <p className="max-w-[60ch] text-ink-soft">
      Choose a state or a move on the map to see what is agreed there.{" "}
      {mayEdit &&
        "Drag a state along to reorder it, or to the other rail; drag from the small ring beside it to connect it to another."}
    </p>
  );
}
