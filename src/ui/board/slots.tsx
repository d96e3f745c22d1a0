import { limitState, limitWords, slots, type ColumnLimit } from "@/core/board/limit";
import { limitTone } from "./limit-tone";
import type { ColumnPart } from "@/core/board/column";

/**
 * A limit drawn as places: filled, free, and beyond the bracket; words beside it carry the meaning.
 */
export function Slots({
  count,
  limit,
  part,
  ready = 0,
}: {
  count: number;
  /** How many are ready for their next step. */
  ready?: number;
  limit: ColumnLimit;
  part: ColumnPart;
}) {
  const state = limitState(count, limit);
  if (state.kind === "none")
    return <span className="text-[12.5px] font-semibold text-ink-soft">{count}</span>;
  const { filled, low, empty, beyond, asBar } = slots(count, limit, ready);
  const words = limitWords(state, limit);
  const firm = (limit.maxFirm && limit.max !== null) || (limit.minFirm && limit.min !== null);
  const title = [
    limit.min !== null && `minimum ${limit.min}, ${limit.minFirm ? "firm" : "advice"}`,
    limit.max !== null && `maximum ${limit.max}, ${limit.maxFirm ? "firm" : "advice"}`,
  ]
    .filter(Boolean)
    .join("; ");
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap" title={title}>
      {asBar ? (
        <span className="h-2 w-16 border border-rest" aria-hidden="true">
          <span
            className="block h-full bg-rest"
            style={{ width: `${Math.min(100, (count / (limit.max ?? count)) * 100)}%` }}
          />
        </span>
      ) : (
        <span className="slots" data-part={part} aria-hidden="true">
          <span className="slots-bracket" data-closed={beyond > 0}>
            {Array.from({ length: filled }, (_, i) => (
              <i key={`f${i}`} className="slot" data-full="true" data-low={i >= filled - low} />
            ))}
            {Array.from({ length: empty }, (_, i) => (
              <i key={`e${i}`} className="slot" />
            ))}
          </span>
          {Array.from({ length: beyond }, (_, i) => (
            <i key={`b${i}`} className="slot" data-beyond="true" />
          ))}
        </span>
      )}
      <span className={`text-[12.5px] font-semibold ${limitTone(state)}`}>
        {words}
        {firm && <span className="sr-only">, firm limit</span>}
      </span>
    </span>
  );
}
