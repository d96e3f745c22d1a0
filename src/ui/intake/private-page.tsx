"use client";
import { counted } from "@/core/formats/counted";
import { ChosenFiles } from "@/ui/kit/chosen-files";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { TextArea, TextInput } from "@/ui/kit/field";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { keyOf, ask, problemOf, queryOf, type Problem } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { FileList } from "./file-list";
import { MOST_FILES } from "@/core/intake/file-limits";
import { filesProblem } from "./files-problem";
import { Sheet } from "./public-sheet";
import type { PrivatePageView } from "@/core/intake/private-page";
import { addressOf } from "@/core/contract/contract";
import { requesterContract } from "@/core/intake/requester-contract";

const LOOK_AGAIN_MS = 15_000;

/** What becomes of a report, for the one who sent it. */
export function PrivatePage({ token, initial }: { token: string; initial: PrivatePageView }) {
  const client = useQueryClient();
  const params = { token };
  const { data: page } = useQuery({
    ...queryOf(requesterContract.page, { params }),
    initialData: initial,
    refetchInterval: LOOK_AGAIN_MS,
  });
  const [words, setWords] = useState("");
  const [movingProblem, setMovingProblem] = useState<Problem | null>(null);
  const move = async ({ from, to }: { from: string; to: string }) => {
    try {
      client.setQueryData(
        keyOf(requesterContract.page, { params }),
        await ask(requesterContract.move, { params, body: { from, to, words } }),
      );
      setWords("");
      setMovingProblem(null);
    } catch (error) {
      setMovingProblem(problemOf(error));
    }
  };
  return (
    <Sheet projectName={page.projectName}>
      <p className="text-[13px] text-ink-soft">
        {page.wrote ? "Your report" : "You follow"}{" "}
        <span className="font-mono">{page.reference}</span>, sent {ago(page.receivedAt, page.now)}
      </p>
      <h1 className="mt-1 text-[22px] leading-tight">{page.title}</h1>
      <div role="status" className="my-4 border-l-4 border-accent bg-accent-soft px-4 py-3">
        <p className="font-display text-[17px] font-semibold">{page.status.headline}</p>
        <p>{page.status.detail}</p>
        {page.others > 0 && (
          <p className="mt-1 text-[13px]">
            {page.others === 1 ? "One other person told" : `${page.others} others told`} us of the
            same.
          </p>
        )}
      </div>
      <Messages page={page} />
      {page.maySay && <SayForm page={page} token={token} />}
      {page.moves.length > 0 && (
        <section aria-label="Your turn" className="mb-5 flex flex-col gap-2">
          <label htmlFor="words" className="font-semibold">
            It is your turn: what do you say?
          </label>
          <TextArea
            id="words"
            rows={2}
            maxLength={2_000}
            value={words}
            onChange={(e) => setWords(e.target.value)}
            placeholder="A word on why, if you like"
          />
          {movingProblem && (
            <FormProblem>
              <b>{movingProblem.sentence}</b> {movingProblem.help}
            </FormProblem>
          )}
          <div className="flex flex-wrap gap-2">
            {page.moves.map((m) => (
              <Button key={m.to} disabled={m.asksWhy && !words.trim()} onClick={() => void move(m)}>
                {m.verb}
              </Button>
            ))}
          </div>
        </section>
      )}
      <Wrote page={page} token={token} />
      <FollowForm token={token} />
    </Sheet>
  );
}

/** How the form is called by which something is said. */
function sayWords({ awaitsAnswer, status }: PrivatePageView): { label: string; send: string } {
  if (awaitsAnswer) return { label: "Your answer", send: "Send answer" };
  return status.headline === "Received" || status.headline === "Put aside for now"
    ? { label: "Add something", send: "Add it" }
    : { label: "Tell us more", send: "Send it" };
}

/** An answer, or what comes to mind later, with pictures and files. */
function SayForm({ page, token }: { page: PrivatePageView; token: string }) {
  const client = useQueryClient();
  const params = { token };
  const [text, setText] = useState("");
  const [files, setFiles] = useState<File[]>([]);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const wrong = filesProblem(files);
  const { label, send } = sayWords(page);
  const say = async (event: FormEvent) => {
    event.preventDefault();
    if (busy || wrong || (!text.trim() && files.length === 0)) return;
    setBusy(true);
    try {
      if (files.length > 0) {
        const form = new FormData();
        for (const file of files) form.append("files", file);
        // Not sent again by itself: files must not come twice.
        await ask(requesterContract.addFiles, { params }, { form, retry: false });
        setFiles([]);
      }
      const sent = `(sent ${counted(files.length, "file")})`;
      client.setQueryData(
        keyOf(requesterContract.page, { params }),
        await ask(requesterContract.answer, { params, body: { answer: text.trim() || sent } }),
      );
      setText("");
      setProblem(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  return (
    <form onSubmit={(e) => void say(e)} className="mb-5 flex flex-col gap-2">
      <label htmlFor="answer" className="font-semibold">
        {label}
      </label>
      <TextArea
        id="answer"
        rows={page.awaitsAnswer ? 4 : 2}
        maxLength={10_000}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <ChosenFiles
        label="Pictures or files"
        words="Add pictures or files"
        files={files}
        most={MOST_FILES}
        onChange={setFiles}
      />
      {wrong && <FormProblem>{wrong}</FormProblem>}
      {problem && (
        <FormProblem>
          <b>{problem.sentence}</b> {problem.help}
        </FormProblem>
      )}
      <Button
        type="submit"
        look="accent"
        className="self-start"
        disabled={busy || wrong !== null || (!text.trim() && files.length === 0)}
      >
        {busy ? "Sending…" : send}
      </Button>
    </form>
  );
}

/** "It happens to somebody else too": they get a page of their own and hear when it is done. */
function FollowForm({ token }: { token: string }) {
  const client = useQueryClient();
  const params = { token };
  const [mail, setMail] = useState("");
  const [said, setSaid] = useState<{ good: boolean; text: string } | null>(null);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await ask(requesterContract.follow, { params, body: { mail } });
      setSaid({
        good: true,
        text: `${mail} gets a page of their own by mail, and hears when it is done.`,
      });
      setMail("");
      await client.invalidateQueries({ queryKey: keyOf(requesterContract.page, { params }) });
    } catch (error) {
      const { sentence, help } = problemOf(error);
      setSaid({ good: false, text: `${sentence} ${help}` });
    }
  };
  return (
    <details className="mt-3">
      <summary className="cursor-pointer font-semibold">It happens to somebody else too</summary>
      <form onSubmit={(e) => void send(e)} className="mt-2 flex flex-wrap items-end gap-2">
        <label className="flex min-w-0 flex-1 flex-col gap-1 text-[13px]">
          Their mail address, or your second one
          <TextInput
            type="email"
            required
            maxLength={200}
            value={mail}
            onChange={(e) => setMail(e.target.value)}
            placeholder="neighbour@post.example"
          />
        </label>
        <Button type="submit">It happens to them too</Button>
      </form>
      {said && (
        <p
          role={said.good ? "status" : "alert"}
          className={`mt-1 text-[13px] ${said.good ? "" : "text-alarm"}`}
        >
          {said.text}
        </p>
      )}
    </details>
  );
}

/** What was asked, answered and told since. */
function Messages({ page }: { page: PrivatePageView }) {
  if (!(page.messages.length > 0)) return null;
  return (
    <ol aria-label="What happened since" className="mb-4 flex flex-col gap-3">
      {page.messages.map((m, i) => (
        <li
          key={i}
          className={`border-l-[3px] pl-3 ${m.kind === "answer" ? "border-accent" : m.kind === "question" || m.kind === "reminder" ? "border-signal" : "border-line-strong"}`}
        >
          <p className="text-[12.5px] text-ink-soft">
            {m.kind === "question"
              ? "We asked"
              : m.kind === "reminder"
                ? "We asked again"
                : m.kind === "answer"
                  ? "You wrote"
                  : "News"}{" "}
            {ago(m.at, Math.max(page.now, m.at))}
          </p>
          <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">{m.body}</p>
        </li>
      ))}
    </ol>
  );
}

/** The report as it was sent. */
function Wrote({ page, token }: { page: PrivatePageView; token: string }) {
  if (!page.wrote) return null;
  return (
    <details>
      <summary className="cursor-pointer font-semibold">What you wrote</summary>
      <div className="mt-2 flex flex-col gap-2 whitespace-pre-wrap [overflow-wrap:anywhere]">
        <p>{page.wrote.happened}</p>
        {page.wrote.reproduce && <p>{page.wrote.reproduce}</p>}
        {page.wrote.place && <p>Where: {page.wrote.place}</p>}
        {page.wrote.answers.map((a) => (
          <p key={a.label}>
            {a.label} <b>{a.value}</b>
          </p>
        ))}
        <FileList
          files={page.files}
          addressOf={(file) => addressOf(requesterContract.file, { params: { token, file } })}
        />
      </div>
    </details>
  );
}
