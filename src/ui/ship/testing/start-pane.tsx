"use client";
import Link from "next/link";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { ItemCase, ItemTests, QueueRow } from "@/core/ship/testing/testing-view";
import { Button, TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { usePanel } from "@/ui/kit/panel-context";
import { problemWords } from "@/ui/kit/request";
import { namedOptions, Select, wordOptions } from "@/ui/kit/select";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import { CaseCame, TakeAway } from "./case-came";
import { CaseChoice } from "./case-choice";
import { NewCase } from "./case-form";
import { useItemTests, type ItemTestsHandle } from "./use-item-tests";
import type { TestQueueHandle } from "./use-test-queue";

/** An item that nobody tests just now: its cases, what came of them, and what a run begins with. */
export function StartPane({
  itemKey,
  row,
  handle,
  onStarted,
}: {
  itemKey: string;
  row: QueueRow | null;
  handle: TestQueueHandle;
  onStarted: () => void;
}) {
  const tests = useItemTests(itemKey);
  if (tests.error) return <p className="p-4 text-ink-soft">There is no such item to be tested.</p>;
  if (!tests.tests)
    return (
      <p className="p-4 text-ink-soft" role="status">
        Looking how it is tested …
      </p>
    );
  return (
    <Start tests={tests.tests} itemTests={tests} row={row} handle={handle} onStarted={onStarted} />
  );
}

function Start({
  tests,
  itemTests,
  row,
  handle,
  onStarted,
}: {
  tests: ItemTests;
  itemTests: ItemTestsHandle;
  row: QueueRow | null;
  handle: TestQueueHandle;
  onStarted: () => void;
}) {
  const { item, cases, on, rights } = tests;
  const { openItem } = usePanel();
  const { project } = handle.view;
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = cases.filter(({ id }) => !left.has(id));
  return (
    <section aria-label={`Test ${item.key}`} className="test-pane">
      <header className="mb-3">
        <h2 className="text-[17px]">{item.title}</h2>
        <p className="text-[13px] text-ink-soft">
          <TextButton className="key" onClick={() => openItem(item.key)}>
            {item.key}
          </TextButton>{" "}
          · {item.stateName}
          {on?.address && (
            <>
              {" · "}
              <a className="link" href={on.address} target="_blank" rel="noreferrer">
                open it on {on.environment}
              </a>
            </>
          )}
        </p>
      </header>
      {cases.length === 0 ? (
        <p className="mb-2 font-semibold text-signal-ink">No case says how it is tested.</p>
      ) : (
        <ul className="case-lines">
          {cases.map((one) => (
            <CaseLine
              key={one.id}
              of={one}
              now={tests.now}
              ticked={!left.has(one.id)}
              onTick={(ticked) =>
                setLeft(
                  new Set(ticked ? [...left].filter((id) => id !== one.id) : [...left, one.id]),
                )
              }
              onTakeAway={rights.edit ? () => void itemTests.link(one, false) : undefined}
            />
          ))}
        </ul>
      )}
      {rights.edit && (
        <div className="mt-2 flex flex-wrap gap-4">
          <NewCase projectKey={project.key} tests={tests} onWritten={itemTests.readAgain} />
          <CaseChoice
            projectKey={project.key}
            taken={cases.map(({ id }) => id)}
            onChoose={(one) => void itemTests.link(one, true)}
          />
        </div>
      )}
      {tests.gaveUp !== null && (
        <p className="mt-2 text-[13px]">
          <Link className="link" href={`/p/${project.key}/ship/tests?run=${tests.gaveUp}`}>
            Run {tests.gaveUp}
          </Link>{" "}
          was given up; it can be gone on with.
        </p>
      )}
      {rights.edit && cases.length > 0 && (
        <Beginning tests={tests} row={row} handle={handle} chosen={chosen} onStarted={onStarted} />
      )}
    </section>
  );
}

/** With what a run begins: where, with which build, by whom. */
function Beginning({
  tests,
  row,
  handle,
  chosen,
  onStarted,
}: {
  tests: ItemTests;
  row: QueueRow | null;
  handle: TestQueueHandle;
  chosen: readonly ItemCase[];
  onStarted: () => void;
}) {
  const { item, on } = tests;
  const { me } = handle.view;
  const [environment, setEnvironment] = useState(on?.environment ?? tests.environments[0] ?? "");
  const [build, setBuild] = useState(on?.build ?? "");
  const [testerId, setTesterId] = useState(me);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const again = tests.runs.length > 0;
  const start = async () => {
    if (busy || chosen.length === 0) return;
    setBusy(true);
    const answer = await handle.start({
      ...{ id: newId(), itemKey: item.key, suiteId: null, testerId },
      ...{ caseIds: chosen.map(({ id }) => id), environment: environment || null },
      ...{ build: build || null, takeTo: row?.takesTo?.to ?? null },
    });
    setBusy(false);
    if (typeof answer === "number") return onStarted();
    setProblem(problemWords(answer));
  };
  useScreenKeys(
    { t: () => void start() },
    { part: "tests", words: { t: again ? "Test it again" : "Begin the test" } },
  );
  const testers = tests.testers.some(({ id }) => id === me)
    ? tests.testers
    : [{ id: me, name: "you" }, ...tests.testers];
  return (
    <div className="start-run">
      <Field label="Environment">
        <Select
          label="Environment"
          value={environment}
          options={[{ value: "", label: "not said" }, ...wordOptions(tests.environments)]}
          onChange={setEnvironment}
        />
      </Field>
      <Field label="Build">
        <Select
          label="Build"
          value={build}
          options={[
            { value: "", label: "not said" },
            ...tests.builds.map((one) => ({
              value: one.build,
              label: one.environment ? `${one.build}, on ${one.environment}` : one.build,
            })),
          ]}
          onChange={setBuild}
        />
      </Field>
      <Field label="Who tests">
        <Select
          label="Who tests"
          value={testerId}
          options={namedOptions(testers)}
          onChange={setTesterId}
        />
      </Field>
      <Button
        look="accent"
        disabled={busy || chosen.length === 0}
        aria-busy={busy || undefined}
        onClick={() => void start()}
      >
        {again ? "Test it again" : "Begin the test"} <kbd>t</kbd>
      </Button>
      {row?.takesTo && (
        <p className="text-[12.5px] text-ink-soft">It comes to {row.takesTo.toName} by that.</p>
      )}
      <FormProblem>{problem}</FormProblem>
    </div>
  );
}

/** A case with what came of it last; it is left out of the run where it is not ticked. */
function CaseLine({
  of,
  now,
  ticked,
  onTick,
  onTakeAway,
}: {
  of: ItemCase;
  now: number;
  ticked: boolean;
  onTick: (ticked: boolean) => void;
  onTakeAway?: () => void;
}) {
  const { key, title, steps } = of;
  return (
    <li>
      <Check checked={ticked} onChange={onTick}>
        <span className="min-w-0">
          <span className="key">{key}</span> <b>{title}</b>
          <span className="block text-[12.5px] text-ink-soft">
            {steps === 1 ? "1 step" : `${steps} steps`} · <CaseCame of={of} now={now} />
          </span>
        </span>
      </Check>
      <TakeAway caseKey={key} onTakeAway={onTakeAway} />
    </li>
  );
}
