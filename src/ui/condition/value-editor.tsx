"use client";
import { DateInput } from "@/ui/kit/date-input";
import { SelectSeveral } from "@/ui/kit/select-several";
import { TextInput } from "@/ui/kit/field";
import { Select } from "@/ui/kit/select";
import { useState } from "react";
import type { ValueEditorProps } from "react-querybuilder";
import {
  comparableWith,
  otherFact,
  type ConditionValue,
  type Operator,
} from "@/core/condition/condition";
import {
  meansSeveral,
  ONE_SPRINT_WORDS,
  SPRINT_WORDS,
  sprintName,
  type SprintWord,
} from "@/core/condition/sprint-word";
import { factOf, isFactName, type FactName } from "@/core/condition/facts";
import {
  factLabel,
  factsOffered,
  factUnit,
  optionsOf,
  type Vocabulary,
} from "@/core/condition/vocabulary";
import { firstValue } from "./query";

const ME = "\u0000me";
const MY_TEAMS = "\u0000my teams";

const sprintKey = (word: SprintWord) => `\u0000${word}`;
const valueOfKey = (key: string): ConditionValue => {
  if (key === ME) return { who: "me" };
  const sprint = SPRINT_WORDS.find((word) => sprintKey(word) === key);
  return sprint ? { sprint } : key;
};

interface ValueProps {
  fact: FactName;
  operator: Operator;
  given: ConditionValue | null;
  vocabulary: Vocabulary;
  sameForAll: boolean;
  change: (value: ConditionValue) => void;
}

/**
 * What a comparison is with: a value in the form that its fact has, or another fact of the item.
 */
export function ValueEditor({ field, operator, value, handleOnChange, context }: ValueEditorProps) {
  const { vocabulary, sameForAll } = context as { vocabulary: Vocabulary; sameForAll: boolean };
  if (operator === "is set" || operator === "is empty" || !isFactName(field)) return null;
  const props: ValueProps = {
    fact: field,
    operator: operator as Operator,
    given: value as ConditionValue | null,
    vocabulary,
    sameForAll,
    change: handleOnChange as (value: ConditionValue) => void,
  };
  const others = comparableWith(field, operator as Operator, factsOffered(vocabulary));
  if (others.length === 0) return <PlainValue {...props} />;
  const other = otherFact({ value: props.given });
  return (
    <span className="inline-flex items-center gap-1">
      <Select<string>
        className="!w-auto"
        label="Compared with"
        value={other ?? ""}
        options={[
          { value: "", label: kindWords(field) },
          {
            group: "another fact",
            options: others.map((name) => ({ value: name, label: factLabel(name, vocabulary) })),
          },
        ]}
        onChange={(next) =>
          props.change(
            next === ""
              ? (firstValue(field, operator as Operator, vocabulary) ?? "…")
              : { fact: next as FactName },
          )
        }
      />
      {other === null && <PlainValue {...props} />}
    </span>
  );
}

const kindWords = (fact: FactName) =>
  ({ number: "a number", date: "a day", text: "a text", choice: "a choice", flag: "", set: "" })[
    factOf(fact).kind
  ];

function PlainValue({ fact, operator, given, vocabulary, sameForAll, change }: ValueProps) {
  const { kind, options } = factOf(fact);
  if (operator === "counts at least" || operator === "counts at most")
    return (
      <NumberValue
        value={typeof given === "number" ? given : 1}
        step={1}
        change={(n) => change(Math.max(0, Math.round(n)))}
      />
    );
  if (kind === "number")
    return (
      <span className="inline-flex items-center gap-1">
        <NumberValue value={typeof given === "number" ? given : 0} step="any" change={change} />
        {factUnit(fact, vocabulary)}
      </span>
    );
  if (kind === "flag")
    return (
      <Select
        className="!w-auto"
        label="Value"
        value={String(given)}
        options={[
          { value: "true", label: "true" },
          { value: "false", label: "false" },
        ]}
        onChange={(next) => change(next === "true")}
      />
    );
  if (kind === "date") return <DateValue given={given} change={change} />;
  if (options === null)
    return (
      <TextInput
        className="!w-40"
        aria-label="Value"
        maxLength={300}
        value={typeof given === "string" ? given : ""}
        onChange={(e) => change(e.target.value || "…")}
      />
    );
  const choices = optionsOf(fact, vocabulary).map((o) => ({ value: o.id, label: o.label }));
  if (operator === "one of" || operator === "none of") {
    if (options === "teams" && !sameForAll) choices.push({ value: MY_TEAMS, label: "my teams" });
    if (options === "sprints")
      choices.push(
        ...SPRINT_WORDS.filter(meansSeveral).map((word) => ({
          value: sprintKey(word),
          label: sprintName(word),
        })),
      );
    const chosen = listChosen(given);
    return (
      <SelectSeveral
        label="Values"
        values={chosen}
        options={choices}
        onChange={(next) => {
          const added = next.find((key) => !chosen.includes(key));
          const word = added === undefined ? null : wordOf(added);
          const named = next.filter((key) => wordOf(key) === null);
          if (word) change(word);
          else if (named.length > 0) change(named);
        }}
      />
    );
  }
  if (options === "sprints")
    choices.unshift(
      ...ONE_SPRINT_WORDS.map((word) => ({ value: sprintKey(word), label: sprintName(word) })),
    );
  if (options === "people" && !sameForAll)
    choices.unshift({ value: ME, label: "me, whoever looks" });
  const one =
    given && typeof given === "object" && !Array.isArray(given)
      ? "sprint" in given
        ? sprintKey(given.sprint)
        : ME
      : String(given ?? "");
  return (
    <Select
      className="!w-auto"
      label="Value"
      value={one}
      options={choices.map((c) => ({ value: c.value, label: c.label }))}
      onChange={(next) => change(valueOfKey(next))}
    />
  );
}

/** The word that a key stands for; null where it is the id of one thing. */
function wordOf(key: string): ConditionValue | null {
  if (key === MY_TEAMS) return { who: "my teams" };
  const value = valueOfKey(key);
  return typeof value === "string" ? null : value;
}

/** The keys of what a list of values says: several values, or one word for several. */
function listChosen(given: ConditionValue | null): string[] {
  if (Array.isArray(given)) return given;
  if (given === null || typeof given !== "object") return [];
  if ("who" in given) return [MY_TEAMS];
  return "sprint" in given ? [sprintKey(given.sprint)] : [];
}

/** A number that may be empty for a moment, while another one is typed. */
function NumberValue({
  value,
  step,
  change,
}: {
  value: number;
  step: number | "any";
  change: (value: number) => void;
}) {
  const [empty, setEmpty] = useState(false);
  return (
    <TextInput
      className="!w-20"
      type="number"
      step={step}
      aria-label="Value"
      value={empty ? "" : value}
      onChange={(e) => {
        setEmpty(e.target.value === "");
        if (e.target.value !== "" && Number.isFinite(Number(e.target.value)))
          change(Number(e.target.value));
      }}
      onBlur={() => setEmpty(false)}
    />
  );
}

function DateValue({
  given,
  change,
}: {
  given: ConditionValue | null;
  change: (value: ConditionValue) => void;
}) {
  const relative = typeof given === "object" && given !== null && "day" in given;
  return (
    <span className="inline-flex items-center gap-1">
      <Select
        className="!w-auto"
        label="Kind of day"
        value={relative ? "day" : "date"}
        options={[
          { value: "day", label: "days from today" },
          { value: "date", label: "the date" },
        ]}
        onChange={(next) =>
          change(next === "day" ? { day: 0 } : new Date().toISOString().slice(0, 10))
        }
      />
      {relative ? (
        <NumberValue
          value={given.day}
          step={1}
          change={(day) => change({ day: Math.round(day) })}
        />
      ) : (
        <DateInput
          label="Value"
          value={typeof given === "string" ? given : ""}
          onChange={(day) => day && change(day)}
        />
      )}
    </span>
  );
}
