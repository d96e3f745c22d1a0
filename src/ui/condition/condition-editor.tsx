"use client";
import { FormProblem } from "@/ui/kit/note";
import { Choice } from "@/ui/kit/check";
import { useId, useState } from "react";
import { QueryBuilder, type RuleGroupType } from "react-querybuilder";
import {
  asksPromise,
  asksWhoLooks,
  EVERY_ITEM,
  isRead,
  operatorsFor,
  type Condition,
  type WrittenCondition,
} from "@/core/condition/condition";
import type { FactName } from "@/core/condition/facts";
import { printCel } from "@/core/condition/cel-print";
import { writtenSentence } from "@/core/condition/sentence";
import { factLabel, factsOffered, type Vocabulary } from "@/core/condition/vocabulary";
import { BuilderAdd, BuilderNot, BuilderRemove, BuilderSelect } from "./builder-controls";
import { CelField } from "./cel-field";
import { conditionOf, queryOf } from "./query";
import { ValueEditor } from "./value-editor";

const CLASSES = {
  queryBuilder: "condition-builder",
  ruleGroup: "condition-group",
  rule: "condition-rule",
};

const CONTROLS = {
  valueEditor: ValueEditor,
  fieldSelector: BuilderSelect,
  operatorSelector: BuilderSelect,
  combinatorSelector: BuilderSelect,
  addRuleAction: BuilderAdd,
  addGroupAction: BuilderAdd,
  removeRuleAction: BuilderRemove,
  removeGroupAction: BuilderRemove,
  notToggle: BuilderNot,
};

const WORDS = {
  addRule: { label: "Add a comparison", title: "Add a comparison" },
  addGroup: { label: "Add a group", title: "Add a group" },
  removeRule: { label: "×", title: "Take the comparison out" },
  removeGroup: { label: "×", title: "Take the group out" },
  notToggle: { label: "not so", title: "Turn the group round" },
  combinators: { title: "How they are joined" },
  fields: { title: "Fact", placeholderName: "", placeholderLabel: "", placeholderGroupLabel: "" },
  operators: {
    title: "Comparison",
    placeholderName: "",
    placeholderLabel: "",
    placeholderGroupLabel: "",
  },
  value: { title: "Value" },
};

interface Props {
  condition: WrittenCondition;
  vocabulary: Vocabulary;
  /** Whether it is asked by the project, so that nobody is "me" in it. */
  sameForAll?: boolean;
  onChange: (condition: WrittenCondition) => void;
}

/** A condition on nothing yet begins as an empty text. */
const isAny = (condition: Condition) => condition.kind === "all" && condition.of.length === 0;

/** A condition to be built, read and written: builder, sentence and text always say the same. */
export function ConditionEditor({ condition, vocabulary, sameForAll = false, onChange }: Props) {
  const [textChosen, setTextChosen] = useState(false);
  const name = useId();
  const read = isRead(condition);
  const asText = textChosen || !read;
  const query = queryOf(read ? condition : EVERY_ITEM);
  return (
    <div
      className="flex flex-col gap-2 border-l-2 border-line pl-3"
      role="group"
      aria-label="Condition"
    >
      <div className="flex items-start gap-3">
        <p className="flex-1 text-[13px]" aria-live="polite">
          <span className="text-ink-soft">when</span> {writtenSentence(condition, vocabulary)}
        </p>
        <div role="radiogroup" aria-label="How to edit it" className="flex gap-2 text-[12.5px]">
          {[false, true].map((text) => (
            <Choice
              key={String(text)}
              name={name}
              checked={asText === text}
              disabled={!text && !read}
              onChange={() => setTextChosen(text)}
            >
              {text ? "as text" : "by choosing"}
            </Choice>
          ))}
        </div>
      </div>
      {sameForAll && read && asksWhoLooks(condition) && (
        <FormProblem>
          It is the same for everybody, so it cannot ask who looks (me, my teams).
        </FormProblem>
      )}
      {sameForAll && read && asksPromise(condition) && (
        <FormProblem>How promises stand can only be asked in views and their filters.</FormProblem>
      )}
      {asText ? (
        <CelField
          text={!read ? condition.text : isAny(condition) ? "" : printCel(condition, vocabulary)}
          vocabulary={vocabulary}
          onChange={onChange}
        />
      ) : (
        <QueryBuilder
          fields={factsOffered(vocabulary).map((name) => ({
            name,
            label: factLabel(name, vocabulary),
          }))}
          query={query}
          onQueryChange={(next: RuleGroupType) => {
            const changed = conditionOf(next, vocabulary);
            if (JSON.stringify(changed) !== JSON.stringify(conditionOf(query, vocabulary)))
              onChange(changed);
          }}
          getOperators={(field) =>
            operatorsFor(field as FactName).map((op) => ({ name: op, label: op }))
          }
          combinators={[
            { name: "and", label: "all of these" },
            { name: "or", label: "any of these" },
          ]}
          controlElements={CONTROLS}
          controlClassnames={CLASSES}
          translations={WORDS}
          context={{ vocabulary, sameForAll }}
          showNotToggle
          addRuleToNewGroups
          resetOnFieldChange
          resetOnOperatorChange
        />
      )}
    </div>
  );
}
