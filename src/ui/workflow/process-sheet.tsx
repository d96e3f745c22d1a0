"use client";
import dynamic from "next/dynamic";
import { useEffect, useRef, type ReactNode } from "react";
import { counted } from "@/core/formats/counted";
import type { DesignView } from "@/core/workflow/design-view";
import type { DraftVisitor } from "@/core/workflow/draft-visit";
import { Divided } from "@/ui/kit/divided";
import { ProcessRules } from "./process-parts";
import type { Designer } from "./use-designer";
import { useHabits } from "./use-habits";

// Only who designs loads the map.
const WorkflowMap = dynamic(() => import("./workflow-map").then((m) => m.WorkflowMap), {
  ssr: false,
  loading: () => <p className="p-4 text-ink-soft">Drawing the map…</p>,
});

/** A process as it is drawn: its map, what can be asked of it below, and its rules at the right. */
export function ProcessSheet({
  designer,
  view,
  counts,
  visitors,
  label,
  children,
}: {
  designer: Designer;
  view: DesignView;
  /** Items in each state. */
  counts: Record<string, number>;
  visitors?: readonly DraftVisitor[];
  /** What the line below the map divides. */
  label: string;
  /** What stands below the map. */
  children: ReactNode;
}) {
  const rules = useRef<HTMLElement>(null);
  const inRules = useRef(false);
  const { data: habits } = useHabits(view.project.key, designer.running.id);
  useEffect(() => {
    // What was clicked among the rules is gone with the state or move it stood at: they keep the
    // focus.
    if (inRules.current && document.activeElement === document.body) rules.current?.focus();
  }, [designer.selection]);
  return (
    <div
      onFocus={(e) => (inRules.current = rules.current?.contains(e.target) ?? false)}
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(340px,30%)] zoomed:block"
    >
      <div className="flex min-h-0 min-w-0 flex-col">
        <WorkflowMap
          designer={designer}
          counts={counts}
          mayEdit={view.mayEdit}
          habits={habits ?? null}
          visitors={visitors}
          onRules={() => rules.current?.focus()}
        />
        <Divided label={label} storedAs="designer-below" first={210}>
          {children}
        </Divided>
      </div>
      <aside
        ref={rules}
        tabIndex={-1}
        aria-label="Rules"
        className="min-h-0 overflow-y-auto border-l border-line bg-sheet px-4 py-3 outline-none"
      >
        <ProcessRules designer={designer} view={view} />
        <p className="sr-only" role="status">
          {counted(designer.findings.length, "finding")}
        </p>
      </aside>
    </div>
  );
}
