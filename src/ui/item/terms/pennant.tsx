import type { ReactNode } from "react";
import type { Pennant as PennantName, TermHue } from "@/core/item/terms/term";

/** What is drawn on the cloth, in a box of 14 by 10, in the colour of the paper. */
const PATTERNS: Record<PennantName, ReactNode> = {
  plain: null,
  half: <rect x="7" y="0" width="7" height="10" />,
  bar: <rect x="0" y="3.5" width="14" height="3" />,
  stripes: (
    <>
      <rect x="2" y="0" width="2" height="10" />
      <rect x="6" y="0" width="2" height="10" />
      <rect x="10" y="0" width="2" height="10" />
    </>
  ),
  cross: (
    <>
      <rect x="0" y="4" width="14" height="2" />
      <rect x="5" y="0" width="2" height="10" />
    </>
  ),
  dot: <circle cx="6" cy="5" r="2.6" />,
  corner: <path d="M0 0h7L0 5z" />,
  arrow: <path d="M0 0l6 5-6 5z" />,
  quarters: (
    <>
      <rect x="7" y="0" width="7" height="5" />
      <rect x="0" y="5" width="7" height="5" />
    </>
  ),
  border: <path d="M2 2h10v6H2z" />,
};

export const HUE_COLOURS: Record<TermHue, string> = {
  spruce: "var(--term-spruce)",
  marigold: "var(--term-marigold)",
  madder: "var(--term-madder)",
  "ink blue": "var(--term-ink-blue)",
  slate: "var(--term-slate)",
  heather: "var(--term-heather)",
  moss: "var(--term-moss)",
  brick: "var(--term-brick)",
};

/** The sign of a label: a swallow-tailed pennant on its staff. */
export function Pennant({ sign, hue }: { sign: PennantName; hue: TermHue }) {
  return (
    <span aria-hidden="true" className="pennant" style={{ color: HUE_COLOURS[hue] }}>
      <svg viewBox="0 0 14 10" width="14" height="10">
        <rect width="14" height="10" fill="currentColor" />
        <g fill="var(--sheet)">{PATTERNS[sign]}</g>
        <path
          d="M.4 .4h13l-2.6 4.6 2.6 4.6H.4z"
          fill="none"
          stroke="currentColor"
          strokeWidth=".8"
        />
      </svg>
    </span>
  );
}
