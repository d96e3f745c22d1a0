import { exact } from "@/ui/kit/time";

/** That an item came to an environment. */
export interface Arrival {
  at: number;
  environment: string;
}

/** A stretch of the line as it is drawn. */
interface Drawn {
  from: number;
  to: number;
  x1: number;
  x2: number;
}

interface Mark {
  x: number;
  names: string[];
}

/** Arrivals at less than so many pixels from each other are one mark. */
const TOGETHER = 8;

/** Marks above an item's line: when it came to which environment. */
export function Arrivals({
  arrivals,
  drawn,
  zone,
}: {
  arrivals: readonly Arrival[];
  drawn: readonly Drawn[];
  zone: string;
}) {
  return marksOf(arrivals, drawn, zone).map(({ x, names }) => (
    <path key={x} d={`M${x - 4} 1 h8 l-4 6 z`} fill="var(--done)">
      <title>{names.join("\n")}</title>
    </path>
  ));
}

/** Where arrivals stand above the line, as far as it is drawn. */
function marksOf(arrivals: readonly Arrival[], drawn: readonly Drawn[], zone: string): Mark[] {
  const marks: Mark[] = [];
  for (const { at, environment } of arrivals) {
    const s = drawn.find(({ from, to }) => from <= at && at <= to);
    if (!s) continue;
    const x = s.x1 + ((at - s.from) / Math.max(1, s.to - s.from)) * (s.x2 - s.x1);
    const name = `on ${environment} since ${exact(at, zone)}`;
    const near = marks.find((mark) => Math.abs(mark.x - x) < TOGETHER);
    if (near) near.names.push(name);
    else marks.push({ x, names: [name] });
  }
  return marks;
}
