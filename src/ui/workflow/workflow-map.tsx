"use client";
import "@xyflow/react/dist/base.css";
import {
  ConnectionMode,
  PanOnScrollMode,
  ReactFlow,
  ReactFlowProvider,
  type Connection,
} from "@xyflow/react";
import { useMemo, useRef, useState } from "react";
import type { Habits } from "@/core/workflow/habits";
import type { DraftVisitor } from "@/core/workflow/draft-visit";
import { mapOf, STEP, type Station, type WorkflowMap as MapLayout } from "@/core/workflow/layout";
import type { StateKind } from "@/core/workflow/state";
import { statesInOrder } from "@/core/workflow/workflow";
import { Button } from "@/ui/kit/button";
import { MapContext } from "./map-context";
import { FromAnywhere, MapKeys, Rails, WhereTo, Zoom } from "./map-frame";
import { InsertForm } from "./map-insert";
import { mapKeys } from "./map-keys";
import { StationView, type StationNode } from "./map-station";
import { edgesOf, TrackView } from "./map-track";
import { StationMark } from "./station-mark";
import type { Designer } from "./use-designer";
import { useMapActs, type MapDoing } from "./use-map-acts";

const SIZE = { width: 20, height: 20 };

/** A station that is being dragged. */
interface Held {
  id: string;
  x: number;
  y: number;
}

/** Where a station that is dragged lands when it is let go. */
function landing(layout: MapLayout, designer: Designer, { id, x, y }: Held) {
  const states = statesInOrder(designer.draft);
  const now = states.findIndex((s) => s.id === id);
  const to = Math.min(
    states.length - 1,
    Math.max(0, Math.round((x - layout.stations[0].x) / STEP)),
  );
  const { kind } = states[now];
  const middle = (layout.rails.high + layout.rails.low) / 2;
  const rail: StateKind =
    kind !== "working" && kind !== "waiting" ? kind : y < middle ? "working" : "waiting";
  const onRail = rail === "working" ? layout.rails.high : layout.rails.low;
  return {
    by: to - now,
    rail,
    x: layout.stations[0].x + to * STEP,
    y: rail === "working" || rail === "waiting" ? onRail : middle,
  };
}

/**
 * The draft as a map on two rails, to be selected, extended, connected and put in another order.
 */
export function WorkflowMap({
  designer,
  counts,
  mayEdit,
  habits,
  visitors = [],
  onRules,
}: {
  designer: Designer;
  counts: Record<string, number>;
  mayEdit: boolean;
  /** How it was really walked lately; null until that is known. */
  habits: Habits | null;
  /** Who else is at the draft, and where. */
  visitors?: readonly DraftVisitor[];
  /** Goes to the rules of what is chosen. */
  onRules: () => void;
}) {
  const { draft, selection, select } = designer;
  const layout = useMemo(() => mapOf(draft), [draft]);
  const map = useRef<HTMLDivElement>(null);
  const doing = useMapActs(designer, counts, map);
  const { acts, from, setFrom, join, renaming } = doing;
  const [held, setHeld] = useState<Held | null>(null);
  const land = held && landing(layout, designer, held);
  // Lines follow what is dragged.
  const drawn = useMemo(
    () =>
      held === null
        ? layout
        : {
            ...layout,
            stations: layout.stations.map((s) =>
              s.state.id === held.id ? { ...s, x: held.x, y: held.y } : s,
            ),
          },
    [layout, held],
  );

  const nodes = drawn.stations.map((station) => ({
    ...nodeOf(station, designer, counts),
    draggable: mayEdit && renaming === null,
  }));
  for (const { chosenId, name } of visitors)
    nodes.find((n) => n.id === chosenId)?.data.visitors.push(name);
  const edges = edgesOf(layout, draft, selection);
  const letGo = (at: Held) => {
    setHeld(null);
    const { by, rail } = landing(layout, designer, at);
    doing.displace(at.id, by, { kind: rail });
    select({ kind: "state", id: at.id });
  };
  const onKeyDown = mapKeys(designer, mayEdit, doing, onRules);

  return (
    <ReactFlowProvider>
      <MapContext.Provider
        value={{
          layout: drawn,
          acts,
          mayEdit,
          renaming,
          habits,
          busy: held !== null || doing.inserting !== null,
        }}
      >
        <div
          ref={map}
          className="workflow-map relative min-h-0 flex-1 zoomed:h-[340px] zoomed:flex-none"
          role="group"
          tabIndex={0}
          aria-label={`Map of ${draft.name}. Arrow keys go from state to state, A adds one after, M goes through its moves, C connects, F2 renames, Alt and arrows reorder, up and down change the rail, Enter goes to the rules, Delete takes out.`}
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
            panOnScroll
            panOnScrollMode={PanOnScrollMode.Horizontal}
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
            onNodeDoubleClick={(_, node) => mayEdit && acts.rename(node.id)}
            onEdgeClick={(_, edge) =>
              edge.data && select({ kind: "transition", id: edge.data.track.transition.id })
            }
            onPaneClick={() => select(null)}
            onNodeDrag={(_, node) => setHeld({ id: node.id, ...node.position })}
            onNodeDragStop={(_, node) => letGo({ id: node.id, ...node.position })}
            onConnect={({ source, target }: Connection) => join(source, target)}
          >
            <Rails layout={layout} land={land} />
          </ReactFlow>
          <Zoom layout={layout} />
          <FromAnywhere layout={layout} draft={draft} select={select} />
          <WhereTo from={from} draft={draft} />
          <Asked doing={doing} designer={designer} />
        </div>
        {mayEdit && <MapKeys />}
      </MapContext.Provider>
    </ReactFlowProvider>
  );
}

/** A state as the map draws it. */
const nodeOf = (
  station: Station,
  { selection, findings }: Designer,
  counts: Record<string, number>,
): StationNode => ({
  id: station.state.id,
  type: "station",
  position: { x: station.x, y: station.y },
  // Its size is known beforehand: otherwise every redraw would hide and measure it anew, and lose
  // clicks meanwhile.
  ...SIZE,
  measured: SIZE,
  selectable: true,
  ariaLabel: `${station.state.name}, ${station.state.kind}`,
  data: {
    station,
    count: counts[station.state.id],
    chosen: selection?.kind === "state" && selection.id === station.state.id,
    troubled: findings.some((f) => f.place.stateId === station.state.id && f.severity !== "hint"),
    visitors: [],
  },
});

/** What the map asks back: what comes into a move, and whether the path is led along. */
function Asked({ doing, designer: { draft } }: { doing: MapDoing; designer: Designer }) {
  const { inserting, offer } = doing;
  if (inserting) {
    const [a, b] = [inserting.from, inserting.to].map((id) =>
      draft.states.find((s) => s.id === id),
    );
    if (!a || !b) return null;
    return (
      <InsertForm
        key={inserting.id}
        track={inserting}
        from={a}
        to={b}
        onInsert={(inserted) => doing.insert(inserting, inserted)}
        onLeave={doing.leaveInserting}
      />
    );
  }
  if (!offer) return null;
  const state = draft.states.find((s) => s.id === offer.stateId)!;
  return (
    <div
      role="status"
      className="absolute bottom-2 left-3 z-10 flex flex-wrap items-center gap-2 rounded-[3px] border border-line-strong bg-sheet px-3 py-1.5 text-[13px]"
    >
      <StationMark kind={state.kind} size={14} />
      <span>
        <b>{state.name}</b> stands elsewhere; its moves lead the old way.
      </span>
      <Button small look="strong" onClick={() => doing.takeOffer(offer)}>
        Lead the path along
      </Button>
      <Button small look="quiet" onClick={doing.leaveOffer}>
        Leave the moves
      </Button>
    </div>
  );
}

const NODE_TYPES = { station: StationView };
const EDGE_TYPES = { track: TrackView };
