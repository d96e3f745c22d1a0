"use client";
import { useReactFlow, useStore, useViewport } from "@xyflow/react";
import { Maximize, Minus, Plus } from "lucide-react";
import { useCallback, useEffect, type ReactNode } from "react";
import type { WorkflowMap as MapLayout } from "@/core/workflow/layout";
import type { Workflow } from "@/core/workflow/workflow";
import { Button, TextButton } from "@/ui/kit/button";
import { nameOf, useWordSize } from "./map-context";
import type { Designer } from "./use-designer";

export function Rails({
  layout,
  land,
}: {
  layout: MapLayout;
  /** Where what is dragged lands. */
  land: { x: number; y: number } | null;
}) {
  const size = useWordSize();
  const { high, low } = layout.rails;
  return (
    <RailLines>
      {land && (
        <circle
          data-lands
          cx={land.x}
          cy={land.y}
          r={15}
          fill="var(--accent-soft)"
          stroke="var(--accent)"
          strokeWidth={2}
          strokeDasharray="4 3"
        />
      )}
      {[high, low].map((y) => (
        <line key={y} x1={-4_000} x2={8_000} y1={y} y2={y} stroke="var(--line)" />
      ))}
      <text
        x={-20}
        y={high - 8}
        fontSize={size(11)}
        fill="var(--ink-soft)"
        fontFamily="var(--display)"
        fontWeight="600"
      >
        somebody works on it
      </text>
      <text
        x={-20}
        y={low + size(14)}
        fontSize={size(11)}
        fill="var(--ink-soft)"
        fontFamily="var(--display)"
        fontWeight="600"
      >
        it waits
      </text>
    </RailLines>
  );
}

/** Drawn in the map's own measure, behind the stations. */
function RailLines({ children }: { children: ReactNode }) {
  const view = useViewport();
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
      <g transform={`translate(${view.x} ${view.y}) scale(${view.zoom})`}>{children}</g>
    </svg>
  );
}

/** A map is shown no smaller than this: rather it is scrolled. */
const SMALLEST = 0.72;
const LARGEST = 1.25;
const BESIDE = 36;

/** Shows all of a map, or as much as can be read from its beginning on. */
function useFitted(layout: MapLayout) {
  const { setViewport } = useReactFlow();
  const room = useStore((map) => map.width);
  const tall = useStore((map) => map.height);
  const { width, height } = layout;
  const wide = width + 2 * BESIDE;
  const fit = Math.min(room / wide, tall / height);
  const zoom = Math.min(LARGEST, Math.max(SMALLEST, fit));
  const all = useCallback(() => {
    if (room === 0) return;
    void setViewport({
      x: Math.max(0, (room - wide * zoom) / 2) + BESIDE * zoom,
      y: Math.max(0, (tall - height * zoom) / 2),
      zoom,
    });
  }, [setViewport, room, tall, wide, height, zoom]);
  useEffect(all, [all]);
  return all;
}

export function Zoom({ layout }: { layout: MapLayout }) {
  const { zoomIn, zoomOut } = useReactFlow();
  const all = useFitted(layout);
  return (
    <div className="absolute bottom-2 right-3 flex gap-1">
      <Button
        small
        className="!px-1.5"
        aria-label="Smaller"
        title="Smaller"
        onClick={() => void zoomOut()}
      >
        <Minus size={14} aria-hidden="true" />
      </Button>
      <Button
        small
        className="!px-1.5"
        aria-label="Larger"
        title="Larger"
        onClick={() => void zoomIn()}
      >
        <Plus size={14} aria-hidden="true" />
      </Button>
      <Button
        small
        className="!px-1.5"
        aria-label="Show all of it"
        title="Show all of it"
        onClick={all}
      >
        <Maximize size={14} aria-hidden="true" />
      </Button>
    </div>
  );
}

/** The moves that lead on from every state. */
export function FromAnywhere({
  layout,
  draft,
  select,
}: {
  layout: MapLayout;
  draft: Workflow;
  select: Designer["select"];
}) {
  if (!(layout.fromAnywhere.length > 0)) return null;
  return (
    <p className="absolute right-3 top-2 max-w-[40%] text-right text-[12px] text-ink-soft">
      from anywhere:{" "}
      {layout.fromAnywhere.map((t, i) => (
        <span key={t.id}>
          {i > 0 && ", "}
          <TextButton onClick={() => select({ kind: "transition", id: t.id })}>
            {t.verb} → {nameOf(draft, t.to)}
          </TextButton>
        </span>
      ))}
    </p>
  );
}

/** Asks for the end of a move that is being drawn. */
export function WhereTo({ from, draft }: { from: string | null; draft: Workflow }) {
  if (!from) return null;
  return (
    <p
      role="status"
      className="absolute bottom-2 left-1/2 -translate-x-1/2 rounded-[3px] border border-line-strong bg-sheet px-3 py-1 text-[13px]"
    >
      Where does the move from <b>{nameOf(draft, from)}</b> lead? Choose a state and press Enter, or
      click one. Esc leaves it.
    </p>
  );
}

const KEYS: readonly [keys: string[], does: string][] = [
  [["A"], "add after"],
  [["M"], "its moves"],
  [["C"], "connect"],
  [["F2"], "rename"],
  [["Enter"], "its rules"],
  [["↑", "↓"], "other rail"],
  [["Alt", "← →"], "move"],
  [["Del"], "take out, joins its neighbours"],
];

/** The keys of the map, under it. */
export function MapKeys() {
  return (
    <p className="flex shrink-0 flex-wrap gap-x-4 gap-y-0.5 border-t border-line px-4 py-1 text-[12px] text-ink-soft">
      {KEYS.map(([keys, does]) => (
        <span key={does} className="whitespace-nowrap">
          {keys.map((key) => (
            <kbd key={key} className="mr-1">
              {key}
            </kbd>
          ))}
          {does}
        </span>
      ))}
    </p>
  );
}
