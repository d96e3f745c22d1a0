import type { StateKind } from "@/core/workflow/state";

/** The shape of a state by its kind: open ring, open funnel, filled square, filled disc. */
export function StationMark({
  kind,
  size = 20,
  chosen = false,
}: {
  kind: StateKind;
  size?: number;
  chosen?: boolean;
}) {
  const fill = chosen ? "var(--signal-soft)" : "var(--sheet)";
  return (
    <svg width={size} height={size} viewBox="0 0 20 20" aria-hidden="true" className="shrink-0">
      {kind === "working" && (
        <rect
          x="2"
          y="2"
          width="16"
          height="16"
          fill="var(--accent)"
          stroke={chosen ? "var(--ink)" : "var(--paper)"}
          strokeWidth={chosen ? 2.5 : 1}
        />
      )}
      {kind === "waiting" && (
        <path
          d="M1.5 3h17l-8.5 14.5z"
          fill={fill}
          stroke={chosen ? "var(--ink)" : "var(--rest)"}
          strokeWidth={chosen ? 2.5 : 2}
        />
      )}
      {kind === "unstarted" && (
        <circle
          cx="10"
          cy="10"
          r="7.5"
          fill={fill}
          stroke="var(--ink)"
          strokeWidth={chosen ? 3 : 2}
        />
      )}
      {kind === "finished" && (
        <circle
          cx="10"
          cy="10"
          r="8"
          fill="var(--done)"
          stroke={chosen ? "var(--ink)" : "none"}
          strokeWidth="2.5"
        />
      )}
    </svg>
  );
}
