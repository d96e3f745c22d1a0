"use client";
import Link from "next/link";
import { TESTED_WORDS } from "@/core/ship/testing/case-standing";
import type { FoundBy, ItemCase } from "@/core/ship/testing/testing-view";
import { VERDICT_WORDS } from "@/core/ship/testing/verdict";
import type { ItemHandle } from "@/ui/item/use-item";
import { CaseCame, TakeAway } from "./case-came";
import { CaseChoice } from "./case-choice";
import { NewCase } from "./case-form";
import { useItemTests } from "./use-item-tests";

/** How an item is tested: its cases with what came of them, and the runs. */
export function ItemTestsSection({ handle }: { handle: ItemHandle }) {
  const { key, project, rights, withdrawn } = handle.view;
  const { tests, link, readAgain } = useItemTests(key);
  const mayEdit = rights.edit && withdrawn === null;
  if (!tests || (tests.cases.length === 0 && !tests.foundBy && !mayEdit)) return null;
  const place = `/p/${project.key}/ship/tests`;
  const [latest] = tests.runs;
  return (
    <section aria-label="Tests">
      <h3 className="mb-1 flex items-baseline gap-2 text-[13px]">
        Tests
        {tests.cases.length > 0 && (
          <span
            className={`font-normal ${tests.tested === "failed" ? "text-alarm" : "text-ink-soft"}`}
          >
            {TESTED_WORDS[tests.tested]}
          </span>
        )}
      </h3>
      {tests.foundBy && <Found by={tests.foundBy} place={place} />}
      <ul className="flex flex-col gap-1.5">
        {tests.cases.map((one) => (
          <CaseOfItem
            key={one.id}
            of={one}
            now={tests.now}
            href={`${place}/cases?case=${one.number}`}
            onTakeAway={mayEdit ? () => void link(one, false) : undefined}
          />
        ))}
      </ul>
      {tests.cases.length > 0 && (
        <p className="mt-1 text-[13px]">
          <Link className="link" href={`${place}?test=${key}`}>
            {tests.runs.length > 0 ? "Test it again" : "Test it"}
          </Link>
          {latest && (
            <span className="text-ink-soft">
              {" · "}
              <Link className="link" href={`${place}?run=${latest.number}`}>
                run {latest.number}
              </Link>{" "}
              {latest.endedAt === null
                ? `is under way, ${latest.tried} of ${latest.of} steps`
                : (latest.verdict && VERDICT_WORDS[latest.verdict]) || "ended"}
              {tests.runs.length > 1 && `, ${tests.runs.length} in all`}
            </span>
          )}
        </p>
      )}
      {mayEdit && (
        <div className="mt-1 flex flex-wrap gap-x-4">
          <NewCase projectKey={project.key} tests={tests} onWritten={readAgain} />
          <CaseChoice
            projectKey={project.key}
            taken={tests.cases.map(({ id }) => id)}
            onChoose={(one) => void link(one, true)}
          />
        </div>
      )}
    </section>
  );
}

function CaseOfItem({
  of,
  now,
  href,
  onTakeAway,
}: {
  of: ItemCase;
  now: number;
  href: string;
  onTakeAway?: () => void;
}) {
  const { key, title } = of;
  return (
    <li className="flex items-start gap-2">
      <span className="min-w-0 flex-1">
        <Link className="key link" href={href}>
          {key}
        </Link>{" "}
        {title}
        <span className="block text-[12.5px] text-ink-soft">
          <CaseCame of={of} now={now} />
        </span>
      </span>
      <TakeAway caseKey={key} onTakeAway={onTakeAway} />
    </li>
  );
}

/** Where it was found: the case that failed, with what was expected. */
const Found = ({ by, place }: { by: FoundBy; place: string }) => (
  <p className="mb-1.5 text-[13px]">
    Found by step {by.step} of{" "}
    <Link className="key link" href={`${place}/cases?case=${by.caseNumber}`}>
      {by.caseKey}
    </Link>{" "}
    in{" "}
    <Link className="link" href={`${place}?run=${by.run}`}>
      run {by.run}
    </Link>
    {by.expected && <span className="text-ink-soft">, where it should be: {by.expected}</span>}
  </p>
);
