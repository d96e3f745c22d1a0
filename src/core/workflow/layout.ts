import { statesInOrder, type Transition, type Workflow } from "./workflow";
import type { State, StateId } from "./state";

/** Where a station stands on the map, in pixels of the map; the point is its middle. */
export interface Station {
  state: State;
  x: number;
  y: number;
  /** Whether its name stands over it, else under it. */
  nameAbove: boolean;
  /** Whether its name stands one step further out, because a neighbour's stands beside it. */
  further: boolean;
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
  /** Room for names above the upper rail and below the lower one. */
  words: { over: number; under: number };
  width: number;
  height: number;
}

export const STEP = 108;
const MARGIN = 62;
const LINE = 20;
/** Between the rails a name and what stands beside it have room over a station in the middle. */
const RAIL_GAP = 132;
/** Room for a station's name and what stands under it, before the first line. */
const WORDS = 74;

/** How far a mark reaches from the middle of a station, and a name with what stands beside it. */
const MARK = 13;
const NAMED = 64;

/** How much further out a name stands whose neighbour on the same rail has one beside it. */
export const FURTHER = 30;

const onRail = ({ kind }: State): boolean => kind === "working" || kind === "waiting";

/**
 * Whether each name stands over its station: on the side away from the other rail, and between the
 * rails on the side away from the line that comes, which is the one of the next station on a rail.
 */
export function namesAbove(states: readonly State[]): boolean[] {
  return states.map((state, i) => {
    if (onRail(state)) return state.kind === "working";
    const before = states.slice(0, i).findLast(onRail);
    const after = states.slice(i + 1).find(onRail);
    return (state.kind === "unstarted" ? (after ?? before) : (before ?? after))?.kind === "waiting";
  });
}

/** Of neighbours on one rail every second name stands further out, so that none lies on another. */
function furtherOut(states: readonly State[]): boolean[] {
  const out: boolean[] = [];
  for (const [i, state] of states.entries())
    out.push(i > 0 && !out[i - 1] && meets(states[i - 1], state));
  return out;
}

const LETTER = 7;

/** Whether the words of two neighbours would touch: always on a rail, where facts stand with them. */
function meets(a: State, b: State): boolean {
  if (a.kind !== b.kind) return false;
  return onRail(a) || ((a.name.length + b.name.length) / 2) * LETTER > STEP;
}

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
  const further = furtherOut(states);
  const above = namesAbove(states);
  const over = states.some((s, i) => further[i] && s.kind === "working") ? FURTHER : 0;
  const under = states.some((_, i) => further[i] && !above[i]) ? FURTHER : 0;
  const high = WORDS + 24 + over + taken.over.length * LINE;
  const low = high + RAIL_GAP;
  const yOf = (s: State) =>
    s.kind === "working" ? high : s.kind === "waiting" ? low : (high + low) / 2;
  return {
    stations: states.map((state, i) => ({
      state,
      x: MARGIN + i * STEP,
      y: yOf(state),
      nameAbove: above[i],
      further: further[i],
    })),
    tracks,
    fromAnywhere: workflow.transitions.filter((t) => t.from === null),
    rails: { high, low },
    words: { over: WORDS + over, under: WORDS + under },
    width: MARGIN * 2 + Math.max(0, states.length - 1) * STEP,
    height: low + WORDS + under + 10 + taken.under.length * LINE,
  };
}

/** The y of a line over or beneath the stations. */
export function lineY(map: WorkflowMap, track: Track): number {
  return track.course === "over"
    ? map.rails.high - map.words.over - track.line * LINE
    : map.rails.low + map.words.under + track.line * LINE;
}

/** How a line over or beneath the stations runs: up or down from a state, along, and to the other. */
export interface Detour {
  from: { x: number; y: number };
  /** The y of its stretch along. */
  along: number;
  to: { x: number; y: number };
}

/**
 * The course of a line over or beneath the stations. It begins and ends clear of the marks and
 * names, and beside the other lines of a station.
 */
export function detourOf(map: WorkflowMap, track: Track, from: Station, to: Station): Detour {
  const under = track.course === "under";
  const clear = ({ y, nameAbove }: Station) =>
    under ? y + (nameAbove ? MARK : NAMED) : y - (nameAbove ? NAMED : MARK);
  const aside = (under ? -1 : 1) * (5 + track.line * 4);
  return {
    from: { x: from.x + aside, y: clear(from) },
    along: lineY(map, track),
    to: { x: to.x - aside, y: clear(to) + (under ? 2 : -2) },
  };
}
