"use client";
import { Note } from "@/ui/kit/note";
import { Button, TextButton, ButtonLink } from "@/ui/kit/button";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState, type FormEvent, type ReactNode } from "react";
import { shownQuestions, type FormDefinition, type RawAnswers } from "@/core/intake/form";
import { Mark } from "@/ui/kit/mark";
import { keyOf, ask, problemOf, type Problem } from "@/ui/kit/request";
import { FormFields, LARGEST_FILE_MB, MOST_FILES } from "./form-fields";
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
export function ReportForm({ projectKey, projectName, slug, definition }: PublicFormProps) {
  const [values, setValues] = useState<RawAnswers>({});
  const [files, setFiles] = useState<File[]>([]);
  const [joins, setJoins] = useState<{ id: string; words: string } | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [sent, setSent] = useState<{ reference: string; token: string } | null>(null);
  const large = files.find((f) => f.size > LARGEST_FILE_MB * 1024 * 1024);
  const fileError = large
    ? `${large.name} is larger than ${LARGEST_FILE_MB} MB. Choose a smaller one; your text stays.`
    : files.length > MOST_FILES
      ? `Choose at most ${MOST_FILES} files.`
      : undefined;
  const asked = { params: { key: projectKey, form: slug } };
  const send = async (event: FormEvent) => {
    event.preventDefault();
    if (fileError || busy) return;
    setBusy(true);
    const form = new FormData();
    for (const q of shownQuestions(definition.questions, values))
      for (const v of values[q.id] ?? []) form.append(q.id, v);
    for (const file of files) form.append("files", file);
    if (joins) form.set("joins", joins.id);
    try {
      // Not sent again by itself: a report must not arrive twice.
      setSent(await ask(requesterContract.send, asked, { form, retry: false }));
      setProblem(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };

  if (sent)
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
          <ButtonLink look="accent" href={`/r/${sent.token}`}>
            Open my page
          </ButtonLink>
        </p>
      </Sheet>
    );
  return (
    <Sheet projectName={projectName}>
      <h1 className="text-[24px] leading-tight">{definition.title}</h1>
      <p className="mb-5 mt-1 whitespace-pre-wrap text-ink-soft">{definition.intro}</p>
      <form
        action={addressOf(requesterContract.send, asked)}
        method="post"
        encType="multipart/form-data"
        onSubmit={(e) => void send(e)}
        noValidate
        className="flex flex-col gap-4"
      >
        <FormFields
          questions={definition.questions}
          values={values}
          errors={problem?.errors ?? []}
          onChange={(id, value) => setValues((v) => ({ ...v, [id]: value }))}
          onFiles={setFiles}
          fileError={fileError}
          after={
            definition.offersKnown ? (
              <KnownProblems
                projectKey={projectKey}
                title={values[titleOf(definition)]?.[0] ?? ""}
                joined={joins}
                onJoin={setJoins}
              />
            ) : null
          }
        />
        {problem && (
          <Note kind="problem">
            <b>
              {problem.errors.length > 0 ? "Something is missing or not right." : problem.sentence}
            </b>{" "}
            {problem.errors.length > 0
              ? "It is marked above; what you typed is still there."
              : problem.help}
          </Note>
        )}
        <Button
          type="submit"
          disabled={busy || Boolean(fileError)}
          look="accent"
          className="self-start !min-h-10 !px-6 !text-[15px]"
        >
          {busy ? "Sending…" : joins ? "Add me to it" : "Send report"}
        </Button>
      </form>
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
  joined: { id: string; words: string } | null;
  onJoin: (problem: { id: string; words: string } | null) => void;
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
          You add yourself to: <b>{joined.words}</b>. You will hear when it is done.
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
            <TextButton onClick={() => onJoin(k)}>Add yourself</TextButton>
          </li>
        ))}
      </ul>
    </Note>
  );
}

/** A page for people without an account. */
export function Sheet({ projectName, children }: { projectName: string; children: ReactNode }) {
  return (
    <main className="mx-auto max-w-[640px] px-4 py-8 sm:py-12">
      <p className="mb-4 flex items-center gap-3">
        <Mark size={34} />
        <span className="font-display text-[15px] font-semibold">{projectName}</span>
      </p>
      <div className="sheet px-5 py-6 sm:px-8">{children}</div>
    </main>
  );
}
