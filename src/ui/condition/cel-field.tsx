"use client";
import { FormProblem } from "@/ui/kit/note";
import { TextArea } from "@/ui/kit/field";
import { useId, useRef, useState, type KeyboardEvent } from "react";
import { completions, type Completion } from "@/core/condition/complete";
import type { Condition } from "@/core/condition/condition";
import { parseCel } from "@/core/condition/cel-parse";
import type { Vocabulary } from "@/core/condition/vocabulary";

/**
 * A condition's text: what can come next is offered, what is wrong is marked at its character. It
 * counts once it is right.
 */
export function CelField({
  text,
  vocabulary,
  onChange,
}: {
  text: string;
  vocabulary: Vocabulary;
  onChange: (condition: Condition) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [offered, setOffered] = useState<Completion[]>([]);
  const [at, setAt] = useState(0);
  const field = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const shown = draft ?? text;
  const { problem } = parseCel(shown, vocabulary);
  const write = (next: string, cursor: number) => {
    setDraft(next);
    setAt(0);
    setOffered(completions(next, cursor, vocabulary).slice(0, 8));
    const { condition } = parseCel(next, vocabulary);
    if (condition) onChange(condition);
  };
  const take = (completion: Completion) => {
    const cursor = field.current?.selectionStart ?? shown.length;
    const next = shown.slice(0, completion.from) + completion.insert + shown.slice(cursor);
    write(next, completion.from + completion.insert.length);
    requestAnimationFrame(() => {
      field.current?.focus();
      field.current?.setSelectionRange(
        completion.from + completion.insert.length,
        completion.from + completion.insert.length,
      );
    });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === " " && event.ctrlKey)
      setOffered(
        completions(shown, field.current?.selectionStart ?? shown.length, vocabulary).slice(0, 8),
      );
    else if (offered.length > 0 && event.key === "ArrowDown")
      setAt((n) => (n + 1) % offered.length);
    else if (offered.length > 0 && event.key === "ArrowUp")
      setAt((n) => (n + offered.length - 1) % offered.length);
    else if (offered.length > 0 && (event.key === "Tab" || event.key === "Enter"))
      take(offered[at]);
    else if (offered.length > 0 && event.key === "Escape") setOffered([]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="relative">
      <TextArea
        ref={field}
        className="key !text-[13px]"
        rows={3}
        spellCheck={false}
        aria-label="Condition as text"
        aria-invalid={problem !== null}
        aria-controls={list}
        placeholder={'item.type == "Bug" && item.days_in_state > 3'}
        value={shown}
        onChange={(e) => write(e.target.value, e.target.selectionStart)}
        onKeyDown={onKeyDown}
        onBlur={() => {
          setOffered([]);
          if (!problem) setDraft(null);
        }}
      />
      {problem && (
        <FormProblem>
          <code className="key">
            {shown.slice(Math.max(0, problem.at - 18), problem.at)}
            <mark className="bg-alarm-soft text-alarm underline">{shown[problem.at] ?? "␣"}</mark>
            {shown.slice(problem.at + 1, problem.at + 12)}
          </code>{" "}
          Character {problem.at + 1}: {problem.sentence}
        </FormProblem>
      )}
      <ul
        id={list}
        role="listbox"
        aria-label="What can come next"
        hidden={offered.length === 0}
        className="popover absolute left-0 top-full z-30 w-[320px] !p-1"
      >
        {offered.map((c, i) => (
          <li
            key={`${c.insert} ${i}`}
            role="option"
            aria-selected={i === at}
            className={`menu-item cursor-pointer ${i === at ? "bg-accent-soft" : ""}`}
            onMouseDown={(e) => (e.preventDefault(), take(c))}
          >
            <span className="flex-1">{c.label}</span>
            <span className="text-[12px] text-ink-soft">{c.note}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
