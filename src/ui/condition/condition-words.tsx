"use client";
import { isRead, type Condition } from "@/core/condition/condition";
import { conditionSentence } from "@/core/condition/sentence";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { TextButton } from "@/ui/kit/button";
import { ConditionEditor } from "./condition-editor";

/** A condition as a sentence that can be pressed, or, opened, as what changes it. */
export function ConditionWords({
  condition,
  vocabulary,
  open,
  onOpen,
  onChange,
}: {
  condition: Condition;
  vocabulary: Vocabulary;
  open: boolean;
  onOpen: () => void;
  onChange: (condition: Condition) => void;
}) {
  return open ? (
    <ConditionEditor
      condition={condition.kind === "compare" ? { kind: "all", of: [condition] } : condition}
      vocabulary={vocabulary}
      onChange={(next) => isRead(next) && onChange(next)}
    />
  ) : (
    <TextButton className="text-left text-[12.5px]" onClick={onOpen}>
      {conditionSentence(condition, vocabulary)}
    </TextButton>
  );
}
