"use client";
import { X } from "lucide-react";
import { useCallback, useState } from "react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { ParameterEditor } from "@/core/workflow/parameter";
import { AddMenu } from "@/ui/kit/add-menu";
import { Button } from "@/ui/kit/button";
import { ParameterFields } from "./parameter-fields";

/** A list of rules, each as its sentence with its fields beneath it. */
export function RuleList<T extends object>({
  title,
  none,
  add,
  rules,
  mayEdit,
  words,
  options,
  make,
  editors,
  vocabulary,
  onChange,
}: {
  title: string;
  none: string;
  add: string;
  rules: T[];
  mayEdit: boolean;
  words: (rule: T) => string;
  options: { value: string; label: string }[];
  make: (kind: string) => T;
  /** How what a rule leaves open is edited. */
  editors: (rule: T) => Partial<Record<string, ParameterEditor>>;
  vocabulary: Vocabulary;
  onChange: (rules: T[]) => void;
}) {
  // What was just added: it comes into view, and its first field is ready to be filled.
  const [added, setAdded] = useState<number | null>(null);
  const arrive = useCallback((rule: HTMLLIElement | null) => {
    if (!rule) return;
    rule.scrollIntoView({ block: "nearest" });
    const first = ["[data-begin]", "[data-open] :is(input,textarea,button)", "button"]
      .map((where) => rule.querySelector<HTMLElement>(where))
      .find((field) => field !== null);
    first?.focus();
  }, []);
  return (
    <div role="group" aria-label={title}>
      <h2 className="text-[15px]">{title}</h2>
      {rules.length === 0 && <p className="text-[13px] text-ink-soft">{none}</p>}
      <ul>
        {rules.map((rule, i) => (
          <li
            key={i}
            ref={i === added ? arrive : undefined}
            className="border-t border-line py-1.5"
          >
            <div className="flex items-center gap-2">
              <p className="flex-1">{words(rule)}</p>
              {mayEdit && (
                <Button
                  look="quiet"
                  small
                  className="!px-1"
                  aria-label={`Take out: ${words(rule)}`}
                  onClick={() => onChange(rules.filter((_, j) => j !== i))}
                >
                  <X size={13} aria-hidden="true" />
                </Button>
              )}
            </div>
            {mayEdit && (
              <div data-open>
                <ParameterFields
                  rule={rule}
                  editors={editors(rule)}
                  vocabulary={vocabulary}
                  onChange={(next) => onChange(rules.map((r, j) => (j === i ? next : r)))}
                />
              </div>
            )}
          </li>
        ))}
      </ul>
      {mayEdit && (
        <AddMenu
          label={add}
          options={options}
          takesFocus
          onAdd={(kind) => {
            setAdded(rules.length);
            onChange([...rules, make(kind)]);
          }}
        />
      )}
    </div>
  );
}
