"use client";
import { useState, type FormEvent } from "react";
import type { MoveAnswers } from "@/core/item/command";
import type { Ask } from "@/core/workflow/refusal";

export interface Answers {
  answers: MoveAnswers;
  overrideReason?: string;
}

/** A small form at the place of the move, that asks for exactly what the rules still need. */
export function AskForm({ asks, people, verb, onAnswer, onCancel }: {
  asks: Ask[];
  people: { id: string; name: string }[];
  verb: string;
  onAnswer: (answers: Answers) => void;
  onCancel: () => void;
}) {
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(asks.map((ask) => [ask.field, ask.field === "outcome" ? ask.allowed[0] : ""])),
  );
  const [missing, setMissing] = useState<string | null>(null);
  const set = (field: string, value: string) => setValues((v) => ({ ...v, [field]: value }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const empty = asks.find((ask) => !values[ask.field]?.trim());
    if (empty) return setMissing(empty.field);
    const { overrideReason, estimate, ...texts } = values;
    onAnswer({ answers: { ...texts, ...(estimate ? { estimate: Number(estimate) } : {}) } as MoveAnswers, ...(overrideReason ? { overrideReason } : {}) });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2" aria-label={verb}>
      {asks.map((ask, i) => {
        const shared = { id: `ask-${ask.field}`, className: "field", autoFocus: i === 0, "aria-invalid": missing === ask.field, value: values[ask.field] ?? "" } as const;
        return (
          <label key={ask.field} className="flex flex-col gap-1 text-[12.5px] font-semibold">
            {ask.label}
            {ask.field === "reviewerId" || ask.field === "assigneeId" ? (
              <select {...shared} onChange={(e) => set(ask.field, e.target.value)}>
                <option value="">Choose a person</option>
                {people
                  .filter((p) => ask.field !== "reviewerId" || p.id !== ask.not)
                  .map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.name}
                    </option>
                  ))}
              </select>
            ) : ask.field === "outcome" ? (
              <select {...shared} onChange={(e) => set(ask.field, e.target.value)}>
                {ask.allowed.map((o) => (
                  <option key={o}>{o}</option>
                ))}
              </select>
            ) : ask.field === "estimate" ? (
              <input {...shared} type="number" min={0} step="any" onChange={(e) => set(ask.field, e.target.value)} />
            ) : (
              <textarea {...shared} rows={2} maxLength={ask.field === "howToTest" ? 50_000 : 2_000} onChange={(e) => set(ask.field, e.target.value)} />
            )}
          </label>
        );
      })}
      <div className="flex justify-end gap-2">
        <button type="button" className="button button-small button-quiet" onClick={onCancel}>
          Leave it where it is
        </button>
        <button type="submit" className="button button-small button-accent">
          {verb}
        </button>
      </div>
    </form>
  );
}
