"use client";
import { Note } from "@/ui/kit/note";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { Button, TextButton } from "@/ui/kit/button";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";
import { FIRST_TRIAGE_RULES, type TriageRules } from "@/core/intake/triage-rules";
import { tellDone } from "@/ui/kit/notice";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { v7 as newId } from "uuid";
import { intakeContract } from "@/core/intake/contract";
import { PriorityGrid } from "@/ui/intake/priority-grid";

/** Changes that somebody went away from before they were stored, by the project. */
const leftUnstored = new Map<string, TriageRules>();

/**
 * What a project has agreed on for its triage: the priority grid, what is asked often, why things
 * are declined, and what happens to questions without answer.
 */
export function TriageRulesScreen({
  projectKey,
  rules,
  version,
  mayEdit,
}: {
  projectKey: string;
  rules: TriageRules;
  version: number;
  mayEdit: boolean;
}) {
  const router = useRouter();
  const [draft, setDraft] = useState(() => leftUnstored.get(projectKey) ?? rules);
  const [seen, setSeen] = useState({ rules, version });
  const [problem, setProblem] = useState<Problem | null>(null);
  const changed = JSON.stringify(draft) !== JSON.stringify(seen.rules);
  useWarnBeforeLeaving(changed);
  useEffect(() => {
    if (changed) leftUnstored.set(projectKey, draft);
    else leftUnstored.delete(projectKey);
  }, [changed, draft, projectKey]);
  const set = (change: Partial<TriageRules>) => setDraft((d) => ({ ...d, ...change }));
  const store = async (next: TriageRules, words: string) => {
    try {
      const stored = await ask(intakeContract.changeRules, {
        params: { key: projectKey },
        body: { seenVersion: seen.version, triage: next },
      });
      setSeen({ rules: next, version: stored.version });
      setDraft(next);
      setProblem(null);
      tellDone(words);
      router.refresh();
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 items-center gap-3 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">Triage rules</h1>
        <p className="min-w-0 flex-1 truncate text-ink-soft">
          {changed
            ? "Changed and not stored yet. It stays here when you go elsewhere."
            : "Agreed once, so that nobody argues at each report."}
        </p>
        {mayEdit && changed && (
          <Button look="quiet" onClick={() => (setDraft(seen.rules), setProblem(null))}>
            Take my changes back
          </Button>
        )}
        {mayEdit && (
          <Button
            look="accent"
            disabled={!changed}
            onClick={() => void store(draft, "The triage rules are changed.")}
          >
            Store the rules
          </Button>
        )}
      </div>
      <fieldset
        disabled={!mayEdit}
        className="grid min-h-0 flex-1 grid-cols-1 content-start gap-x-10 gap-y-6 overflow-y-auto px-5 py-4 xl:grid-cols-2"
      >
        {problem && (
          <Note kind="problem" className="col-span-full">
            <b>{problem.sentence}</b> {problem.errors[0]?.message ?? problem.help}
          </Note>
        )}
        <PriorityGrid draft={draft} set={set} />
        <WaitingRules draft={draft} set={set} />
        <OftenAsked draft={draft} set={set} mayEdit={mayEdit} />
        <DeclineReasons draft={draft} set={set} mayEdit={mayEdit} />
        {mayEdit && (
          <TextButton
            className="col-span-full justify-self-start text-[13px]"
            onClick={() => setDraft(FIRST_TRIAGE_RULES)}
          >
            Begin again with the rules a new project has
          </TextButton>
        )}
      </fieldset>
    </div>
  );
}

/** An empty field stands for none. */
const number = (text: string) => (text.trim() === "" ? null : Number(text));

/** What happens to questions that nobody answers. */
function WaitingRules({
  draft,
  set,
}: {
  draft: TriageRules;
  set: (change: Partial<TriageRules>) => void;
}) {
  return (
    <section aria-label="Waiting for answers" className="flex flex-col gap-2">
      <h2 className="text-[15px]">When nobody answers</h2>
      <div className="grid grid-cols-3 gap-3">
        <Field label="Ask again after, days">
          <TextInput
            type="number"
            min={1}
            max={365}
            value={draft.remindAfterDays ?? ""}
            placeholder="never"
            onChange={(e) => set({ remindAfterDays: number(e.target.value) })}
          />
        </Field>
        <Field label="End it after, days">
          <TextInput
            type="number"
            min={1}
            max={365}
            value={draft.endAfterDays ?? ""}
            placeholder="never"
            onChange={(e) => set({ endAfterDays: number(e.target.value) })}
          />
        </Field>
        <Field label="Items a person works on at once">
          <TextInput
            type="number"
            min={1}
            max={50}
            value={draft.personLimit ?? ""}
            placeholder="no limit"
            onChange={(e) => set({ personLimit: number(e.target.value) })}
          />
        </Field>
      </div>
      <Field label="What the requester reads when it ends">
        <TextArea
          rows={3}
          maxLength={2_000}
          value={draft.endWords}
          onChange={(e) => set({ endWords: e.target.value })}
        />
      </Field>
    </section>
  );
}

/** Questions that are asked again and again. */
function OftenAsked({
  draft,
  set,
  mayEdit,
}: {
  draft: TriageRules;
  set: (change: Partial<TriageRules>) => void;
  mayEdit: boolean;
}) {
  return (
    <section aria-label="Questions asked often" className="flex flex-col gap-2">
      <h2 className="text-[15px]">Questions asked often</h2>
      {draft.questions.map((q, i) => (
        <div key={q.id} className="flex flex-col gap-1 border-t border-line pt-2">
          <div className="flex gap-2">
            <TextInput
              className="!w-52"
              aria-label={`Name of question ${i + 1}`}
              maxLength={60}
              value={q.name}
              onChange={(e) =>
                set({ questions: draft.questions.with(i, { ...q, name: e.target.value }) })
              }
            />
            <span className="flex-1" />
            <TextButton
              className="text-[12.5px]"
              onClick={() => set({ questions: draft.questions.toSpliced(i, 1) })}
            >
              take out
            </TextButton>
          </div>
          <TextArea
            className="!min-h-12"
            aria-label={`Text of question ${i + 1}`}
            rows={2}
            maxLength={5_000}
            value={q.text}
            onChange={(e) =>
              set({ questions: draft.questions.with(i, { ...q, text: e.target.value }) })
            }
          />
        </div>
      ))}
      {mayEdit && (
        <Button
          small
          className="self-start"
          onClick={() =>
            set({
              questions: [...draft.questions, { id: newId(), name: "", text: "" }],
            })
          }
        >
          Add a question
        </Button>
      )}
    </section>
  );
}

/** The words in which things are declined. */
function DeclineReasons({
  draft,
  set,
  mayEdit,
}: {
  draft: TriageRules;
  set: (change: Partial<TriageRules>) => void;
  mayEdit: boolean;
}) {
  return (
    <section aria-label="Reasons for declining" className="flex flex-col gap-2">
      <h2 className="text-[15px]">Reasons for declining</h2>
      <p className="text-[13px] text-ink-soft">
        The requester reads these words. Each can be changed at the report.
      </p>
      {draft.declineReasons.map((reason, i) => (
        <div key={i} className="flex items-start gap-2">
          <TextArea
            className="!min-h-9"
            aria-label={`Reason ${i + 1}`}
            rows={1}
            maxLength={2_000}
            value={reason}
            onChange={(e) => set({ declineReasons: draft.declineReasons.with(i, e.target.value) })}
          />
          <TextButton
            className="whitespace-nowrap pt-1 text-[12.5px]"
            onClick={() => set({ declineReasons: draft.declineReasons.toSpliced(i, 1) })}
          >
            take out
          </TextButton>
        </div>
      ))}
      {mayEdit && (
        <Button
          small
          className="self-start"
          onClick={() => set({ declineReasons: [...draft.declineReasons, ""] })}
        >
          Add a reason
        </Button>
      )}
    </section>
  );
}
