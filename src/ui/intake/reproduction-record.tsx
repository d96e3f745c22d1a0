"use client";
import { Choice } from "@/ui/kit/check";
import { TextInput, TextArea } from "@/ui/kit/field";
import { TextButton, Button } from "@/ui/kit/button";
import { CheckCircle2, CircleDashed, CircleSlash2 } from "lucide-react";
import { useEffect, useRef, useState, type FormEvent } from "react";
import type { ReportView } from "@/core/intake/desk-view";
import {
  differsQuestion,
  REPRODUCTION_RESULTS,
  type Reproducible,
  type ReproductionResult,
} from "@/core/intake/reproduction";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { ago } from "@/ui/kit/time";
import type { VerdictBegun } from "./typed-verdict";
import { v7 as newId } from "uuid";
import { reportContract } from "@/core/intake/contract";
import type { ReproductionRequest } from "@/core/intake/request";

const LOOK: Record<ReproductionResult, { Icon: typeof CheckCircle2; className: string }> = {
  happened: { Icon: CheckCircle2, className: "text-done" },
  "happened sometimes": { Icon: CircleDashed, className: "text-signal-ink" },
  "did not happen": { Icon: CircleSlash2, className: "text-ink-soft" },
};

const AMOUNTS: Record<Reproducible, string> = {
  "not tried": "Nobody has tried to make it happen yet.",
  reproduced: "It can be made to happen.",
  sometimes: "It happens sometimes.",
  "not reproduced": "Nobody could make it happen.",
};

interface Props {
  view: ReportView;
  now: number;
  mayJudge: boolean;
  trying: boolean;
  onTrying: (trying: boolean) => void;
  onChanged: () => Promise<void>;
  onVerdict: (begun: VerdictBegun) => void;
}

/**
 * Who tried to make it happen, where, on which version, and what came of it; what cannot be made to
 * happen is parked or ended from here.
 */
export function ReproductionRecord({
  view,
  now,
  mayJudge,
  trying,
  onTrying,
  onChanged,
  onVerdict,
}: Props) {
  const change = async (body: ReproductionRequest) => {
    await ask(reportContract.tries, { params: { id: view.report.id }, body });
    await onChanged();
  };
  const takeBack = (id: string) =>
    change({ kind: "take back", id }).then(() => tellDone("Your try is taken back."), tellProblem);
  const open = ["unjudged", "asked", "parked"].includes(view.report.status);
  return (
    <section aria-label="Tries to make it happen">
      <h3 className="flex items-center gap-3 text-[13px]">
        Tried here
        {mayJudge && !trying && (
          <TextButton className="font-normal" onClick={() => onTrying(true)}>
            I tried it <kbd>t</kbd>
          </TextButton>
        )}
      </h3>
      <p className={view.reproducible === "not tried" ? "text-ink-soft" : ""}>
        {AMOUNTS[view.reproducible]}
      </p>
      {trying && <TryForm change={change} onDone={() => onTrying(false)} />}
      {view.tries.length > 0 && (
        <ul className="mt-1 flex flex-col gap-1">
          {view.tries.map((t) => {
            const { Icon, className } = LOOK[t.result];
            return (
              <li key={t.id} className="flex items-baseline gap-2 text-[13px]">
                <Icon
                  size={14}
                  className={`shrink-0 translate-y-0.5 ${className}`}
                  aria-hidden="true"
                />
                <span className="min-w-0 flex-1">
                  <b>{t.result}</b>: {t.by}, {t.tried}
                  {t.version && `, ${t.version}`}{" "}
                  <span className="text-ink-soft">{ago(t.at, now)}</span>
                  {t.steps && (
                    <span className="block whitespace-pre-wrap [overflow-wrap:anywhere]">
                      {t.steps}
                    </span>
                  )}
                  {t.note && (
                    <span className="block [overflow-wrap:anywhere] text-ink-soft">{t.note}</span>
                  )}
                </span>
                {t.mine && mayJudge && (
                  <TextButton
                    className="whitespace-nowrap text-[12.5px]"
                    onClick={() => void takeBack(t.id)}
                  >
                    take back
                  </TextButton>
                )}
              </li>
            );
          })}
        </ul>
      )}
      {mayJudge && open && view.reproducible === "not reproduced" && (
        <p className="mt-2 flex flex-wrap items-center gap-2 border-l-[3px] border-line-strong pl-3 text-[13px]">
          It cannot be made to happen:
          <Button
            small
            onClick={() => onVerdict({ kind: "ask", reason: differsQuestion(view.tries) })}
          >
            Ask what was different
          </Button>
          <Button small onClick={() => onVerdict({ kind: "park", watched: true })}>
            Watch for it
          </Button>
        </p>
      )}
    </section>
  );
}

function TryForm({
  change,
  onDone,
}: {
  change: (body: ReproductionRequest) => Promise<void>;
  onDone: () => void;
}) {
  const [tried, setTried] = useState("");
  const [version, setVersion] = useState("");
  const [steps, setSteps] = useState("");
  const [result, setResult] = useState<ReproductionResult>("happened");
  const [note, setNote] = useState("");
  const [id] = useState(() => newId());
  const [problem, setProblem] = useState<Problem | null>(null);
  const form = useRef<HTMLFormElement>(null);
  // In newer browsers it gives a promise, which must not be taken for what cleans up.
  useEffect(() => void form.current?.scrollIntoView({ block: "nearest" }), []);
  const send = async (event?: FormEvent) => {
    event?.preventDefault();
    try {
      await change({ kind: "tried", id, try: { tried, version, steps, result, note } });
      onDone();
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <form
      ref={form}
      aria-label="I tried it"
      className="my-2 grid grid-cols-[minmax(0,1fr)_140px] gap-2 border-l-[3px] border-accent bg-sheet px-3 py-2 text-[12.5px] font-semibold"
      onSubmit={(e) => void send(e)}
      onKeyDown={(e) => {
        if (e.key === "Escape") onDone();
        if (e.key === "Enter" && (e.ctrlKey || e.metaKey)) void send();
      }}
    >
      <label className="flex flex-col gap-1">
        Where, and with what?
        <TextInput
          autoFocus
          required
          maxLength={200}
          value={tried}
          onChange={(e) => setTried(e.target.value)}
        />
      </label>
      <label className="flex flex-col gap-1">
        Version
        <TextInput maxLength={80} value={version} onChange={(e) => setVersion(e.target.value)} />
      </label>
      <label className="col-span-full flex flex-col gap-1">
        What you did, step by step
        <TextArea
          className="!min-h-10 !font-normal"
          rows={2}
          maxLength={2_000}
          value={steps}
          onChange={(e) => setSteps(e.target.value)}
        />
      </label>
      <div
        role="radiogroup"
        aria-label="What came of it"
        className="col-span-full flex flex-wrap gap-4 font-normal"
      >
        {REPRODUCTION_RESULTS.map((r) => (
          <Choice key={r} name="came of it" checked={result === r} onChange={() => setResult(r)}>
            {r}
          </Choice>
        ))}
      </div>
      <label className="col-span-full flex flex-col gap-1">
        What else you saw
        <TextArea
          className="!min-h-10 !font-normal"
          rows={2}
          maxLength={2_000}
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      {problem && (
        <p role="alert" className="col-span-full text-alarm">
          {problem.sentence} {problem.errors[0]?.message ?? problem.help}
        </p>
      )}
      <span className="col-span-full flex justify-end gap-2">
        <Button look="quiet" small onClick={onDone}>
          Leave it
        </Button>
        <Button type="submit" look="accent" small>
          Keep it
        </Button>
      </span>
    </form>
  );
}
