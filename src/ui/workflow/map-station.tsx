"use client";
import { Handle, NodeToolbar, Position, type Node, type NodeProps } from "@xyflow/react";
import { useEffect, useRef, useState } from "react";
import { FURTHER, type Station } from "@/core/workflow/layout";
import type { State } from "@/core/workflow/state";
import { Button } from "@/ui/kit/button";
import { Initials } from "@/ui/kit/initials";
import { TextInput } from "@/ui/kit/field";
import { passedBy, useMap, useWordSize, type MapActs } from "./map-context";
import { StationMark } from "./station-mark";

export type StationNode = Node<
  {
    station: Station;
    count: number | undefined;
    chosen: boolean;
    troubled: boolean;
    /** Who else has it open. */
    visitors: string[];
  },
  "station"
>;

export function StationView({ data }: NodeProps<StationNode>) {
  const { station, count, chosen, troubled, visitors } = data;
  const { acts, mayEdit, renaming, busy, habits } = useMap();
  const { state } = station;
  const above = station.nameAbove;
  const size = useWordSize();
  const facts = [
    state.limit?.max
      ? `limit ${state.limit.max}${state.limit.unit === "size" ? " in size" : ""}`
      : null,
    count ? `${count} here` : null,
    state.expectedDays ? `${state.expectedDays} d expected` : null,
  ]
    .filter(Boolean)
    .join(" · ");
  const passed = passedBy(habits, state.id);
  return (
    <div className="group relative size-5" data-state={state.name}>
      {mayEdit && (
        <NodeToolbar
          isVisible={chosen && !busy}
          // Over a state at work and under one that waits, so that no name beside it is covered.
          position={state.kind === "waiting" ? Position.Bottom : Position.Top}
          offset={state.kind === "waiting" || above ? 52 : 20}
        >
          <StateBar state={state} acts={acts} />
        </NodeToolbar>
      )}
      <StationMark kind={state.kind} chosen={chosen} />
      {visitors.length > 0 && (
        <span
          data-visited
          className={`absolute left-1/2 flex -translate-x-1/2 gap-0.5 ${above ? "top-6" : "bottom-6"}`}
        >
          {visitors.map((name) => (
            <Initials key={name} name={name} size={18} strong />
          ))}
        </span>
      )}
      <div
        className={`absolute left-1/2 flex -translate-x-1/2 flex-col items-center leading-tight ${!above ? "top-6" : state.kind === "working" ? "bottom-7" : "bottom-5"}`}
        style={station.further ? { [above ? "marginBottom" : "marginTop"]: FURTHER } : undefined}
      >
        {renaming === state.id ? (
          <Renamed state={state} fontSize={size(13)} />
        ) : (
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
        )}
        {facts && (
          <span className="block whitespace-nowrap text-ink-soft" style={{ fontSize: size(11) }}>
            {facts}
          </span>
        )}
        {passed && (
          <span
            className="block whitespace-nowrap font-semibold text-signal-ink"
            style={{ fontSize: size(11) }}
          >
            {passed}
          </span>
        )}
      </div>
      <Handle
        type="target"
        position={Position.Top}
        className="station-target"
        isConnectableStart={false}
      />
      {/* Lines begin here, also where nobody may draw new ones. */}
      <Handle
        type="source"
        position={Position.Right}
        isConnectable={mayEdit}
        className={mayEdit ? "station-source" : "station-target"}
        title={mayEdit ? "Drag to another state to connect" : undefined}
      />
    </div>
  );
}

/** What can be done with the state that is chosen, where it stands. */
function StateBar({ state, acts }: { state: State; acts: MapActs }) {
  const onRail = state.kind === "working" || state.kind === "waiting";
  return (
    <div
      role="toolbar"
      aria-label={`What can be done with ${state.name}`}
      // What is clicked here is not the station under it.
      onClick={(e) => e.stopPropagation()}
      onDoubleClick={(e) => e.stopPropagation()}
      className="flex gap-1 rounded-[3px] border border-line-strong bg-sheet p-1"
    >
      <Button small onClick={() => acts.addAfter(state)}>
        Add after
      </Button>
      <Button small onClick={() => acts.connect(state)}>
        Connect
      </Button>
      <Button small onClick={() => acts.rename(state.id)}>
        Rename
      </Button>
      {onRail && (
        <Button small onClick={() => acts.toOtherRail(state)}>
          {state.kind === "working" ? "It waits" : "It is worked on"}
        </Button>
      )}
      <Button small look="danger" onClick={() => acts.takeOut(state)}>
        Take out
      </Button>
    </div>
  );
}

/** The name of a state while it is written, in its place. */
function Renamed({ state, fontSize }: { state: State; fontSize: number }) {
  const { acts } = useMap();
  const [name, setName] = useState(state.name);
  const field = useRef<HTMLInputElement>(null);
  const left = useRef(false);
  useEffect(() => field.current?.select(), []);
  const end = (keep: boolean) => {
    if (left.current) return;
    left.current = true;
    if (keep && name.trim() && name.trim() !== state.name) acts.named(state, name.trim());
    acts.rename(null);
  };
  return (
    <TextInput
      ref={field}
      autoFocus
      aria-label={`Name of ${state.name}`}
      maxLength={60}
      className="nodrag nopan !w-40 text-center !font-semibold"
      style={{ fontSize }}
      value={name}
      onChange={(e) => setName(e.target.value)}
      onBlur={() => end(true)}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === "Enter") end(true);
        if (e.key === "Escape") end(false);
      }}
    />
  );
}
