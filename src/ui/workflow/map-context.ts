"use client";
import { useStore } from "@xyflow/react";
import { createContext, useContext } from "react";
import type { Track, WorkflowMap as MapLayout } from "@/core/workflow/layout";
import { isHabit, type Habits } from "@/core/workflow/habits";
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
  /** How it was really walked lately; null until that is known. */
  habits: Habits | null;
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

/** How often a state is passed by, where that is a habit. */
export function passedBy(habits: Habits | null, stateId: string): string | null {
  const skipped = habits?.skipped.find((one) => one.stateId === stateId);
  if (!skipped || !isHabit(skipped)) return null;
  return `${Math.round((100 * skipped.times) / skipped.of)} % pass it by`;
}

/** How often a step back was made, where that is a habit. */
export function wentBack(habits: Habits | null, from: string, to: string): string | null {
  const back = habits?.backwards.find((one) => one.from === from && one.to === to);
  return back && isHabit(back) ? `${back.times} ×` : null;
}
