"use client";
import Link from "next/link";
import { useRouter, useSearchParams } from "next/navigation";
import type { TestQueue } from "@/core/ship/testing/testing-view";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import type { Chosen } from "./chosen";
import { QueueList } from "./queue-list";
import { RunAside } from "./run-aside";
import { RunPane } from "./run-pane";
import { StartPane } from "./start-pane";
import { useTestQueue } from "./use-test-queue";

/** The tester's queue, with what is being tested beside it. */
export function TestsScreen({ initial }: { initial: TestQueue }) {
  const handle = useTestQueue(initial);
  const { view } = handle;
  const { key } = view.project;
  const [chosen, choose] = useChosen();
  const asked = chosen ?? firstOf(view);
  const row = view.rows.find((one) => one.key === asked?.item);
  const run = asked?.run ?? row?.running?.number ?? null;
  const itemKey = row?.key ?? asked?.item ?? null;
  const step = (by: number) => () => {
    const at = view.rows.findIndex((one) => one.key === itemKey);
    const next = view.rows[at + by];
    if (next) choose({ item: next.key });
  };
  useScreenKeys(
    { "]": step(1), "[": step(-1) },
    {
      part: "tests",
      words: { "]": "The next item to be tested", "[": "The item before it" },
    },
  );
  const waiting = view.rows.length;
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-baseline gap-x-4 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Tests</h1>
        <p className="text-ink-soft">
          {waiting === 0
            ? "nothing waits to be tested"
            : `${waiting} to be tested, ${view.rows.filter(({ begun }) => begun).length} of them in test`}
        </p>
        <Link className="link ml-auto" href={`/p/${key}/ship/tests/cases`}>
          All cases
        </Link>
      </div>
      <div className="tests-screen">
        <QueueList view={view} chosen={asked} onChoose={choose} />
        <main className="min-h-0 overflow-y-auto">
          {run !== null ? (
            <RunPane key={run} projectKey={key} number={run} onRun={(n) => choose({ run: n })} />
          ) : itemKey !== null ? (
            <StartPane
              key={itemKey}
              itemKey={itemKey}
              row={row ?? null}
              handle={handle}
              onStarted={() => choose({ item: itemKey })}
            />
          ) : (
            <p className="p-4 text-ink-soft">
              What is handed to test stands here, with how it can be tested and what came of it
              last.
            </p>
          )}
        </main>
        <RunAside itemKey={itemKey} run={run} projectKey={key} />
      </div>
    </div>
  );
}

/** What somebody is at themselves, else what waits longest. */
function firstOf({ rows, runs, me }: TestQueue): Chosen | null {
  const own = rows.find(({ running }) => running?.tester.id === me);
  if (own) return { item: own.key };
  const [row] = rows;
  if (row) return { item: row.key };
  return runs.length > 0 ? { run: runs[0].number } : null;
}

/** What is looked at stands in the address, so that it can be shared and gone back to. */
function useChosen(): [Chosen | null, (chosen: Chosen) => void] {
  const search = useSearchParams();
  const router = useRouter();
  const [item, run] = [search.get("test"), search.get("run")];
  const chosen = run && /^\d+$/.test(run) ? { run: Number(run) } : item ? { item } : null;
  const choose = ({ item: key, run: number }: Chosen) => {
    const next = new URLSearchParams(window.location.search);
    next.delete("test");
    next.delete("run");
    if (key) next.set("test", key);
    if (number !== undefined) next.set("run", String(number));
    router.replace(`?${next}`, { scroll: false });
  };
  return [chosen, choose];
}
