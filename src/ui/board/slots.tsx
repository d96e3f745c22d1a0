import type { CountedLimit } from "@/core/board/board-limits";
import { limitState, limitWords, NO_LIMIT, slots } from "@/core/board/limit";
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
  outside = 0,
  title,
}: {
  count: number;
  limit: CountedLimit | null;
  part: ColumnPart;
  /** How many are ready for their next step. */
  ready?: number;
  /** Expedite items that go past the limit. */
  outside?: number;
  title?: string;
}) {
  const bounds = limit ?? NO_LIMIT;
  const state = limitState(count, bounds);
  if (state.kind === "none")
    return <span className="text-[12.5px] font-semibold text-ink-soft">{count}</span>;
  const bySize = limit?.unit === "size";
  const { filled, low, empty, beyond, asBar } = slots(count, bounds, ready);
  const words = limitWords(state, bounds);
  const firm = (bounds.maxFirm && bounds.max !== null) || (bounds.minFirm && bounds.min !== null);
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap" title={title}>
      {asBar || bySize ? (
        <span className="h-2 w-16 border border-rest" aria-hidden="true">
          <span
            className="block h-full bg-rest"
            style={{ width: `${Math.min(100, (count / (bounds.max ?? count)) * 100)}%` }}
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
          {Array.from({ length: outside }, (_, i) => (
            <i key={`x${i}`} className="slot" data-outside="true" />
          ))}
        </span>
      )}
      <span className={`text-[12.5px] font-semibold ${limitTone(state)}`}>
        {bySize && "size "}
        {words}
        {firm && <span className="sr-only">, firm limit</span>}
      </span>
    </span>
  );
}
