import type { CaseRow } from "@/core/ship/testing/testing-view";
import { VERDICT_WORDS, type Verdict } from "@/core/ship/testing/verdict";
import { ago } from "@/ui/kit/time";

/** Cases with what came of them last; each opens beside the list. */
export const CaseList = ({
  cases,
  now,
  open,
  onOpen,
}: {
  cases: readonly CaseRow[];
  now: number;
  open: number | null;
  onOpen: (number: number) => void;
}) => (
  <ul className="case-rows">
    {cases.map(({ id, key, number, title, part, steps, items, last, history, ...one }) => (
      <li
        key={id}
        data-open={open === number || undefined}
        data-away={one.putAwayAt !== null || undefined}
      >
        <button type="button" onClick={() => onOpen(number)}>
          <span className="key">{key}</span>
          <span className="min-w-0">
            <span className="block truncate font-semibold">{title}</span>
            <span className="block truncate text-[12.5px] text-ink-soft">
              {part ?? "no part"} · {steps === 1 ? "1 step" : `${steps} steps`} ·{" "}
              {items.length === 0
                ? "tests no item"
                : `tests ${items.length === 1 ? items[0].key : `${items.length} items`}`}
              {one.machines > 0 && " · by machine"}
              {one.unsteady && <b className="text-signal-ink">, unsteady</b>}
            </span>
          </span>
          <Times history={history} />
          <span className="text-right text-[12.5px] text-ink-soft">
            {one.putAwayAt !== null ? (
              "put away"
            ) : last ? (
              <>
                <b className={last.verdict === "failed" ? "text-alarm" : "text-done"}>
                  {last.verdict === null ? "not to its end" : VERDICT_WORDS[last.verdict]}
                </b>{" "}
                {ago(last.at, now)}
              </>
            ) : (
              "never tried"
            )}
          </span>
        </button>
      </li>
    ))}
  </ul>
);

/** The last times as a row of strokes: up where it passed, down where it failed. */
function Times({ history }: { history: readonly (Verdict | null)[] }) {
  const words = history.map((one) => (one === null ? "not to its end" : VERDICT_WORDS[one]));
  return (
    <span
      className="case-times"
      role="img"
      aria-label={words.length === 0 ? "never tried" : `the last times: ${words.join(", ")}`}
    >
      {history.map((one, i) => (
        <i key={i} data-result={one ?? undefined} />
      ))}
    </span>
  );
}
