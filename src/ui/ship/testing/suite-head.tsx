"use client";
import { useState } from "react";
import type { CaseRow } from "@/core/ship/testing/testing-view";
import { Button, TextButton } from "@/ui/kit/button";
import { TextInput } from "@/ui/kit/field";
import { FormProblem } from "@/ui/kit/note";
import { problemWords, type Problem } from "@/ui/kit/request";

type Suite = { id: string; name: string };

/** A suite with what can be done with it; or what makes another one. */
export function SuiteHead({
  suite,
  cases,
  mayEdit,
  adds = false,
  onRun,
  onSave,
}: {
  suite: Suite | null;
  cases: readonly CaseRow[];
  mayEdit: boolean;
  /** Whether it stands for one that is not there yet. */
  adds?: boolean;
  onRun?: (suite: Suite) => void;
  onSave: (suite: { id?: string; name: string }, away?: boolean) => Promise<Problem | null>;
}) {
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const begin = () => setName(suite?.name ?? "");
  const save = async () => {
    const wrong = await onSave({ id: suite?.id, name: name ?? "" });
    setProblem(wrong && problemWords(wrong));
    if (wrong === null) setName(null);
  };
  if (name !== null)
    return (
      <form
        className="mb-1 flex items-center gap-2"
        aria-label={suite ? "Call the suite something else" : "A new suite"}
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <TextInput
          aria-label="Name of the suite"
          autoFocus
          value={name}
          maxLength={200}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => event.key === "Escape" && setName(null)}
        />
        <Button small type="submit">
          Keep it
        </Button>
        <FormProblem>{problem}</FormProblem>
      </form>
    );
  if (adds) return <TextButton onClick={begin}>Make a suite</TextButton>;
  const runnable = cases.filter(({ putAwayAt }) => putAwayAt === null);
  return (
    <div className="mt-3 mb-1 flex items-baseline gap-3">
      <h2 className="text-[15px]">{suite?.name ?? "In no suite"}</h2>
      <span className="font-display text-ink-soft tabular-nums">{runnable.length}</span>
      {suite && mayEdit && (
        <>
          {runnable.length > 0 && (
            <Button small onClick={() => onRun?.(suite)}>
              Run all of it
            </Button>
          )}
          <TextButton className="text-[12.5px]" onClick={begin}>
            Rename
          </TextButton>
          <TextButton className="text-[12.5px]" onClick={() => void onSave(suite, true)}>
            Put away
          </TextButton>
        </>
      )}
    </div>
  );
}
