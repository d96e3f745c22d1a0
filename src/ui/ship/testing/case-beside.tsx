"use client";
import { useQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import Link from "next/link";
import { v7 as newId } from "uuid";
import { testingContract } from "@/core/ship/testing/contract";
import type { CaseView } from "@/core/ship/testing/testing-view";
import { VERDICT_WORDS } from "@/core/ship/testing/verdict";
import { Button, TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { queryOf } from "@/ui/kit/request";
import { exact } from "@/ui/kit/time";
import { useReadAgain } from "@/ui/kit/use-read-again";
import type { CaseWritten } from "./use-cases";

/** A case beside the list: its steps, what it tests, what came of it, and how it came to say that. */
export function CaseBeside({
  projectKey,
  number,
  zone,
  mayEdit,
  onWrite,
  onPutAway,
  onClose,
}: {
  projectKey: string;
  number: number;
  zone: string;
  mayEdit: boolean;
  onWrite: (draft: CaseWritten) => void;
  onPutAway: (number: number, away: boolean) => Promise<void>;
  onClose: () => void;
}) {
  const { data, error, refetch } = useQuery(
    queryOf(testingContract.case, { params: { key: projectKey, number: String(number) } }),
  );
  useReadAgain(({ kind }) => ["tests", "resync"].includes(kind), refetch);
  const close = (
    <Button look="quiet" small aria-label="Close" onClick={onClose}>
      <X size={14} aria-hidden="true" />
    </Button>
  );
  if (!data)
    return (
      <aside aria-label="Test case" className="case-beside">
        {close}
        <p className="text-ink-soft" role="status">
          {error ? "There is no such case." : "Looking what it says …"}
        </p>
      </aside>
    );
  const { id, title, before, steps, part, suiteId, version } = data;
  const text = { title, before, part, suiteId };
  return (
    <aside aria-label={data.key} className="case-beside">
      <div className="flex items-start gap-2">
        <h2 className="min-w-0 flex-1 text-[16px]">
          <span className="key">{data.key}</span> {title}
        </h2>
        {close}
      </div>
      {mayEdit && (
        <div className="flex flex-wrap gap-3 text-[13px]">
          <Button small onClick={() => onWrite({ ...text, id, steps, seenVersion: version })}>
            Write it anew
          </Button>
          <TextButton
            onClick={() =>
              onWrite({
                ...{ ...text, id: newId(), seenVersion: null, title: `${title}, again` },
                steps: steps.map((step) => ({ ...step, id: newId() })),
              })
            }
          >
            Copy it
          </TextButton>
          <TextButton onClick={() => void onPutAway(number, data.putAwayAt === null)}>
            {data.putAwayAt === null ? "Put it away" : "Bring it back"}
          </TextButton>
        </div>
      )}
      {before && <p className="text-[13px] text-ink-soft">before: {before}</p>}
      <ol className="case-steps">
        {steps.map((step) => (
          <li key={step.id}>
            {step.action || step.expected}
            {step.action && step.expected && (
              <span className="block text-[12.5px] text-ink-soft">{step.expected}</span>
            )}
          </li>
        ))}
      </ol>
      <Came of={data} projectKey={projectKey} zone={zone} />
    </aside>
  );
}

function Came({ of, projectKey, zone }: { of: CaseView; projectKey: string; zone: string }) {
  const { openItem } = usePanel();
  return (
    <>
      {of.items.length > 0 && (
        <section aria-label="What it tests">
          <h3 className="mb-1 text-[13px]">Tests</h3>
          <ul className="flex flex-col gap-1 text-[13px]">
            {of.items.slice(0, 12).map(({ id, key, title }) => (
              <li key={id} className="flex min-w-0 gap-2">
                <TextButton className="key min-h-6 shrink-0" onClick={() => openItem(key)}>
                  {key}
                </TextButton>
                <span className="truncate">{title}</span>
              </li>
            ))}
          </ul>
          {of.items.length > 12 && (
            <p className="text-[12.5px] text-ink-soft">and {of.items.length - 12} more</p>
          )}
        </section>
      )}
      <section aria-label="Runs">
        <h3 className="mb-1 text-[13px]">Runs</h3>
        {of.runs.length === 0 && <p className="text-[13px] text-ink-soft">Never tried.</p>}
        <ul className="flex flex-col gap-1 text-[13px]">
          {of.runs.slice(0, 12).map(({ number, at, by, build, verdict }) => (
            <li key={number}>
              <Link className="link" href={`/p/${projectKey}/ship/tests?run=${number}`}>
                run {number}
              </Link>{" "}
              <b className={verdict === "failed" ? "text-alarm" : "text-done"}>
                {verdict === null ? "not to its end" : VERDICT_WORDS[verdict]}
              </b>{" "}
              <span className="text-ink-soft">
                {exact(at, zone)}, {by}
                {build && `, build ${build}`}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Versions">
        <h3 className="mb-1 text-[13px]">How it came to say that</h3>
        <ul className="flex flex-col gap-1 text-[13px]">
          {of.versions.map(({ version, at, by, change }) => (
            <li key={version}>
              <b>{version}</b> {by} {change}
              <span className="text-ink-soft">, {exact(at, zone)}</span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}
