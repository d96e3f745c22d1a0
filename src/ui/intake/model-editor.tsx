"use client";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { namedOptions, Select } from "@/ui/kit/select";
import { X } from "lucide-react";
import { useState } from "react";
import type { Criterion, ScoringModel } from "@/core/intake/scoring";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { v7 as newId } from "uuid";
import { intakeContract } from "@/core/intake/contract";
import { ask } from "@/ui/kit/request";
import { FormFooter } from "@/ui/kit/form-footer";

const SOURCES: Record<Criterion["source"], string> = {
  judged: "people judge it",
  votes: "votes and reports",
  estimate: "the estimate",
};

/**
 * What requests are judged by: criteria with scales and weights, and where the cost of delay comes
 * from.
 */
export function ModelEditor({
  model,
  version,
  numbers,
  projectKey,
  onDone,
}: {
  model: ScoringModel;
  version: number;
  numbers: { id: string; name: string }[];
  projectKey: string;
  onDone: () => void;
}) {
  const [draft, setDraft] = useState(model);
  const change = (id: string, more: Partial<Criterion>) =>
    setDraft((d) => ({
      ...d,
      criteria: d.criteria.map((c) => (c.id === id ? { ...c, ...more } : c)),
    }));
  const total = draft.criteria.reduce((sum, c) => sum + Math.abs(c.weight), 0);
  const store = async () => {
    try {
      await ask(intakeContract.changeRules, {
        params: { key: projectKey },
        body: { seenVersion: version, scoring: draft },
      });
      tellDone("The model is changed; what was judged stays.");
      onDone();
    } catch (error) {
      tellProblem(error);
    }
  };
  const field = (label: string, value: string | null, set: (id: string | null) => void) => (
    <Field label={label}>
      <Select
        value={value ?? ""}
        options={[{ value: "", label: "nothing says it" }, ...namedOptions(numbers)]}
        onChange={(next) => set(next || null)}
      />
    </Field>
  );
  return (
    <form
      aria-label="The model"
      className="mb-4 flex max-w-[860px] flex-col gap-3 bg-sheet p-3"
      onSubmit={(e) => {
        e.preventDefault();
        void store();
      }}
    >
      <table className="text-[13px]">
        <thead className="text-left text-[12px] text-ink-soft">
          <tr>
            <th className="font-normal">Criterion</th>
            <th className="font-normal">From</th>
            <th className="font-normal">Scale, 0 to</th>
            <th className="font-normal">Weight</th>
            <th className="font-normal">of 100</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {draft.criteria.map((c) => (
            <CriterionRow
              key={c.id}
              criterion={c}
              total={total}
              onChange={(more) => change(c.id, more)}
              onRemove={() =>
                setDraft((d) => ({ ...d, criteria: d.criteria.filter((x) => x.id !== c.id) }))
              }
            />
          ))}
        </tbody>
      </table>
      <Button
        small
        className="self-start"
        onClick={() =>
          setDraft((d) => ({
            ...d,
            criteria: [
              ...d.criteria,
              { id: newId(), name: "", scale: 5, weight: 1, source: "judged" },
            ],
          }))
        }
      >
        Add a criterion
      </Button>
      <div className="grid grid-cols-2 gap-3">
        {field("What a week of delay loses", draft.valueFieldId, (valueFieldId) =>
          setDraft((d) => ({ ...d, valueFieldId })),
        )}
        {field("Weeks of delay", draft.weeksFieldId, (weeksFieldId) =>
          setDraft((d) => ({ ...d, weeksFieldId })),
        )}
      </div>
      <Check
        checked={draft.votesAgainst === true}
        onChange={(votesAgainst) => setDraft((d) => ({ ...d, votesAgainst }))}
      >
        People can vote against an item too; each such vote takes one away
      </Check>
      <p className="text-[12.5px] text-ink-soft">
        Cost of delay is the one times the other. What a week loses divided by the size is the order
        that loses least in total.
      </p>
      <FormFooter send="Store the model" onLeave={onDone} />
    </form>
  );
}

/** One criterion; its weight is also shown as its part of all weights. */
function CriterionRow({
  criterion: c,
  total,
  onChange,
  onRemove,
}: {
  criterion: Criterion;
  /** Of the weights of all criteria, without their signs. */
  total: number;
  onChange: (more: Partial<Criterion>) => void;
  onRemove: () => void;
}) {
  return (
    <tr>
      <td className="pr-2">
        <TextInput
          aria-label="Criterion"
          required
          maxLength={60}
          value={c.name}
          onChange={(e) => onChange({ name: e.target.value })}
        />
      </td>
      <td className="pr-2">
        <Select
          label={`Where ${c.name} comes from`}
          value={c.source}
          options={Object.entries(SOURCES).map(([value, label]) => ({ value, label }))}
          onChange={(next) => onChange({ source: next as Criterion["source"] })}
        />
      </td>
      <td className="pr-2">
        <TextInput
          className="!w-20"
          type="number"
          aria-label={`Scale of ${c.name}`}
          min={1}
          max={1000}
          step={1}
          required
          value={c.scale}
          onChange={(e) => onChange({ scale: Math.max(1, Math.round(Number(e.target.value))) })}
        />
      </td>
      <td className="pr-2">
        <TextInput
          className="!w-20"
          type="number"
          aria-label={`Weight of ${c.name}`}
          min={-100}
          max={100}
          step="any"
          required
          value={c.weight}
          onChange={(e) => onChange({ weight: Number(e.target.value) })}
        />
      </td>
      <td className="tabular-nums text-ink-soft">
        {total === 0 ? "–" : Math.round((Math.abs(c.weight) * 100) / total)}
        {c.weight < 0 && " for little"}
      </td>
      <td>
        <Button
          look="quiet"
          small
          className="!px-1"
          aria-label={`Take out ${c.name}`}
          onClick={onRemove}
        >
          <X size={13} aria-hidden="true" />
        </Button>
      </td>
    </tr>
  );
}
