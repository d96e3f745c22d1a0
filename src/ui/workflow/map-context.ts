"use client";
import { useStore } from "@xyflow/react";
import { createContext, useContext } from "react";
import type { Track, WorkflowMap as MapLayout } from "@/core/workflow/layout";
import type { State } from "@/core/workflow/state";
import type { Workflow } from "@/core/workflow/workflow";

/** What can be done with a state on the map. */
export interface MapActs {
  addAfter: (state: State) => void;
  connect: (state: State) => void;
  rename: (stateId: string | null) => void;
  named: (state: State, name: string) => void;
  toOtherRail: (state: State) => void;
  takeOut: (state: State) => void;
  /** Asks for what comes into a move. */
  insert: (track: Track) => void;
}

export interface MapView {
  layout: MapLayout;
  acts: MapActs;
  mayEdit: boolean;
  /** Whether a state is being dragged or something comes into a line: bars give way. */
  busy: boolean;
  /** The state whose name is being written. */
  renaming: string | null;
}

export const MapContext = createContext<MapView | null>(null);

export function useMap(): MapView {
  const map = useContext(MapContext);
  if (!map) throw new Error("outside of a map");
  return map;
}

/** The size of words in the map's own measure, so that they can be read at whatever zoom. */
export function useWordSize(): (pixels: number) => number {
  const zoom = useStore((map) => map.transform[2]);
  return (pixels) => pixels / Math.min(1, zoom);
}

export const nameOf = (workflow: Workflow, id: string): string =>
  workflow.states.find((s) => s.id === id)?.name ?? "?";
