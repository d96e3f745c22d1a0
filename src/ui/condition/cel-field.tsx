"use client";
import { FormProblem } from "@/ui/kit/note";
import { TextArea } from "@/ui/kit/field";
import { useId, useRef, useState, type KeyboardEvent } from "react";
import { TextButton } from "@/ui/kit/button";
import { completions, type Completion } from "@/core/condition/complete";
import { LONGEST_TEXT, type WrittenCondition } from "@/core/condition/condition";
import { parseCel, type TextProblem } from "@/core/condition/cel-parse";
import type { Vocabulary } from "@/core/condition/vocabulary";

/** The list of what can come next takes so much height. */
const LIST_HEIGHT = 290;

/**
 * A condition's text: what can come next is offered, what is wrong is marked at its character. What
 * cannot be read yet is told as it was typed.
 */
export function CelField({
  text,
  vocabulary,
  onChange,
}: {
  text: string;
  vocabulary: Vocabulary;
  onChange: (condition: WrittenCondition) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const [offered, setOffered] = useState<Completion[]>([]);
  const [at, setAt] = useState(0);
  const [upwards, setUpwards] = useState(false);
  const field = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const shown = draft ?? text;
  const { problem } = parseCel(shown, vocabulary);
  const offer = (next: string, cursor: number) => {
    const below = window.innerHeight - (field.current?.getBoundingClientRect().bottom ?? 0);
    setUpwards(below < LIST_HEIGHT);
    setOffered(completions(next, cursor, vocabulary).slice(0, 8));
  };
  const store = (next: string) => {
    setDraft(next);
    onChange(parseCel(next, vocabulary).condition ?? { kind: "unread", text: next });
  };
  const write = (next: string, cursor: number) => {
    setAt(0);
    offer(next, cursor);
    store(next);
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
      offer(shown, field.current?.selectionStart ?? shown.length);
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
        maxLength={LONGEST_TEXT}
        onChange={(e) => write(e.target.value, e.target.selectionStart)}
        onKeyDown={onKeyDown}
        onBlur={() => {
          setOffered([]);
          if (!problem) setDraft(null);
        }}
      />
      {problem && <Mistake text={shown} problem={problem} onMend={store} />}
      <ul
        id={list}
        role="listbox"
        aria-label="What can come next"
        hidden={offered.length === 0}
        className={`popover absolute left-0 z-30 w-[320px] !p-1 ${upwards ? "bottom-full" : "top-full"}`}
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

/** Where a text cannot be read and why, with what was probably meant one click away. */
function Mistake({
  text,
  problem,
  onMend,
}: {
  text: string;
  problem: TextProblem;
  onMend: (text: string) => void;
}) {
  const { at, sentence, meant } = problem;
  return (
    <FormProblem>
      <code className="key">
        {text.slice(Math.max(0, at - 18), at)}
        <mark className="bg-alarm-soft text-alarm underline">{text[at] ?? "␣"}</mark>
        {text.slice(at + 1, at + 12)}
      </code>{" "}
      Character {at + 1}: {sentence} It stays as typed, and cannot be used before it is mended.
      {meant && (
        <>
          {" "}
          <TextButton
            onMouseDown={(e) => e.preventDefault()}
            onClick={() => onMend(text.slice(0, meant.from) + meant.insert + text.slice(meant.to))}
          >
            Put “{meant.insert}” there
          </TextButton>
        </>
      )}
    </FormProblem>
  );
}
