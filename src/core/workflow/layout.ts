import { statesInOrder, type Transition, type Workflow } from "./workflow";
import type { State, StateId } from "./state";

/** Where a station stands on the map, in pixels of the map; the point is its middle. */
export interface Station {
  state: State;
  x: number;
  y: number;
}

/** How a move is drawn: along the main path, over it, or beneath it on a line of its own. */
export interface Track {
  /** Of a move from several states there is one track for each. */
  id: string;
  transition: Transition;
  from: StateId;
  to: StateId;
  course: "main" | "over" | "under";
  /** Which of the lines over or beneath the stations, 0 is the nearest. */
  line: number;
}

export interface WorkflowMap {
  stations: Station[];
  tracks: Track[];
  /** Moves from anywhere, told once. */
  fromAnywhere: Transition[];
  rails: { high: number; low: number };
  width: number;
  height: number;
}

export const STEP = 108;
const MARGIN = 62;
const LINE = 20;
const RAIL_GAP = 112;
/** Room for a station's name and what stands under it, before the first line. */
const WORDS = 74;

/**
 * A workflow as a map on two rails: working states above, waiting ones below, unstarted and
 * finished ones between them at the ends; the moves to the next state are the zigzag, returns run
 * beneath, jumps ahead above. Lines that would cross over the same stretch get lines of their own.
 */
export function mapOf(workflow: Workflow): WorkflowMap {
  const states = statesInOrder(workflow);
  const index = new Map(states.map((s, i) => [s.id, i]));
  const drawn = workflow.transitions.flatMap((t) =>
    (t.from ?? [])
      .filter((from) => from !== t.to && index.has(from) && index.has(t.to))
      .map((from) => ({ transition: t, from })),
  );
  const tracks: Track[] = [];
  const taken: Record<"over" | "under", [number, number][][]> = { over: [], under: [] };
  // Short ones first, so that they lie nearest to the stations.
  const length = ({ from, transition }: { from: StateId; transition: Transition }) =>
    Math.abs(index.get(from)! - index.get(transition.to)!);
  for (const { transition, from } of [...drawn].sort((a, b) => length(a) - length(b))) {
    const [a, b] = [index.get(from)!, index.get(transition.to)!];
    const base = { id: `${transition.id} ${from}`, transition, from, to: transition.to };
    if (b === a + 1) {
      tracks.push({ ...base, course: "main", line: 0 });
      continue;
    }
    const course = b > a ? "over" : "under";
    const span: [number, number] = [Math.min(a, b), Math.max(a, b)];
    let line = taken[course].findIndex((spans) =>
      spans.every(([from, to]) => span[1] < from || span[0] > to),
    );
    if (line < 0) line = taken[course].push([]) - 1;
    taken[course][line].push(span);
    tracks.push({ ...base, course, line });
  }
  const high = WORDS + 24 + taken.over.length * LINE;
  const low = high + RAIL_GAP;
  const yOf = (s: State) =>
    s.kind === "working" ? high : s.kind === "waiting" ? low : (high + low) / 2;
  return {
    stations: states.map((state, i) => ({ state, x: MARGIN + i * STEP, y: yOf(state) })),
    tracks,
    fromAnywhere: workflow.transitions.filter((t) => t.from === null),
    rails: { high, low },
    width: MARGIN * 2 + Math.max(0, states.length - 1) * STEP,
    height: low + WORDS + 10 + taken.under.length * LINE,
  };
}

/** The y of a line over or beneath the stations. */
export function lineY(map: WorkflowMap, track: Track): number {
  return track.course === "over"
    ? map.rails.high - WORDS - track.line * LINE
    : map.rails.low + WORDS + track.line * LINE;
}
