"use client";
import { useState, type FormEvent } from "react";
import type { MoveAnswers } from "@/core/item/command";
import { SEVERITIES } from "@/core/item/fields";
import type { Ask } from "@/core/workflow/refusal";

export interface Answers {
  answers: MoveAnswers;
  overrideReason?: string;
}

interface Named {
  id: string;
  name: string;
}

/** A small form at the place of the move, that asks for exactly what the rules still need. */
export function AskForm({ asks, people, teams, verb, onAnswer, onCancel }: {
  asks: Ask[];
  people: Named[];
  teams: Named[];
  verb: string;
  onAnswer: (answers: Answers) => void;
  onCancel: () => void;
}) {
  const [values, setValues] = useState<Record<string, string>>(() => Object.fromEntries(asks.map((ask) => [ask.field, ask.field === "outcome" ? ask.allowed[0] : ""])));
  const [ticks, setTicks] = useState<string[]>([]);
  const [missing, setMissing] = useState<string | null>(null);
  const set = (field: string, value: string) => setValues((v) => ({ ...v, [field]: value }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const open = asks.find((ask) => (ask.field === "ticks" ? ask.policies.some((p) => !ticks.includes(p.id)) : !values[ask.field]?.trim()));
    if (open) return setMissing(open.field);
    const { overrideReason, estimate, ticks: _, ...texts } = values;
    onAnswer({
      answers: { ...texts, ...(estimate ? { estimate: Number(estimate) } : {}), ...(ticks.length > 0 ? { ticks } : {}) } as MoveAnswers,
      ...(overrideReason ? { overrideReason } : {}),
    });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2" aria-label={verb}>
      {asks.map((ask, i) =>
        ask.field === "ticks" ? (
          <fieldset key={ask.field} className="flex flex-col gap-1" aria-invalid={missing === "ticks"}>
            <legend className="mb-0.5 text-[12.5px] font-semibold">{ask.label}</legend>
            {ask.policies.map((policy) => (
              <label key={policy.id} className="flex items-start gap-2">
                <input
                  type="checkbox"
                  className="mt-1 accent-(--accent)"
                  checked={ticks.includes(policy.id)}
                  onChange={(e) => setTicks((t) => (e.target.checked ? [...t, policy.id] : t.filter((id) => id !== policy.id)))}
                />
                {policy.text}
              </label>
            ))}
            {missing === "ticks" && <p className="text-[12.5px] font-semibold text-alarm">Every point has to be true before the move.</p>}
          </fieldset>
        ) : (
          <label key={ask.field} className="flex flex-col gap-1 text-[12.5px] font-semibold">
            {ask.label}
            <AskField ask={ask} first={i === 0} invalid={missing === ask.field} value={values[ask.field] ?? ""} people={people} teams={teams} onChange={(value) => set(ask.field, value)} />
          </label>
        ),
      )}
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

function AskField({ ask, first, invalid, value, people, teams, onChange }: {
  ask: Exclude<Ask, { field: "ticks" }>;
  first: boolean;
  invalid: boolean;
  value: string;
  people: Named[];
  teams: Named[];
  onChange: (value: string) => void;
}) {
  const shared = { id: `ask-${ask.field}`, className: "field", autoFocus: first, "aria-invalid": invalid, value } as const;
  const choice = (options: readonly Named[], none: string | null) => (
    <select {...shared} onChange={(e) => onChange(e.target.value)}>
      {none && <option value="">{none}</option>}
      {options.map((o) => (
        <option key={o.id} value={o.id}>
          {o.name}
        </option>
      ))}
    </select>
  );
  const plain = (words: readonly string[]) => words.map((w) => ({ id: w, name: w }));
  switch (ask.field) {
    case "assigneeId":
    case "reviewerId":
      return choice(people.filter((p) => p.id !== ask.not), "Choose a person");
    case "teamId":
      return choice(teams, "Choose a team");
    case "severity":
      return choice(plain(SEVERITIES), "Choose how bad it is");
    case "outcome":
      return choice(plain(ask.allowed), null);
    case "estimate":
      return <input {...shared} type="number" min={0} step="any" onChange={(e) => onChange(e.target.value)} />;
    case "dueOn":
      return <input {...shared} type="date" onChange={(e) => onChange(e.target.value)} />;
    case "place":
      return <input {...shared} maxLength={200} onChange={(e) => onChange(e.target.value)} />;
    default:
      return <textarea {...shared} rows={2} maxLength={ask.field === "howToTest" || ask.field === "description" ? 50_000 : 2_000} onChange={(e) => onChange(e.target.value)} />;
  }
}
