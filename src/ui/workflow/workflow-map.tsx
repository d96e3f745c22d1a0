"use client";
import { TextButton, Button } from "@/ui/kit/button";
import { counted } from "@/core/formats/counted";
import "@xyflow/react/dist/base.css";
import {
  BaseEdge,
  ConnectionMode,
  EdgeLabelRenderer,
  Handle,
  Position,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  useStore,
  useViewport,
  type Connection,
  type Edge,
  type EdgeProps,
  type Node,
  type NodeProps,
} from "@xyflow/react";
import { Maximize, Minus, Plus } from "lucide-react";
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from "react";
import { changeState, connect, moveState, proposedVerb } from "@/core/workflow/edit";
import {
  lineY,
  mapOf,
  STEP,
  type Station,
  type Track,
  type WorkflowMap as MapLayout,
} from "@/core/workflow/layout";
import { statesInOrder, type Workflow } from "@/core/workflow/workflow";
import type { StateKind } from "@/core/workflow/state";
import { StationMark } from "./station-mark";
import type { Designer, Selection } from "./use-designer";
import { v7 as newId } from "uuid";
import { mapKeys } from "./map-keys";

type StationNode = Node<
  {
    station: Station;
    count: number | undefined;
    chosen: boolean;
    troubled: boolean;
    mayEdit: boolean;
    onAddAfter: () => void;
  },
  "station"
>;
type TrackEdge = Edge<{ track: Track; chosen: boolean }, "track">;

const SIZE = { width: 20, height: 20 };

const LayoutContext = createContext<MapLayout | null>(null);

/**
 * The draft as a map on two rails, to be selected, extended, connected and put in another order.
 */
export function WorkflowMap({
  designer,
  counts,
  mayEdit,
}: {
  designer: Designer;
  counts: Record<string, number>;
  mayEdit: boolean;
}) {
  const { draft, edit, addAfter, selection, select, findings } = designer;
  const layout = useMemo(() => mapOf(draft), [draft]);
  const [held, setHeld] = useState<{ id: string; x: number; y: number } | null>(null);
  const [from, setFrom] = useState<string | null>(null);

  const join = (source: string, target: string) => {
    const [a, b] = [source, target].map((id) => draft.states.find((s) => s.id === id));
    if (!a || !b || a === b) return;
    const known = draft.transitions.find((t) => t.to === b.id && t.from?.includes(a.id));
    const id = known?.id ?? newId();
    edit((w) => connect(w, { id, from: a.id, to: b.id, verb: proposedVerb(a, b) }));
    select({ kind: "transition", id });
  };

  const nodes: StationNode[] = layout.stations.map((station) => ({
    id: station.state.id,
    type: "station",
    position:
      held?.id === station.state.id ? { x: held.x, y: held.y } : { x: station.x, y: station.y },
    // Its size is known beforehand: otherwise every redraw would hide and measure it anew, and lose
    // clicks meanwhile.
    ...SIZE,
    measured: SIZE,
    draggable: mayEdit,
    selectable: true,
    ariaLabel: `${station.state.name}, ${station.state.kind}`,
    data: {
      station,
      count: counts[station.state.id],
      chosen: selection?.kind === "state" && selection.id === station.state.id,
      troubled: findings.some((f) => f.place.stateId === station.state.id && f.severity !== "hint"),
      mayEdit,
      onAddAfter: () => addAfter(station.state),
    },
  }));
  const edges = edgesOf(layout, draft, selection);

  /** A station that was dragged takes the place in the order, and the rail, where it was let go. */
  const letGo = (id: string, x: number, y: number) => {
    setHeld(null);
    const states = statesInOrder(draft);
    const now = states.findIndex((s) => s.id === id);
    const to = Math.round((x - layout.stations[0].x) / STEP);
    const { kind } = states[now];
    const middle = (layout.rails.high + layout.rails.low) / 2;
    const rail: StateKind =
      kind !== "working" && kind !== "waiting" ? kind : y < middle ? "working" : "waiting";
    edit((w) => changeState(moveState(w, id, to - now), id, { kind: rail }));
    select({ kind: "state", id });
  };

  const onKeyDown = mapKeys(designer, mayEdit, { from, setFrom, join });

  return (
    <ReactFlowProvider>
      <LayoutContext.Provider value={layout}>
        <div
          className="workflow-map relative h-full"
          role="group"
          tabIndex={0}
          aria-label={`Map of ${draft.name}. Arrow keys go from state to state, A adds one after, C connects, Alt and arrows reorder, up and down change the rail, Delete takes out.`}
          onKeyDown={onKeyDown}
        >
          <ReactFlow
            nodes={nodes}
            edges={edges}
            nodeTypes={NODE_TYPES}
            edgeTypes={EDGE_TYPES}
            nodeOrigin={[0.5, 0.5]}
            connectionMode={ConnectionMode.Loose}
            nodesConnectable={mayEdit}
            nodesFocusable={false}
            edgesFocusable={false}
            disableKeyboardA11y
            zoomOnScroll={false}
            preventScrolling={false}
            zoomOnDoubleClick={false}
            minZoom={0.2}
            maxZoom={1.6}
            deleteKeyCode={null}
            proOptions={{ hideAttribution: true }}
            onNodeClick={(_, node) =>
              from && from !== node.id
                ? (join(from, node.id), setFrom(null))
                : select({ kind: "state", id: node.id })
            }
            onEdgeClick={(_, edge) =>
              edge.data && select({ kind: "transition", id: edge.data.track.transition.id })
            }
            onPaneClick={() => select(null)}
            onNodeDrag={(_, node) => setHeld({ id: node.id, ...node.position })}
            onNodeDragStop={(_, node) => letGo(node.id, node.position.x, node.position.y)}
            onConnect={({ source, target }: Connection) => join(source, target)}
          >
            <Rails layout={layout} />
          </ReactFlow>
          <Zoom layout={layout} />
          <FromAnywhere layout={layout} draft={draft} select={select} />
          <WhereTo from={from} draft={draft} />
        </div>
      </LayoutContext.Provider>
    </ReactFlowProvider>
  );
}

const edgesOf = (layout: MapLayout, draft: Workflow, selection: Selection): TrackEdge[] =>
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

const nameOf = (workflow: Workflow, id: string) =>
  workflow.states.find((s) => s.id === id)?.name ?? "?";

function Rails({ layout }: { layout: MapLayout }) {
  const size = useWordSize();
  const { high, low } = layout.rails;
  return (
    <RailLines>
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

function Zoom({ layout }: { layout: MapLayout }) {
  const { zoomIn, zoomOut, fitBounds } = useReactFlow();
  const { width, height } = layout;
  useEffect(() => {
    void fitBounds({ x: -30, y: 0, width: width + 60, height }, { padding: 0 });
  }, [fitBounds, width, height]);
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
        onClick={() => void fitBounds({ x: -30, y: 0, width: width + 60, height }, { padding: 0 })}
      >
        <Maximize size={14} aria-hidden="true" />
      </Button>
    </div>
  );
}

/** The size of words in the map's own measure, so that they can be read at whatever zoom. */
function useWordSize(): (pixels: number) => number {
  const zoom = useStore((map) => map.transform[2]);
  return (pixels) => pixels / Math.min(1, zoom);
}

function StationView({ data }: NodeProps<StationNode>) {
  const { station, count, chosen, troubled, mayEdit, onAddAfter } = data;
  const { state } = station;
  const above = state.kind === "working";
  const size = useWordSize();
  const facts = [
    state.limit?.max ? `limit ${state.limit.max}` : null,
    count ? `${count} here` : null,
    state.expectedDays ? `${state.expectedDays} d expected` : null,
  ]
    .filter(Boolean)
    .join(" · ");
  return (
    <div className="group relative size-5" data-state={state.name}>
      <StationMark kind={state.kind} chosen={chosen} />
      <div
        className={`absolute left-1/2 flex -translate-x-1/2 flex-col items-center leading-tight ${above ? "bottom-7" : "top-6"}`}
      >
        <span
          style={{ fontSize: size(13) }}
          className={`whitespace-nowrap font-semibold ${chosen ? "underline decoration-2 underline-offset-2" : ""}`}
        >
          {troubled && (
            <span
              className="mr-1 inline-block size-2 rounded-full bg-alarm"
              aria-label="has a finding"
            />
          )}
          {state.name}
        </span>
        {facts && (
          <span className="block whitespace-nowrap text-ink-soft" style={{ fontSize: size(11) }}>
            {facts}
          </span>
        )}
      </div>
      <Handle
        type="target"
        position={Position.Top}
        className="station-target"
        isConnectableStart={false}
      />
      {mayEdit && (
        <>
          <Handle
            type="source"
            position={Position.Right}
            className="station-source"
            title="Drag to another state to connect"
          />
          <button
            type="button"
            tabIndex={-1}
            className="nodrag absolute -right-8 -top-6 hidden rounded-[3px] border border-line-strong bg-sheet px-1 text-[11px] group-hover:block"
            aria-label={`Add a state after ${state.name}`}
            onClick={onAddAfter}
          >
            +
          </button>
        </>
      )}
    </div>
  );
}

function TrackView({ id, data }: EdgeProps<TrackEdge>) {
  const layout = useContext(LayoutContext);
  if (!layout || !data) return null;
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
  const mark = rules > 0 ? ` (${rules})` : "";
  if (track.course === "main") {
    const steep = Math.hypot(b.x - a.x, b.y - a.y);
    const [dx, dy] = [((b.x - a.x) / steep) * 14, ((b.y - a.y) / steep) * 14];
    return (
      <>
        <BaseEdge
          id={id}
          path={`M${a.x + dx} ${a.y + dy} L${b.x - dx} ${b.y - dy}`}
          interactionWidth={16}
          style={{ stroke: "var(--accent)", strokeWidth: chosen ? 5 : 2.4 }}
        />
        {rules > 0 && (
          <Label
            x={(a.x + b.x) / 2}
            y={(a.y + b.y) / 2}
            chosen={chosen}
            text={counted(rules, "rule")}
            title={`${track.transition.verb}: ${counted(rules, "rule")}`}
          />
        )}
      </>
    );
  }
  const y = lineY(layout, track);
  const under = track.course === "under";
  const leave = (s: Station) =>
    under
      ? s.y + (s.state.kind === "working" ? 12 : 64)
      : s.y - (s.state.kind === "working" ? 64 : 14);
  const shift = 5 + track.line * 4;
  const [ax, bx] = under ? [a.x - shift, b.x + shift] : [a.x + shift, b.x - shift];
  const tip = under ? leave(b) + 2 : leave(b) - 2;
  const arrow = under
    ? `M${bx - 4} ${tip + 6} L${bx} ${tip} L${bx + 4} ${tip + 6}`
    : `M${bx - 4} ${tip - 6} L${bx} ${tip} L${bx + 4} ${tip - 6}`;
  const colour = under ? "var(--rest)" : "var(--accent)";
  return (
    <>
      <BaseEdge
        id={id}
        path={`M${ax} ${leave(a)} V${y} H${bx} V${tip}`}
        interactionWidth={14}
        style={{
          stroke: colour,
          strokeWidth: chosen ? 3 : 1.4,
          strokeDasharray: under ? "5 3" : "none",
        }}
      />
      <path d={arrow} fill="none" stroke={colour} strokeWidth={1.4} />
      <Label x={(ax + bx) / 2} y={y} chosen={chosen} text={`${track.transition.verb}${mark}`} />
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

const NODE_TYPES = { station: StationView };
const EDGE_TYPES = { track: TrackView };

/** The moves that lead on from every state. */
function FromAnywhere({
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
function WhereTo({ from, draft }: { from: string | null; draft: Workflow }) {
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
