import Link from "next/link";
import type { ReactNode } from "react";

/** A place on the line at the top of a page. */
export interface Stop {
  id: string;
  name: string;
  href: string;
  current: boolean;
  /** What stands beside its name. */
  note?: ReactNode;
}

/** The top line of every page. */
export const COURSE_BAR =
  "course-bar flex h-12 shrink-0 items-center gap-4 border-b border-line bg-sheet px-4 max-[860px]:h-auto max-[860px]:flex-wrap max-[860px]:gap-x-2 max-[860px]:gap-y-0 max-[860px]:px-2 max-[860px]:pt-1";

const HIGH = 8;
const LOW = 19;
const yOf = (i: number): number => (i % 2 === 0 ? HIGH : LOW);

/** Places as the stops of one zigzag line, the current one filled. */
export function Course({
  label,
  stops,
  step = 78,
}: {
  label: string;
  stops: readonly Stop[];
  /** How far a stop is from the next, in pixels. */
  step?: number;
}) {
  const xOf = (i: number): number => step / 2 + i * step;
  const width = stops.length * step;
  return (
    <nav
      aria-label={label}
      className="relative ml-3 max-w-full shrink-0 max-[860px]:order-last max-[860px]:mx-auto max-[860px]:mt-1"
      style={{ width, height: 46 }}
    >
      <svg
        className="absolute inset-x-0 bottom-0"
        width="100%"
        height="26"
        viewBox={`0 0 ${width} 26`}
        aria-hidden="true"
      >
        <polyline
          points={stops.map((_, i) => `${xOf(i)},${yOf(i)}`).join(" ")}
          fill="none"
          stroke="var(--accent)"
          strokeOpacity="0.65"
          strokeWidth="2"
        />
        {stops.map(({ id, current }, i) => (
          <circle
            key={id}
            cx={xOf(i)}
            cy={yOf(i)}
            r={current ? 6 : 3.5}
            fill={current ? "var(--accent)" : "var(--sheet)"}
            stroke="var(--accent)"
            strokeWidth="2"
          />
        ))}
      </svg>
      <ul className="absolute inset-0 flex">
        {stops.map(({ id, name, href, current, note }) => (
          <li key={id} className="min-w-0 flex-1">
            <Link
              prefetch={false}
              href={href}
              aria-current={current ? "page" : undefined}
              title={name}
              className={`flex h-full items-start justify-center gap-1 pt-[1px] text-[13px] leading-[17px] ${current ? "font-bold text-ink" : "text-ink-soft hover:text-ink"}`}
            >
              <span className="truncate">{name}</span>
              {note}
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
