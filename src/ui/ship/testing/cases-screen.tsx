"use client";
import { useRouter, useSearchParams } from "next/navigation";
import { useState } from "react";
import { v7 as newId } from "uuid";
import type { CaseRow, CasesView } from "@/core/ship/testing/testing-view";
import { Button, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { CaseBeside } from "./case-beside";
import { CaseSheet, emptyCase } from "./case-form";
import { CaseList } from "./case-list";
import { MachineList } from "./machine-list";
import { SuiteHead } from "./suite-head";
import { useCases, type CaseWritten } from "./use-cases";
import { ask, problemOf } from "@/ui/kit/request";
import { testingContract } from "@/core/ship/testing/contract";

/** All that a project tests: its cases by suite, what came of them, and what machines try. */
export function CasesScreen({ initial }: { initial: CasesView }) {
  const handle = useCases(initial);
  const { view } = handle;
  const { key } = view.project;
  const router = useRouter();
  const search = useSearchParams();
  const open = Number(search.get("case")) || null;
  const [draft, setDraft] = useState<CaseWritten | null>(null);
  const [wanted, setWanted] = useState("");
  const [away, setAway] = useState(false);
  const show = (number: number | null) =>
    router.replace(number === null ? "?" : `?case=${number}`, { scroll: false });
  const run = async (suite: { id: string; name: string }, cases: readonly CaseRow[]) => {
    try {
      const { number } = await ask(testingContract.start, {
        params: { key },
        body: { id: newId(), suiteId: suite.id, caseIds: cases.map(({ id }) => id) },
      });
      router.push(`/p/${key}/ship/tests?run=${number}`);
    } catch (error) {
      tellProblem(problemOf(error));
    }
  };
  const fits = ({ key: own, title, part }: CaseRow) =>
    `${own} ${title} ${part ?? ""}`.toLowerCase().includes(wanted.trim().toLowerCase());
  const shown = view.cases.filter((one) => (one.putAwayAt === null || away) && fits(one));
  const groups = [
    ...view.suites.map((suite) => ({
      suite,
      cases: shown.filter(({ suiteId }) => suiteId === suite.id),
    })),
    {
      suite: null,
      cases: shown.filter(({ suiteId }) => !view.suites.some(({ id }) => id === suiteId)),
    },
  ].filter(({ suite, cases }) => cases.length > 0 || (suite !== null && wanted === ""));
  const { rights } = view;
  return (
    <div className="flex h-full flex-col">
      <CasesHead
        view={view}
        wanted={wanted}
        onWanted={setWanted}
        onWrite={() => setDraft(emptyCase())}
      />
      <div className="cases-screen" data-beside={open !== null || undefined}>
        <div className="min-h-0 overflow-y-auto px-4 py-3">
          {groups.map(({ suite, cases }) => (
            <section key={suite?.id ?? "none"} aria-label={suite?.name ?? "In no suite"}>
              <SuiteHead
                suite={suite}
                cases={cases}
                mayEdit={rights.edit}
                onRun={(chosen) => void run(chosen, cases)}
                onSave={handle.saveSuite}
              />
              <CaseList cases={cases} now={view.now} open={open} onOpen={show} />
            </section>
          ))}
          {view.cases.length === 0 && (
            <p className="text-ink-soft">
              Nothing is written down yet. A case says what is done and what is to be seen; on an
              item it is written from what that is accepted by.
            </p>
          )}
          {view.cases.length > 0 && shown.length === 0 && (
            <p className="text-ink-soft">No case fits that.</p>
          )}
          <p className="mt-4 flex gap-4 text-[13px]">
            {rights.edit && (
              <SuiteHead suite={null} cases={[]} mayEdit adds onSave={handle.saveSuite} />
            )}
            {(view.suitesAway.length > 0 ||
              view.cases.some(({ putAwayAt }) => putAwayAt !== null)) && (
              <TextButton onClick={() => setAway(!away)}>
                {away ? "Hide what was put away" : "Show what was put away"}
              </TextButton>
            )}
          </p>
          {away &&
            view.suitesAway.map((suite) => (
              <p key={suite.id} className="text-[13px] text-ink-soft">
                The suite {suite.name} is put away.{" "}
                {rights.edit && (
                  <TextButton onClick={() => void handle.saveSuite(suite)}>
                    Bring {suite.name} back
                  </TextButton>
                )}
              </p>
            ))}
          <MachineList machines={view.machines} now={view.now} />
        </div>
        {open !== null && (
          <CaseBeside
            key={open}
            projectKey={key}
            number={open}
            zone={view.project.zone}
            mayEdit={rights.edit}
            onWrite={setDraft}
            onPutAway={handle.putAway}
            onClose={() => show(null)}
          />
        )}
      </div>
      <CaseSheet
        projectKey={key}
        draft={draft}
        title={draft?.seenVersion ? "Write the case anew" : "A test case"}
        onWritten={() => undefined}
        onLeave={() => setDraft(null)}
      />
    </div>
  );
}

function CasesHead({
  view,
  wanted,
  onWanted,
  onWrite,
}: {
  view: CasesView;
  wanted: string;
  onWanted: (words: string) => void;
  onWrite: () => void;
}) {
  const { openBehind } = usePanel();
  const { untested, rights } = view;
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">Test cases</h1>
      <p className="text-[13px] text-ink-soft">
        {view.cases.filter(({ putAwayAt }) => putAwayAt === null).length} cases
        {untested.ids.length > 0 && (
          <>
            {" · "}
            <TextButton
              onClick={() =>
                openBehind({ title: "In progress without a test case", ids: untested.ids })
              }
            >
              {untested.ids.length} of {untested.of}
            </TextButton>{" "}
            in progress have none
          </>
        )}
      </p>
      <TextInput
        aria-label="Find a case"
        placeholder="Find a case"
        className="ml-auto w-48"
        value={wanted}
        onChange={(event) => onWanted(event.target.value)}
      />
      {rights.edit && (
        <Button small look="accent" onClick={onWrite}>
          Write a case
        </Button>
      )}
    </div>
  );
}
