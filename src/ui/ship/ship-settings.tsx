"use client";
import { useState } from "react";
import { branchName, branchPatternSchema, BRANCH_PARTS } from "@/core/ship/branch-name";
import type { ShipSettings } from "@/core/ship/ship-settings";
import { FAILURES, FAILURE_WORDS, type FailureKind } from "@/core/ship/delivery-figures";
import { Check } from "@/ui/kit/check";
import { Field, FieldGroup, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { problemWords, type Problem } from "@/ui/kit/request";

const EXAMPLE = {
  person: "Ines Dahl",
  key: "TIX-606",
  typeName: "Story",
  title: "Show the ticket without a connection",
};

/** How branches are named, by which words commits close, after how long a branch is old. */
export function ShipSettingsForm({
  settings,
  onSend,
  onLeave,
}: {
  settings: ShipSettings;
  /** @returns what was wrong; null where it is stored */
  onSend: (settings: ShipSettings) => Promise<Problem | null>;
  onLeave: () => void;
}) {
  const [pattern, setPattern] = useState(settings.branchPattern);
  const [words, setWords] = useState(settings.closingWords.join(", "));
  const [days, setDays] = useState(String(settings.branchDays));
  const [failures, setFailures] = useState<readonly FailureKind[]>(settings.failures);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const read = branchPatternSchema.safeParse(pattern);
  const send = async () => {
    const closingWords = words.split(/[\s,]+/).filter((word) => word !== "");
    setBusy(true);
    const wrong = await onSend({
      ...{ branchPattern: pattern, closingWords, branchDays: Number(days) },
      failures: [...failures],
    });
    setBusy(false);
    if (wrong === null) return onLeave();
    setProblem(problemWords(wrong));
  };
  return (
    <form
      aria-label="How code goes"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <Field label={`Names of branches, of ${BRANCH_PARTS.map((part) => `{${part}}`).join(" ")}`}>
        <TextInput
          className="key"
          required
          maxLength={60}
          value={pattern}
          onChange={(event) => setPattern(event.target.value)}
        />
      </Field>
      <p className="-mt-1 text-[13px] text-ink-soft" role="status">
        {read.success ? (
          <>
            For Ines it would be <code className="key">{branchName(read.data, EXAMPLE)}</code>
          </>
        ) : (
          <b className="text-alarm">{read.error.issues[0].message}</b>
        )}
      </p>
      <Field label="Closing words">
        <TextInput
          value={words}
          placeholder="none: no commit says that anything is done"
          onChange={(event) => setWords(event.target.value)}
        />
      </Field>
      <p className="-mt-1 text-[13px] text-ink-soft">
        On main, a commit with one of them right before an item’s key says that it is done. The
        process makes the move that waits for that, by its rules; where none does, the item is
        marked ready.
      </p>
      <Field label="A branch is old after so many days">
        <TextInput
          type="number"
          className="!w-[90px]"
          min={1}
          max={365}
          required
          value={days}
          onChange={(event) => setDays(event.target.value)}
        />
      </Field>
      <FieldGroup label="A deployment to live failed when">
        {FAILURES.map((kind) => (
          <Check
            key={kind}
            checked={failures.includes(kind)}
            onChange={(on) =>
              setFailures(FAILURES.filter((one) => (one === kind ? on : failures.includes(one))))
            }
          >
            <span className="font-normal">{FAILURE_WORDS[kind]}</span>
          </Check>
        ))}
      </FieldGroup>
      <FormFooter send="Store it" busy={busy} problem={problem} onLeave={onLeave} />
    </form>
  );
}
