"use client";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { problemOf, request, type Problem } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import { Sheet } from "./report-form";

export interface PrivatePageView {
  reference: string;
  projectName: string;
  title: string;
  happened: string;
  reproduce: string;
  place: string;
  receivedAt: number;
  now: number;
  hasPicture: boolean;
  status: { headline: string; detail: string };
  awaitsAnswer: boolean;
  moves: { from: string; to: string; verb: string; asksWhy: boolean }[];
  messages: { kind: "question" | "answer" | "progress"; body: string; at: number }[];
}

const LOOK_AGAIN_MS = 15_000;

/** What becomes of a report, for the one who sent it. */
export function PrivatePage({ token, initial }: { token: string; initial: PrivatePageView }) {
  const client = useQueryClient();
  const { data: page } = useQuery({
    queryKey: ["private", token],
    queryFn: () => request<PrivatePageView>(`/api/public/pages/${token}`),
    initialData: initial,
    refetchInterval: LOOK_AGAIN_MS,
  });
  const [answer, setAnswer] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const [words, setWords] = useState("");
  const [movingProblem, setMovingProblem] = useState<Problem | null>(null);
  const move = async ({ from, to }: { from: string; to: string }) => {
    try {
      client.setQueryData(["private", token], await request<PrivatePageView>(`/api/public/pages/${token}/moves`, { body: { from, to, words } }));
      setWords("");
      setMovingProblem(null);
    } catch (error) {
      setMovingProblem(problemOf(error));
    }
  };
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      client.setQueryData(["private", token], await request<PrivatePageView>(`/api/public/pages/${token}`, { body: { answer } }));
      setAnswer("");
      setProblem(null);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <Sheet projectName={page.projectName}>
      <p className="text-[13px] text-ink-soft">
        Your report <span className="font-mono">{page.reference}</span>, sent {ago(page.receivedAt, page.now)}
      </p>
      <h1 className="mt-1 text-[22px] leading-tight">{page.title}</h1>
      <div role="status" className="my-4 border-l-4 border-accent bg-accent-soft px-4 py-3">
        <p className="font-display text-[17px] font-semibold">{page.status.headline}</p>
        <p>{page.status.detail}</p>
      </div>
      {page.messages.length > 0 && (
        <ol aria-label="What happened since" className="mb-4 flex flex-col gap-3">
          {page.messages.map((m, i) => (
            <li key={i} className={`border-l-[3px] pl-3 ${m.kind === "answer" ? "border-accent" : m.kind === "question" ? "border-signal" : "border-line-strong"}`}>
              <p className="text-[12.5px] text-ink-soft">
                {m.kind === "question" ? "We asked" : m.kind === "answer" ? "You answered" : "News"} {ago(m.at, Math.max(page.now, m.at))}
              </p>
              <p className="whitespace-pre-wrap [overflow-wrap:anywhere]">{m.body}</p>
            </li>
          ))}
        </ol>
      )}
      {page.awaitsAnswer && (
        <form onSubmit={(e) => void send(e)} className="mb-5 flex flex-col gap-2">
          <label htmlFor="answer" className="font-semibold">
            Your answer
          </label>
          <textarea id="answer" className="field" rows={4} required maxLength={10_000} value={answer} onChange={(e) => setAnswer(e.target.value)} />
          {problem && (
            <p role="alert" className="text-alarm">
              <b>{problem.sentence}</b> {problem.help}
            </p>
          )}
          <button type="submit" className="button button-accent self-start">
            Send answer
          </button>
        </form>
      )}
      {page.moves.length > 0 && (
        <section aria-label="Your turn" className="mb-5 flex flex-col gap-2">
          <label htmlFor="words" className="font-semibold">
            It is your turn: what do you say?
          </label>
          <textarea id="words" className="field" rows={2} maxLength={2_000} value={words} onChange={(e) => setWords(e.target.value)} placeholder="A word on why, if you like" />
          {movingProblem && (
            <p role="alert" className="text-alarm">
              <b>{movingProblem.sentence}</b> {movingProblem.help}
            </p>
          )}
          <div className="flex flex-wrap gap-2">
            {page.moves.map((m) => (
              <button key={m.to} type="button" className="button" disabled={m.asksWhy && !words.trim()} onClick={() => void move(m)}>
                {m.verb}
              </button>
            ))}
          </div>
        </section>
      )}
      <details>
        <summary className="cursor-pointer font-semibold">What you wrote</summary>
        <div className="mt-2 flex flex-col gap-2 whitespace-pre-wrap [overflow-wrap:anywhere]">
          <p>{page.happened}</p>
          {page.reproduce && <p>{page.reproduce}</p>}
          {page.place && <p>Where: {page.place}</p>}
          {page.hasPicture && (
            // eslint-disable-next-line @next/next/no-img-element
            <img src={`/api/public/pages/${token}/picture`} alt="Your picture" className="max-h-80 border border-line" />
          )}
        </div>
      </details>
    </Sheet>
  );
}
