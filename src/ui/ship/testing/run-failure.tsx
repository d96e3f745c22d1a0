"use client";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { testingContract } from "@/core/ship/testing/contract";
import type { FailureCourse } from "@/core/ship/testing/step-result";
import type { RunCase, RunStep, RunView } from "@/core/ship/testing/testing-view";
import { Button } from "@/ui/kit/button";
import { Choice } from "@/ui/kit/check";
import { queryOf } from "@/ui/kit/request";
import { namedOptions, Select } from "@/ui/kit/select";
import { useScreenKeys } from "@/ui/kit/use-screen-keys";
import type { RunHandle } from "./use-run";

/** A step of a run with where it stands. */
export interface StepOf {
  of: RunCase;
  step: RunStep;
  handle: RunHandle;
  view: RunView;
}

/** Finished work stays finished: what is found in it is a bug of its own. */
export const courseAtFirst = ({ item }: RunCase): FailureCourse =>
  item === null || item.stateKind === "finished" ? "was there before" : "belongs to it";

/** What becomes of a step that failed, and whose it is. */
export function WhatComesOfIt({ of, step, handle, view }: StepOf) {
  const { item } = of;
  const built = item !== null && item.stateKind !== "finished";
  const course = step.course ?? courseAtFirst(of);
  const say = (more: { course?: FailureCourse; givenTo?: string | null }) =>
    void handle.say({
      ...{ caseId: of.caseId, stepId: step.id, result: "failed", note: step.note },
      ...{ course, givenTo: step.givenTo?.id ?? null, ...more },
    });
  const name = `course ${of.caseId} ${step.id}`;
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" });
  }, []);
  return (
    <div className="run-failure" ref={box}>
      <p className="font-semibold">What comes of it</p>
      {built && (
        <Choice
          name={name}
          checked={course === "belongs to it"}
          onChange={() => say({ course: "belongs to it" })}
        >
          <span>
            <b>It belongs to this item:</b> a task under {item.key}
          </span>
        </Choice>
      )}
      <Choice
        name={name}
        checked={course === "was there before"}
        onChange={() => say({ course: "was there before" })}
      >
        <span>
          <b>It was there before:</b> a bug of its own{item && `, linked to ${item.key}`}
        </span>
      </Choice>
      <Choice
        name={name}
        checked={course === "mend now"}
        onChange={() => say({ course: "mend now" })}
      >
        <span>
          <b>It must be mended now:</b> expedite, begun at once
        </span>
      </Choice>
      <Whose {...{ of, step, view }} onGive={(personId) => say({ givenTo: personId })} />
    </div>
  );
}

/** Whose it may be, with what speaks for that: one key gives it to them. */
function Whose({
  of,
  step,
  view,
  onGive,
}: Omit<StepOf, "handle"> & { onGive: (personId: string | null) => void }) {
  const { data } = useQuery(
    queryOf(testingContract.whose, {
      params: { key: view.project.key, number: String(view.number) },
      query: { caseId: of.caseId, stepId: step.id },
    }),
  );
  const suspects = (data?.suspects ?? []).filter(({ author }) => author.id !== null);
  const give = (i: number) => () => {
    const id = suspects[i]?.author.id;
    if (id) onGive(id);
  };
  useScreenKeys({ "1": give(0), "2": give(1), "3": give(2) });
  const whole = useRef<HTMLDivElement>(null);
  const known = data !== undefined;
  // What is found makes the box higher: the tester sees all of it.
  useEffect(() => {
    whole.current?.scrollIntoView({ block: "nearest" });
  }, [known]);
  return (
    <div className="mt-2" ref={whole}>
      <p className="font-semibold">Whose is it?</p>
      {data === undefined ? (
        <p className="text-[12.5px] text-ink-soft" role="status">
          Looking what was merged …
        </p>
      ) : suspects.length === 0 ? (
        <p className="text-[12.5px] text-ink-soft">
          {data.since === null
            ? "Nothing is known to have been merged."
            : "Nothing is known to have been merged since it passed."}
        </p>
      ) : (
        <ol className="run-suspects">
          {suspects.map(({ id, author, words, item, url, evidence }, i) => (
            <li key={id}>
              <Button
                small
                look={step.givenTo?.id === author.id ? "strong" : "plain"}
                aria-pressed={step.givenTo?.id === author.id}
                onClick={give(i)}
              >
                {author.name} <kbd>{i + 1}</kbd>
              </Button>
              <span className="min-w-0 text-[12.5px]">
                {item && <span className="key">{item.key} </span>}
                {url ? (
                  <a className="link" href={url} target="_blank" rel="noreferrer">
                    {words}
                  </a>
                ) : (
                  words
                )}
                <span className="block text-ink-soft">{evidence.join(" · ")}</span>
              </span>
            </li>
          ))}
        </ol>
      )}
      <Select
        label="Give it to"
        className="mt-1"
        value={step.givenTo?.id ?? ""}
        options={[{ value: "", label: "nobody yet" }, ...namedOptions(view.people)]}
        onChange={(id) => onGive(id || null)}
      />
    </div>
  );
}
