"use client";
import Link from "next/link";
import { useState } from "react";
import type { ReleasePage, TestedRow } from "@/core/ship/release/release-page";
import { TESTED, type Tested } from "@/core/ship/testing/case-standing";
import { TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { CaseCame } from "../testing/case-came";
import { ItemOfRelease } from "./item-of-release";
import { KindFigures } from "./kind-figures";

/** So many stand there before the others are asked for. */
const SHOWN = 8;

/** By what its items are tested, with which result; a press on a figure shows those alone. */
export function TestedList({ view }: { view: ReleasePage }) {
  const { tests, untested, project, now } = view;
  const { openBehind } = usePanel();
  const [only, setOnly] = useState<Tested | null>(null);
  const [all, setAll] = useState(false);
  if (tests.length + untested.length === 0) return null;
  const counted = TESTED.flatMap((kind) => {
    const n = tests.filter(({ tested }) => tested === kind).length;
    return n > 0 ? [{ kind, n }] : [];
  });
  const rows = only === null ? tests : tests.filter(({ tested }) => tested === only);
  const shown = all ? rows : rows.slice(0, SHOWN);
  return (
    <section aria-label="What is tested" className="mb-5">
      <div className="mb-1 flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-[15px]">
          What is tested <span className="font-display tabular-nums">{tests.length}</span>
        </h2>
        <KindFigures figures={counted} words={WORDS} only={only} onOnly={setOnly}>
          {untested.length > 0 && (
            <TextButton
              onClick={() => openBehind({ title: "Without a test", ids: [...untested], unseen: 0 })}
            >
              {untested.length} {WORDS["no case"]}
            </TextButton>
          )}
        </KindFigures>
      </div>
      {tests.length === 0 && (
        <p className="text-ink-soft">No case says how anything in it is tested.</p>
      )}
      <ul className="tested-rows">
        {shown.map((row) => (
          <TestedLine key={row.id} row={row} projectKey={project.key} now={now} />
        ))}
      </ul>
      {rows.length > shown.length && (
        <TextButton className="mt-1 text-[13px]" onClick={() => setAll(true)}>
          {rows.length - shown.length} more
        </TextButton>
      )}
    </section>
  );
}

const WORDS: Record<Tested, string> = {
  "no case": "without a test",
  failed: "failed",
  blocked: "could not be tested",
  "not tried": "not tested yet",
  stale: "changed since tested",
  passed: "passed",
};

function TestedLine({ row, projectKey, now }: { row: TestedRow; projectKey: string; now: number }) {
  return (
    <li data-key={row.key}>
      <ItemOfRelease row={row} />
      <ul className="min-w-0 text-[12.5px]">
        {row.cases.map((one) => (
          <li key={one.id} className="flex items-baseline gap-1.5">
            <Link
              className="key link flex min-h-6 shrink-0 items-center"
              href={`/p/${projectKey}/ship/tests/cases?case=${one.number}`}
              title={one.title}
            >
              {one.key}
            </Link>
            <span className="min-w-0">
              <CaseCame of={one} now={now} />
            </span>
          </li>
        ))}
      </ul>
    </li>
  );
}
