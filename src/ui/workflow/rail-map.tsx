import { namesAbove } from "@/core/workflow/layout";
import type { State } from "@/core/workflow/state";
import { isReturn, leadsFrom, statesInOrder, type Workflow } from "@/core/workflow/workflow";

/** Drawn about as wide as it is shown, so that its words keep their size. */
const WIDTH = 700;
const MARGIN = 20;
const WIDEST_STEP = 112;
const HIGH = 62;
const LOW = 128;
const ENDS = 96;

/**
 * A workflow on two rails: working above, waiting below, the main path as its zigzag, returns
 * beneath.
 */
export function RailMap({ workflow }: { workflow: Workflow }) {
  const states = statesInOrder(workflow);
  const step = Math.min(WIDEST_STEP, (WIDTH - MARGIN) / states.length);
  const width = WIDTH;
  const above = namesAbove(states);
  const at = new Map(
    states.map((s, i) => [
      s.id,
      {
        x: MARGIN + step / 2 + i * step,
        y: s.kind === "working" ? HIGH : s.kind === "waiting" ? LOW : ENDS,
      },
    ]),
  );
  const onward = states.flatMap((s, i) => {
    const next = states[i + 1];
    return next && workflow.transitions.some((t) => leadsFrom(t, s.id) && t.to === next.id)
      ? [[at.get(s.id)!, at.get(next.id)!]]
      : [];
  });
  const returns = workflow.transitions.flatMap((t) =>
    (t.from ?? [])
      .filter(
        (from) =>
          isReturn(workflow, from, t.to) && states.find((s) => s.id === from)?.kind !== "finished",
      )
      .map((from) => ({ ...t, id: `${t.id} ${from}`, from })),
  );
  const fromAny = workflow.transitions.filter((t) => t.from === null);
  const bottom = 172 + returns.length * 16;
  return (
    <svg
      viewBox={`0 0 ${width} ${bottom}`}
      className="w-full"
      role="img"
      aria-label={`Map of the workflow ${workflow.name}: ${states.map((s) => s.name).join(", ")}`}
    >
      <line x1="0" x2={width} y1={HIGH} y2={HIGH} stroke="var(--line)" />
      <line x1="0" x2={width} y1={LOW} y2={LOW} stroke="var(--line)" />
      <text x="0" y={HIGH - 6} fontSize="11" fill="var(--ink-soft)">
        somebody works on it
      </text>
      <text x="0" y={LOW + 15} fontSize="11" fill="var(--ink-soft)">
        it waits
      </text>
      {returns.map((t, i) => (
        <ReturnLine key={t.id} verb={t.verb} row={i} from={at.get(t.from)!} to={at.get(t.to)!} />
      ))}
      {onward.map(([a, b]) => (
        <line
          key={`${a.x}`}
          x1={a.x}
          y1={a.y}
          x2={b.x}
          y2={b.y}
          stroke="var(--accent)"
          strokeWidth="2.2"
        />
      ))}
      {states.map((s, i) => (
        <Station key={s.id} state={s} nameAbove={above[i]} {...at.get(s.id)!} />
      ))}
      {fromAny.length > 0 && (
        <text x={width - 4} y="14" textAnchor="end" fontSize="11" fill="var(--ink-soft)">
          from anywhere:{" "}
          {fromAny.map((t) => `${t.verb} → ${states.find((s) => s.id === t.to)?.name}`).join(", ")}
        </text>
      )}
    </svg>
  );
}

interface Point {
  x: number;
  y: number;
}

/** Returns begin and end beneath the station, and beneath its name where that stands below. */
const below = ({ y }: Point) => (y === LOW ? y + 32 : y + 10);

/** A move back, on a row of its own beneath the map. */
function ReturnLine({
  verb,
  row,
  from: a,
  to: b,
}: {
  verb: string;
  row: number;
  from: Point;
  to: Point;
}) {
  const y = 176 + row * 16;
  return (
    <g>
      <path
        d={`M${a.x + 4 * row - 6} ${below(a)} V${y} H${b.x + 4 * row - 10} V${below(b) + 4}`}
        fill="none"
        stroke="var(--rest)"
        strokeDasharray="4 3"
      />
      <path
        d={`M${b.x + 4 * row - 13} ${below(b) + 8} l3 -5 l3 5`}
        fill="none"
        stroke="var(--rest)"
      />
      <rect
        x={(a.x + b.x) / 2 - verb.length * 3.2 - 4}
        y={y - 7}
        width={verb.length * 6.4 + 8}
        height="13"
        fill="var(--sheet)"
      />
      <text x={(a.x + b.x) / 2} y={y + 3} textAnchor="middle" fontSize="11" fill="var(--ink-soft)">
        {verb}
      </text>
    </g>
  );
}

/** A state at its place, drawn by its kind. */
function Station({
  state: { kind, name },
  nameAbove,
  x,
  y,
}: { state: State; nameAbove: boolean } & Point) {
  return (
    <g>
      {kind === "working" && (
        <rect
          x={x - 8}
          y={y - 8}
          width="16"
          height="16"
          fill="var(--accent)"
          stroke="var(--paper)"
          strokeWidth="2"
        />
      )}
      {kind === "waiting" && (
        <path
          d={`M${x - 10} ${y - 7} h20 l-10 16 z`}
          fill="var(--paper)"
          stroke="var(--rest)"
          strokeWidth="1.8"
        />
      )}
      {kind === "unstarted" && (
        <circle cx={x} cy={y} r="7.5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.8" />
      )}
      {kind === "finished" && <circle cx={x} cy={y} r="8" fill="var(--done)" />}
      <text
        x={x}
        y={nameAbove ? y - 16 : y + 24}
        textAnchor="middle"
        fontSize="12"
        fontWeight="650"
        fill="var(--ink)"
      >
        {name}
      </text>
    </g>
  );
}
