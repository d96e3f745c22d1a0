"use client";
import { BaseEdge, EdgeLabelRenderer, type Edge, type EdgeProps } from "@xyflow/react";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { detourOf, type Track, type WorkflowMap as MapLayout } from "@/core/workflow/layout";
import type { Workflow } from "@/core/workflow/workflow";
import { nameOf, useMap, useWordSize, wentBack } from "./map-context";
import type { Selection } from "./use-designer";

export type TrackEdge = Edge<{ track: Track; chosen: boolean }, "track">;

export const edgesOf = (layout: MapLayout, draft: Workflow, selection: Selection): TrackEdge[] =>
  layout.tracks.map((track) => ({
    id: track.id,
    type: "track",
    source: track.from,
    target: track.to,
    ariaLabel: `${track.transition.verb}, from ${nameOf(draft, track.from)} to ${nameOf(draft, track.to)}`,
    data: {
      track,
      chosen: selection?.kind === "transition" && selection.id === track.transition.id,
    },
  }));

export function TrackView({ id, data }: EdgeProps<TrackEdge>) {
  const { layout, acts, mayEdit, habits } = useMap();
  const [near, setNear] = useState(false);
  if (!data) return null;
  const { track, chosen } = data;
  const at = (stateId: string) => layout.stations.find((s) => s.state.id === stateId);
  const [a, b] = [at(track.from), at(track.to)];
  // For a moment the drawing still has the moves of a state that has just been taken out.
  if (!a || !b) return null;
  const rules =
    track.transition.requirements.length +
    track.transition.followUps.length +
    track.transition.who.length +
    track.transition.triggers.length;
  const [from, to] = [a.state.name, b.state.name];
  const mark = rules > 0 ? ` (${rules})` : "";
  if (track.course === "main") {
    const steep = Math.hypot(b.x - a.x, b.y - a.y);
    const [dx, dy] = [((b.x - a.x) / steep) * 14, ((b.y - a.y) / steep) * 14];
    const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
    return (
      <g onPointerEnter={() => setNear(true)} onPointerLeave={() => setNear(false)}>
        <BaseEdge
          id={id}
          path={`M${a.x + dx} ${a.y + dy} L${b.x - dx} ${b.y - dy}`}
          interactionWidth={16}
          style={{ stroke: "var(--accent)", strokeWidth: chosen ? 5 : 2.4 }}
        />
        {rules > 0 && (
          <Label
            {...middle}
            chosen={chosen}
            text={counted(rules, "rule")}
            title={`${track.transition.verb}: ${counted(rules, "rule")}`}
          />
        )}
        {mayEdit && (near || chosen) && (
          <Plus
            // Beside the words that stand in the middle.
            x={a.x + (b.x - a.x) * (rules > 0 ? 0.76 : 0.5)}
            y={a.y + (b.y - a.y) * (rules > 0 ? 0.76 : 0.5)}
            words={`Put a state between ${from} and ${to}`}
            onClick={() => acts.insert(track)}
            onNear={setNear}
          />
        )}
      </g>
    );
  }
  const under = track.course === "under";
  const back = wentBack(habits, track.from, track.to);
  const { from: begin, along, to: end } = detourOf(layout, track, a, b);
  const barb = under ? end.y + 6 : end.y - 6;
  const arrow = `M${end.x - 4} ${barb} L${end.x} ${end.y} L${end.x + 4} ${barb}`;
  const colour = under ? "var(--rest)" : "var(--accent)";
  return (
    <>
      <BaseEdge
        id={id}
        path={`M${begin.x} ${begin.y} V${along} H${end.x} V${end.y}`}
        interactionWidth={14}
        style={{
          stroke: colour,
          strokeWidth: chosen ? 3 : 1.4,
          strokeDasharray: under ? "5 3" : "none",
        }}
      />
      <path d={arrow} fill="none" stroke={colour} strokeWidth={1.4} />
      <Label
        x={(begin.x + end.x) / 2}
        y={along}
        chosen={chosen}
        text={`${track.transition.verb}${mark}${back ? ` ${back}` : ""}`}
      />
    </>
  );
}

function Label({
  x,
  y,
  text,
  chosen,
  title,
}: {
  x: number;
  y: number;
  text: string;
  chosen: boolean;
  title?: string;
}) {
  const size = useWordSize();
  return (
    <EdgeLabelRenderer>
      <span
        title={title}
        className={`pointer-events-none absolute rounded-[3px] bg-paper px-1 leading-[1.25] ${chosen ? "font-bold text-ink" : "text-ink-soft"}`}
        style={{
          fontSize: size(11),
          transform: `translate(-50%, -50%) translate(${x}px, ${y}px)`,
        }}
      >
        {text}
      </span>
    </EdgeLabelRenderer>
  );
}

/** Puts something into a line. */
function Plus({
  x,
  y,
  words,
  onClick,
  onNear,
}: {
  x: number;
  y: number;
  words: string;
  onClick: () => void;
  onNear: (near: boolean) => void;
}) {
  return (
    <EdgeLabelRenderer>
      <button
        type="button"
        tabIndex={-1}
        title={words}
        aria-label={words}
        onClick={onClick}
        onPointerEnter={() => onNear(true)}
        onPointerLeave={() => onNear(false)}
        className="nodrag nopan pointer-events-auto absolute flex size-[22px] items-center justify-center rounded-full border-2 border-accent bg-sheet text-[14px] leading-none font-bold text-accent hover:bg-accent-soft"
        style={{ transform: `translate(-50%, -50%) translate(${x}px, ${y}px)` }}
      >
        +
      </button>
    </EdgeLabelRenderer>
  );
}
