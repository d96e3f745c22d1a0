"use client";
import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { itemContract } from "@/core/item/contract";
import { shortHash } from "@/core/ship/short-hash";
import type { ItemTests } from "@/core/ship/testing/testing-view";
import { ZigzagFigure } from "@/ui/item/zigzag-figure";
import { queryOf } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { useItemTests } from "./use-item-tests";
import { useRun } from "./use-run";

/** What a tester wants beside the steps: how to test it, what changed, what machines say, its life. */
export function RunAside({
  itemKey,
  run,
  projectKey,
}: {
  itemKey: string | null;
  run: number | null;
  projectKey: string;
}) {
  const key = itemKey;
  return (
    <aside aria-label="Beside the test" className="test-aside">
      {key !== null ? (
        <OfItem itemKey={key} />
      ) : (
        run !== null && <OfRun projectKey={projectKey} run={run} />
      )}
    </aside>
  );
}

/** A run that was opened by itself leads to its item. */
function OfRun({ projectKey, run }: { projectKey: string; run: number }) {
  const { view } = useRun(projectKey, run);
  return view?.item ? <OfItem itemKey={view.item.key} /> : null;
}

function OfItem({ itemKey }: { itemKey: string }) {
  const { tests } = useItemTests(itemKey);
  if (!tests) return null;
  const { howToTest, changedSince, firstFailed } = tests;
  return (
    <>
      <Part title="How to test">
        {howToTest ? (
          <p className="whitespace-pre-wrap">{howToTest}</p>
        ) : (
          <p className="text-signal-ink">Nobody has said how.</p>
        )}
      </Part>
      {tests.runs.some(({ endedAt }) => endedAt !== null) && (
        <Part title="What changed since last time">
          {changedSince.length === 0 ? (
            <p className="text-ink-soft">Nothing of it was merged since.</p>
          ) : (
            <ul className="flex flex-col gap-1">
              {changedSince.map(({ hash, message, author, url, at }) => (
                <li key={hash}>
                  {url ? (
                    <a className="key link" href={url} target="_blank" rel="noreferrer">
                      {shortHash(hash)}
                    </a>
                  ) : (
                    <span className="key">{shortHash(hash)}</span>
                  )}{" "}
                  {message}
                  <span className="block text-[12.5px] text-ink-soft">
                    {author}, {ago(at, tests.now)}
                  </span>
                </li>
              ))}
            </ul>
          )}
        </Part>
      )}
      <ByMachine tests={tests} />
      {firstFailed.length > 0 && (
        <Part title="Seen to fail first">
          {firstFailed.map(({ caseId, failedAt, passedAt }) => (
            <p key={caseId}>
              failed {ago(failedAt, tests.now)} on its own branch
              {passedAt !== null && `, passes since ${ago(passedAt, tests.now)}`}
            </p>
          ))}
        </Part>
      )}
      <Life itemKey={itemKey} />
    </>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <section aria-label={title}>
    <h3 className="mb-1 text-[13px]">{title}</h3>
    {children}
  </section>
);

function ByMachine({ tests }: { tests: ItemTests }) {
  const machines = tests.cases.flatMap((one) => one.machines);
  if (machines.length === 0) return null;
  return (
    <Part title="By machine">
      <ul className="flex flex-col gap-1">
        {machines.map(({ testId, name, last, changedMind }) => (
          <li key={testId}>
            “{name}”{" "}
            <b className={last?.result === "failed" ? "text-alarm" : "text-done"}>
              {last?.result ?? "no result yet"}
            </b>
            {last && <span className="text-ink-soft"> {ago(last.at, tests.now)}</span>}
            {changedMind > 0 && (
              <span className="block text-[12.5px] text-signal-ink">
                unsteady: it changed its mind {changedMind === 1 ? "once" : `${changedMind} times`}{" "}
                on the same commit
              </span>
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}

/** Where it has been, as its own zigzag. */
function Life({ itemKey }: { itemKey: string }) {
  const { data } = useQuery(queryOf(itemContract.read, { params: { key: itemKey } }));
  if (!data) return null;
  return (
    <Part title="Its life so far">
      <ZigzagFigure
        zigzag={data.zigzag}
        arrivals={data.arrivals}
        stateNames={data.stateNames}
        zone={data.project.zone}
        width={262}
      />
    </Part>
  );
}
