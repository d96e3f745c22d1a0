"use client";
import { Note } from "@/ui/kit/note";
import { Button, TextButton, ButtonLink } from "@/ui/kit/button";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useEffect, useRef, useState, type FormEvent } from "react";
import {
  shownQuestions,
  type FormAttempt,
  type FormDefinition,
  type RawAnswers,
} from "@/core/intake/form";
import { keyOf, ask, problemOf, type Problem } from "@/ui/kit/request";
import type { KnownProblem } from "@/core/intake/known-problem";
import { filesProblem } from "./files-problem";
import { FormFields } from "./form-fields";
import { Sheet } from "./public-sheet";
import { addressOf } from "@/core/contract/contract";
import { requesterContract } from "@/core/intake/requester-contract";

export interface PublicFormProps {
  projectKey: string;
  projectName: string;
  slug: string;
  definition: FormDefinition;
}

/**
 * A public form: no account, one sheet, plain words. Nothing typed is lost when something is wrong;
 * it works without JavaScript too.
 */
export function ReportForm({
  attempt,
  embedded = false,
  ...form
}: PublicFormProps & {
  /** What a browser without JavaScript sent before. */
  attempt?: FormAttempt | null;
  /** Inside another site's page: what leads on opens outside of it. */
  embedded?: boolean;
}) {
  const { projectKey, projectName, slug, definition } = form;
  const sheet = useReportForm(form, attempt ?? null);
  const { values, files, joins, problem, errors, busy, sent, fileError } = sheet;
  const { formRef, send, setValue, setFiles, setJoins } = sheet;
  if (sent) return <Sent sent={sent} embedded={embedded} {...form} />;
  const asked = { params: { key: projectKey, form: slug } };
  // Whoever adds themselves to a known problem says who they are, and no more.
  const questions = joins
    ? definition.questions.filter((q) => q.fills === "mail")
    : definition.questions;
  const known = definition.offersKnown ? (
    <KnownProblems
      projectKey={projectKey}
      title={values[titleOf(definition)]?.[0] ?? ""}
      joined={joins}
      onJoin={setJoins}
    />
  ) : null;
  return (
    <Sheet projectName={projectName}>
      <h1 className="text-[24px] leading-tight">{definition.title}</h1>
      <p className="mb-5 mt-1 whitespace-pre-wrap text-ink-soft">{definition.intro}</p>
      <form
        ref={formRef}
        action={addressOf(requesterContract.send, asked)}
        method="post"
        encType="multipart/form-data"
        onSubmit={(e) => void send(e)}
        noValidate
        className="flex flex-col gap-4"
      >
        {joins && known}
        <FormFields
          questions={questions}
          values={values}
          errors={errors}
          onChange={setValue}
          files={files}
          onFiles={setFiles}
          fileError={fileError}
          after={joins ? null : known}
        />
        {(problem ?? errors.length > 0) && (
          <Note kind="problem">
            <b>
              {errors.length > 0 || !problem
                ? "Something is missing or not right."
                : problem.sentence}
            </b>{" "}
            {errors.length > 0 || !problem
              ? "It is marked above; what you typed is still there."
              : problem.help}
          </Note>
        )}
        <Button
          type="submit"
          disabled={busy || fileError !== null}
          look="accent"
          className="self-start !min-h-11 !px-6 !text-[15px]"
        >
          {busy ? "Sending…" : joins ? "It happens to me too" : "Send report"}
        </Button>
      </form>
    </Sheet>
  );
}

/** What is typed into a form, and what came of sending it. */
function useReportForm(
  { projectKey, slug, definition }: PublicFormProps,
  first: FormAttempt | null,
) {
  const [values, setValues] = useState<RawAnswers>(first?.values ?? {});
  const [files, setFiles] = useState<File[]>([]);
  const [joins, setJoins] = useState<KnownProblem | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [errors, setErrors] = useState(first?.errors ?? []);
  const [busy, setBusy] = useState(false);
  const [sent, setSent] = useState<Receipt | null>(null);
  const formRef = useRef<HTMLFormElement>(null);
  const fileError = filesProblem(files);
  /** How often it was refused so far. */
  const [refusals, setRefusals] = useState(first ? 1 : 0);
  // The first mistake is where one goes on; mending it leads nowhere else by itself.
  useEffect(() => {
    if (refusals > 0)
      formRef.current
        ?.querySelector<HTMLElement>('[data-question] [aria-invalid="true"], [data-wrong] input')
        ?.focus();
  }, [refusals]);
  const setValue = (id: string, value: string[]) => {
    setValues((v) => ({ ...v, [id]: value }));
    if (errors.some((e) => e.field === id)) {
      const left = errors.filter((e) => e.field !== id);
      setErrors(left);
      if (left.length === 0) setProblem(null);
    }
  };
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (fileError !== null || busy) return;
    setBusy(true);
    const body = new FormData();
    for (const q of shownQuestions(definition.questions, values))
      for (const v of values[q.id] ?? []) body.append(q.id, v);
    for (const file of files) body.append("files", file);
    if (joins) body.set("joins", joins.id);
    try {
      const params = { key: projectKey, form: slug };
      // Not sent again by itself: a report must not arrive twice.
      setSent(await ask(requesterContract.send, { params }, { form: body, retry: false }));
      setProblem(null);
    } catch (error) {
      const told = problemOf(error);
      setProblem(told);
      setErrors(told.errors);
      setRefusals((n) => n + 1);
    }
    setBusy(false);
  };
  return {
    ...{ values, setValue, files, setFiles, fileError, joins, setJoins },
    ...{ formRef, send, busy, problem, errors, sent },
  };
}

interface Receipt {
  reference: string;
  token: string;
}

function Sent({
  sent,
  embedded,
  projectName,
  definition,
}: PublicFormProps & { sent: Receipt; embedded: boolean }) {
  return (
    <Sheet projectName={projectName}>
      <h1 className="text-[24px]">Thank you, we have it</h1>
      <p className="mt-2">
        Your reference is <b className="font-mono text-[16px]">{sent.reference}</b>.
      </p>
      {definition.thanks && <p className="mt-2 whitespace-pre-wrap">{definition.thanks}</p>}
      <p className="mt-2">
        On a page of your own you can follow what becomes of it and answer if we have a question.
        Keep the address; we have sent it to you by mail too.
      </p>
      <p className="mt-4">
        <ButtonLink
          look="accent"
          href={`/r/${sent.token}`}
          {...(embedded ? { target: "_blank", rel: "noopener" } : {})}
        >
          Open my page
        </ButtonLink>
      </p>
    </Sheet>
  );
}

const titleOf = (definition: FormDefinition) =>
  definition.questions.find((q) => q.fills === "title")?.id ?? "title";
const LEAST_TYPED = 4;

/** While the title is typed: problems that we know of and that look like it. */
function KnownProblems({
  projectKey,
  title,
  joined,
  onJoin,
}: {
  projectKey: string;
  title: string;
  joined: KnownProblem | null;
  onJoin: (problem: KnownProblem | null) => void;
}) {
  const text = useDeferredValue(title.trim());
  const { data: known = [] } = useQuery({
    queryKey: [...keyOf(requesterContract.known, { params: { key: projectKey } }), text],
    queryFn: async () => {
      // A pause, so that not every letter asks.
      await new Promise((resolve) => setTimeout(resolve, 350));
      return ask(
        requesterContract.known,
        { params: { key: projectKey }, query: { q: text } },
        { retry: false },
      );
    },
    enabled: text.length >= LEAST_TYPED,
    placeholderData: (before) => before,
    retry: false,
  });
  if (joined)
    return (
      <Note kind="done" className="flex flex-wrap items-center gap-x-3">
        <span>
          It happens to you too: <b>{joined.words}</b>. Your address is enough; you will hear when
          it is done.
        </span>
        <TextButton onClick={() => onJoin(null)}>It is something else</TextButton>
      </Note>
    );
  if (text.length < LEAST_TYPED || known.length === 0) return null;
  return (
    <Note kind="look">
      <p className="font-semibold">Is it one of these? We know of them already.</p>
      <ul>
        {known.map((k) => (
          <li key={k.id} className="flex flex-wrap items-baseline justify-between gap-x-3 py-0.5">
            <span>{k.words}</span>
            <TextButton onClick={() => onJoin(k)}>It happens to me too</TextButton>
          </li>
        ))}
      </ul>
    </Note>
  );
}
