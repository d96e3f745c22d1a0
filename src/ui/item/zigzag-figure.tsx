"use client";
import type { Zigzag } from "@/core/flow/zigzag";
import { Arrivals, type Arrival } from "./zigzag-arrivals";
import { exact, percent, shortDays } from "@/ui/kit/time";

const HEIGHT = 64;
const HIGH = 14;
const LOW = 44;
const MIN_WIDTH = 5;

/**
 * An item's line: high while somebody works on it, low while it waits, broken and marked while it
 * is blocked. Each stretch is as wide as it was long, but never too thin to be seen.
 */
export function ZigzagFigure({
  zigzag,
  arrivals = [],
  stateNames,
  zone,
  width = 396,
}: {
  zigzag: Zigzag;
  /** When it came to which environment: marked above the line. */
  arrivals?: readonly Arrival[];
  stateNames: Record<string, string>;
  zone: string;
  width?: number;
}) {
  const { segments, returns } = zigzag;
  if (segments.length === 0)
    return (
      <p className="text-ink-soft">
        The line begins when work is committed: nobody has pulled this item yet.
      </p>
    );
  const total = segments.reduce((sum, s) => sum + s.days, 0) || 1;
  const spare = Math.max(40, width - segments.length * MIN_WIDTH - 2);
  const widths = segments.map((s) => MIN_WIDTH + (s.days / total) * spare);
  const drawn = segments.map((s, i) => {
    const x1 = 1 + widths.slice(0, i).reduce((sum, w) => sum + w, 0);
    return { ...s, x1, x2: x1 + widths[i], y: s.level === "high" ? HIGH : LOW };
  });
  const words = `working ${shortDays(zigzag.working)}, waiting ${shortDays(zigzag.waiting)}, blocked ${shortDays(zigzag.blocked)}, flow efficiency ${percent(zigzag.efficiency)}`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={`Zigzag: ${words}`}
      >
        <line x1="0" x2={width} y1={HIGH} y2={HIGH} stroke="var(--line)" />
        <line x1="0" x2={width} y1={LOW} y2={LOW} stroke="var(--line)" />
        {drawn.map((s, i) => {
          const before = drawn[i - 1];
          const colour = s.blocked
            ? "var(--alarm)"
            : s.level === "high"
              ? "var(--accent)"
              : "var(--rest)";
          return (
            <g key={s.from + s.stateId}>
              {before && before.y !== s.y && (
                <line
                  x1={s.x1}
                  x2={s.x1}
                  y1={before.y}
                  y2={s.y}
                  stroke="var(--accent)"
                  strokeWidth="2"
                />
              )}
              {s.level === "off" ? (
                <line
                  x1={s.x1}
                  x2={s.x2}
                  y1={LOW}
                  y2={LOW}
                  stroke="var(--line-strong)"
                  strokeDasharray="1 4"
                  strokeWidth="2"
                />
              ) : (
                <line
                  x1={s.x1}
                  x2={s.x2}
                  y1={s.y}
                  y2={s.y}
                  stroke={colour}
                  strokeWidth={s.blocked ? 3 : 2.5}
                  strokeDasharray={s.blocked ? "4 3" : undefined}
                />
              )}
              {s.blocked && s.x2 - s.x1 > 8 && (
                <path
                  d={`M${(s.x1 + s.x2) / 2 - 3} ${s.y - 8} l3 4 l3 -4`}
                  fill="none"
                  stroke="var(--alarm)"
                  strokeWidth="1.5"
                />
              )}
              <rect x={s.x1} y={0} width={s.x2 - s.x1} height={HEIGHT} fill="transparent">
                <title>{`${stateNames[s.stateId] ?? "A former state"}${s.blocked ? ", blocked" : s.ready ? ", ready for its next step" : ""}: ${shortDays(s.days)}, from ${exact(s.from, zone)}`}</title>
              </rect>
              {s.x2 - s.x1 > 34 && (
                <text
                  x={(s.x1 + s.x2) / 2}
                  y={s.level === "high" ? HIGH + 13 : LOW + 14}
                  textAnchor="middle"
                  fontSize="10.5"
                  fill="var(--ink-soft)"
                >
                  {shortDays(s.days)}
                </text>
              )}
            </g>
          );
        })}
        <Returns returns={returns} drawn={drawn} />
        <Arrivals arrivals={arrivals} drawn={drawn} zone={zone} />
      </svg>
      <Caption zigzag={zigzag} />
    </figure>
  );
}

/** Where it came back to an earlier stage. */
function Returns({
  returns,
  drawn,
}: {
  returns: Zigzag["returns"];
  drawn: readonly { from: number; x1: number }[];
}) {
  return returns.map((at) => {
    const s = drawn.find(({ from }) => from === at);
    return s ? (
      <path
        key={at}
        d={`M${s.x1 + 5} ${HEIGHT - 3} h-5 v-6 m-3 3 l3 -3.5 l3 3.5`}
        fill="none"
        stroke="var(--signal-ink)"
        strokeWidth="1.5"
      >
        <title>It came back here</title>
      </path>
    ) : null;
  });
}

/** The line in figures. */
function Caption({ zigzag }: { zigzag: Zigzag }) {
  const { returns } = zigzag;
  return (
    <figcaption className="mt-1 flex flex-wrap gap-x-3 text-[12.5px] text-ink-soft">
      <span>
        <b className="text-accent">{shortDays(zigzag.working)}</b> high, worked on
      </span>
      <span>
        <b className="text-ink">{shortDays(zigzag.waiting)}</b> low, waiting
      </span>
      {zigzag.blocked > 0 && (
        <span>
          <b className="text-alarm">{shortDays(zigzag.blocked)}</b> broken, blocked
        </span>
      )}
      {returns.length > 0 && (
        <span>
          <b className="text-signal-ink">{returns.length}</b>{" "}
          {returns.length === 1 ? "return" : "returns"}
        </span>
      )}
      <span>
        flow efficiency <b className="text-ink">{percent(zigzag.efficiency)}</b>
      </span>
    </figcaption>
  );
}
