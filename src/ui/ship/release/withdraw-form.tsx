"use client";
import { useState } from "react";
import { TAKEN_BACK, type TakenBack } from "@/core/ship/release/withdrawal";
import { Choice } from "@/ui/kit/check";
import { Field, TextArea } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords } from "@/ui/kit/request";
import { Select } from "@/ui/kit/select";
import type { ReleasePageHandle } from "./use-release-page";

/** Asks why a release is taken back, and once what becomes of all that is finished in it, with another answer for some. */
export function WithdrawForm({
  handle,
  onLeave,
}: {
  handle: ReleasePageHandle;
  onLeave: () => void;
}) {
  const { view, withdraw } = handle;
  const [why, setWhy] = useState("");
  const [finished, setFinished] = useState<TakenBack>(
    view.next ? "goes out again" : "stays as it is",
  );
  const [except, setExcept] = useState<Record<string, TakenBack>>({});
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const wordsOf: Record<TakenBack, string> = {
    "is reopened": "is reopened, with why",
    "goes out again": view.next
      ? `stays finished, and goes out again with ${view.next.name}`
      : "goes out again",
    "stays as it is": "stays as it is",
  };
  const canReopen = view.finished.some((row) => row.canReopen);
  const offered = TAKEN_BACK.filter(
    (one) =>
      (one !== "goes out again" || view.next !== null) && (one !== "is reopened" || canReopen),
  );
  const send = async () => {
    if (busy) return;
    setBusy(true);
    const wrong = await withdraw({ withdrawn: true, why, finished, except });
    setBusy(false);
    if (wrong) return setProblem(problemWords(wrong));
    onLeave();
  };
  return (
    <form
      aria-label="It is taken back"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <p className="text-[13px]">
        The day that it was out stays. Whoever reported something of it
        {view.reporters > 0 && ` (${view.reporters})`} gets one letter with why; the public page
        says it too.
      </p>
      <Field label="Why">
        <TextArea
          rows={2}
          autoFocus
          maxLength={500}
          value={why}
          onChange={(event) => setWhy(event.target.value)}
        />
      </Field>
      {view.finished.length > 0 && (
        <>
          <div role="group" aria-label="What is finished" className="flex flex-col gap-1">
            <p className="text-[13px] font-semibold">
              {view.finished.length} {view.finished.length === 1 ? "is" : "are"} finished in it.
              Each of them
            </p>
            {offered.map((one) => (
              <Choice
                key={one}
                name="finished"
                checked={finished === one}
                onChange={() => setFinished(one)}
              >
                {wordsOf[one]}
              </Choice>
            ))}
          </div>
          <ul className="out-rows">
            {view.finished.map((row) => (
              <li key={row.id}>
                <span className="min-w-0 truncate text-[13px]">
                  <span className="key">{row.key}</span> {row.title}
                </span>
                <Select
                  label={`What becomes of ${row.key}`}
                  value={except[row.id] ?? finished}
                  options={offered
                    .filter((one) => one !== "is reopened" || row.canReopen)
                    .map((one) => ({ value: one, label: one }))}
                  onChange={(answer) => setExcept({ ...except, [row.id]: answer })}
                />
              </li>
            ))}
          </ul>
        </>
      )}
      <FormFooter
        send="Take it back"
        busy={busy}
        disabled={why.trim() === ""}
        problem={problem}
        onLeave={onLeave}
      />
    </form>
  );
}
