import { counted } from "@/core/formats/counted";
import type { ReachLine } from "@/core/plan/reach-lines";

const HOW = { sure: "85 % sure by", even: "even chance by" } as const;

/** A line across the backlog: what stands above it will probably be finished by a date. */
export function ReachMark({ lines }: { lines: readonly ReachLine[] }) {
  if (lines.length === 0) return null;
  const [{ after, hidden }] = lines;
  const sure = lines.some(({ how }) => how === "sure");
  return (
    <li className="reach" data-how={sure ? "sure" : "even"} data-after={after}>
      <span className="reach-words">
        {lines.map(({ date, how }) => `${HOW[how]} ${date.words}`).join(" · ")}
      </span>
      <span className="reach-count">
        {counted(after, "item")}
        {hidden > 0 && ` (${hidden} hidden)`}
      </span>
    </li>
  );
}
