"use client";
import { ageWords } from "@/core/flow/age";
import { OUTSIDE_VIEW } from "@/core/flow/outside-view";
import type { FlowReport } from "@/core/flow/report";
import type { State } from "@/core/workflow/state";

const HEIGHT = 176;
const TOP = 8;
const LEFT = 26;
/** Room for what the levels are called, beside the items. */
const RIGHT = 84;

/**
 * Ageing work in progress: each item over the state it is in, as high as it is old, between the
 * percentiles of what has finished. Waiting states are hatched.
 */
export function AgeingChart({
  report,
  states,
  onItem,
}: {
  report: FlowReport;
  states: State[];
  onItem: (key: string) => void;
}) {
  const columns = states.filter((s) => s.kind === "waiting" || s.kind === "working");
  const { p50, p85 } = report.percentiles;
  const oldest = Math.max(report.expectation.days, p85 ?? 0, ...report.ageing.map((a) => a.age), 1);
  const width = 520;
  const step = (width - LEFT - RIGHT) / Math.max(1, columns.length);
  const y = (age: number) => TOP + (HEIGHT - TOP) * (1 - age / (oldest * 1.06));
  const level = (age: number | null, label: string) =>
    age === null ? null : (
      <g key={label}>
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={y(age)}
          y2={y(age)}
          stroke="var(--ink-soft)"
          strokeDasharray="4 3"
        />
        <text x={width - RIGHT + 4} y={y(age) + 3.5} fontSize="10.5" fill="var(--ink-soft)">
          {label}
        </text>
      </g>
    );
  return (
    <div>
      <svg
        viewBox={`0 0 ${width} ${HEIGHT + 34}`}
        width="100%"
        role="group"
        aria-label="Age of what is in progress, by state"
      >
        {columns.map((s, i) => {
          const here = report.ageing.filter((a) => a.stateId === s.id);
          const x = LEFT + i * step;
          return (
            <g key={s.id}>
              {s.kind === "waiting" && (
                <rect x={x + 1} y={TOP} width={step - 2} height={HEIGHT - TOP} fill="var(--well)" />
              )}
              <foreignObject x={x + 1} y={HEIGHT + 2} width={step - 2} height={32}>
                <p className="text-center text-[9.5px] leading-tight text-ink-soft">{s.name}</p>
              </foreignObject>
              {here.map((a, n) => {
                const seen = a.itemId !== OUTSIDE_VIEW;
                const name = seen ? `${a.key} ${a.title}` : "An item that you may not see";
                const late = p85 !== null && a.age > p85;
                const cx = x + step / 2 + ((n % 5) - Math.min(4, here.length - 1) / 2) * 10;
                return (
                  <a
                    key={`${a.itemId} ${n}`}
                    role={seen ? "button" : undefined}
                    tabIndex={seen ? 0 : undefined}
                    aria-label={`${name}: ${ageWords(a)} in progress, in ${s.name}${a.blocked ? ", blocked" : ""}`}
                    className={seen ? "cursor-pointer" : undefined}
                    onClick={() => seen && onItem(a.key)}
                    onKeyDown={(e) => seen && e.key === "Enter" && onItem(a.key)}
                  >
                    {a.blocked ? (
                      <rect x={cx - 4} y={y(a.age) - 4} width="8" height="8" fill="var(--alarm)" />
                    ) : (
                      <circle
                        cx={cx}
                        cy={y(a.age)}
                        r="4.2"
                        fill={
                          late ? "none" : s.kind === "working" ? "var(--accent)" : "var(--rest)"
                        }
                        stroke={late ? "var(--alarm)" : "none"}
                        strokeWidth="2.2"
                      />
                    )}
                    <title>{`${name}: ${ageWords(a)}`}</title>
                  </a>
                );
              })}
            </g>
          );
        })}
        {[0, Math.round(oldest / 2), Math.round(oldest)].map((age) => (
          <text
            key={age}
            x={LEFT - 6}
            y={y(age) + 3}
            textAnchor="end"
            fontSize="10.5"
            fill="var(--ink-soft)"
          >
            {age}
          </text>
        ))}
        {level(p50, `half took ${p50} d`)}
        {level(p85, `85 % took ${p85} d`)}
      </svg>
    </div>
  );
}
