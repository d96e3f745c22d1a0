"use client";
import type { QueueRow, RunNamed, TestQueue } from "@/core/ship/testing/testing-view";
import { TESTED_WORDS } from "@/core/ship/testing/case-standing";
import { span } from "@/ui/kit/time";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import type { Chosen } from "./chosen";

/** What waits to be tested, and what is being tested: what somebody is at comes first. */
export function QueueList({
  view,
  chosen,
  onChoose,
}: {
  view: TestQueue;
  chosen: Chosen | null;
  onChoose: (chosen: Chosen) => void;
}) {
  return (
    <ul className="test-queue" aria-label="What waits to be tested">
      {view.runs.map((run) => (
        <li key={`run ${run.number}`}>
          <button
            type="button"
            aria-pressed={chosen?.run === run.number}
            onClick={() => onChoose({ run: run.number })}
          >
            <span className="flex items-baseline gap-2">
              <span className="key">run {run.number}</span>
              <span className="ml-auto text-[12px] text-ink-soft">{tried(run)}</span>
            </span>
            <span className="font-semibold">{run.title}</span>
            <span className="text-[12.5px] text-ink-soft">{run.tester.name} is at it</span>
          </button>
        </li>
      ))}
      {view.rows.map((row) => (
        <li key={row.id}>
          <button
            type="button"
            aria-pressed={chosen?.item === row.key}
            onClick={() => onChoose({ item: row.key })}
          >
            <span className="flex items-center gap-1.5">
              <TypeGlyph typeId={row.typeId} />
              <span className="key">{row.key}</span>
              <span className="ml-auto text-[12px] text-ink-soft tabular-nums">
                {row.begun ? "in test" : `waits ${span(view.now - row.since)}`}
              </span>
            </span>
            <span className="font-semibold">{row.title}</span>
            <WhereAndHow row={row} now={view.now} />
          </button>
        </li>
      ))}
    </ul>
  );
}

const tried = ({ tried: done, of }: RunNamed): string => `${done} of ${of} steps`;

/** Where it can be tried, and what is known of it. */
function WhereAndHow({ row, now }: { row: QueueRow; now: number }) {
  const { on, mergedAt, running, last, tested, hasHowToTest } = row;
  return (
    <span className="text-[12.5px] text-ink-soft">
      {on ? (
        <>
          on <b className="text-ink">{on.environment}</b>
          {on.build && `, build ${on.build}`}
        </>
      ) : mergedAt === null ? (
        "nothing is merged for it"
      ) : (
        <>
          <b className="text-signal-ink">not deployed yet</b>, merged {span(now - mergedAt)} ago
        </>
      )}
      {" · "}
      {running ? (
        <b className="text-ink">
          {running.tester.name.split(" ")[0]} is at it, {tried(running)}
        </b>
      ) : last?.verdict === "failed" ? (
        <b className="text-alarm">failed {last.failed} last time</b>
      ) : (
        <span className={tested === "no case" ? "font-semibold text-signal-ink" : undefined}>
          {TESTED_WORDS[tested]}
        </span>
      )}
      {!hasHowToTest && <b className="text-signal-ink"> · nobody said how</b>}
    </span>
  );
}
