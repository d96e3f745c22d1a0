import type { SmallLevel, SmallStretch } from "@/core/flow/small-zigzag";

const WIDTH = 54;
const HEIGHT = 13;
const HIGH = 2;
const LOW = 11;

const COLOUR: Record<SmallLevel, string> = {
  high: "var(--accent)",
  low: "var(--rest)",
  blocked: "var(--alarm)",
  off: "var(--line-strong)",
};

const WORDS: Record<SmallLevel, string> = {
  high: "worked on",
  low: "waiting",
  blocked: "blocked",
  off: "not in progress",
};

/** Where a stretch runs: while it is blocked the line breaks off half way. */
const yOf = (level: SmallLevel): number =>
  level === "high" ? HIGH : level === "blocked" ? (HIGH + LOW) / 2 : LOW;

/** "worked on 60 %, waiting 40 %": a small line for who does not see it. */
function lineWords(stretches: readonly SmallStretch[]): string {
  const levels = [...new Set(stretches.map(([level]) => level))];
  const share = (of: SmallLevel) =>
    stretches.reduce((sum, [level, part]) => sum + (level === of ? part : 0), 0);
  return levels.map((level) => `${WORDS[level]} ${Math.round(share(level) * 100)} %`).join(", ");
}

/** An item's line on its card: high while somebody works on it, low while it waits, broken while blocked. */
export function SmallLine({ stretches }: { stretches: readonly SmallStretch[] }) {
  const ends = stretches.map((_, i) =>
    stretches.slice(0, i + 1).reduce((sum, [, share]) => sum + share * WIDTH, 0),
  );
  const words = lineWords(stretches);
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`Line: ${words}`}
      className="shrink-0"
      data-small-line=""
    >
      <title>{words}</title>
      {stretches.map(([level], i) => {
        const [from, to, y] = [ends[i - 1] ?? 0, ends[i], yOf(level)];
        const before = stretches[i - 1]?.[0];
        return (
          <g key={i} stroke={COLOUR[level]} strokeWidth="1.8">
            {before && <line x1={from} x2={from} y1={yOf(before)} y2={y} stroke="var(--accent)" />}
            <line
              x1={from}
              x2={to}
              y1={y}
              y2={y}
              strokeDasharray={level === "blocked" ? "3 2" : level === "off" ? "1 3" : undefined}
            />
          </g>
        );
      })}
    </svg>
  );
}
