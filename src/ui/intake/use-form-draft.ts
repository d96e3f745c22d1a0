"use client";
import { useState } from "react";
import { formFaults, type FormDefinition, type FormQuestion } from "@/core/intake/form";
import { withQuestion, withQuestionAt } from "@/core/intake/form-questions";
import type { FormChange, FormDraft, StoredForm } from "@/core/intake/forms-view";
import { problemOf, type Problem } from "@/ui/kit/request";
import { useWarnBeforeLeaving } from "@/ui/kit/use-warn-before-leaving";

/**
 * A form as it is typed, kept beside the stored one until it is stored or taken back.
 * @param onStore throws a Problem where it is refused
 */
export function useFormDraft(
  form: StoredForm,
  kept: FormDraft | null,
  onKeep: (draft: FormDraft | null) => void,
  onStore: (change: FormChange, seenVersion: number) => Promise<void>,
) {
  const { definition: draft, slug, version } = kept ?? form;
  const [problem, setProblem] = useState<Problem | null>(null);
  const differs = (d: Pick<FormDraft, "definition" | "slug">) =>
    JSON.stringify(d.definition) !== JSON.stringify(form.definition) || d.slug !== form.slug;
  const changed = differs({ definition: draft, slug });
  useWarnBeforeLeaving(changed);
  const keep = (change: Partial<FormDraft>) => {
    const next = { definition: draft, slug, version, ...change };
    // Typed back to what is stored, it is nothing to keep.
    onKeep(differs(next) ? next : null);
  };
  const set = (change: Partial<FormDefinition>) => keep({ definition: { ...draft, ...change } });
  const { questions } = draft;
  return {
    draft,
    slug,
    version,
    changed,
    problem,
    faults: formFaults(draft),
    set,
    setSlug: (next: string) => keep({ slug: next }),
    setQuestion: (id: string, change: Partial<FormQuestion>) =>
      set({ questions: questions.map((q) => (q.id === id ? { ...q, ...change } : q)) }),
    move: (id: string, to: number) => set({ questions: withQuestionAt(questions, id, to) }),
    /** Adds a question; answers the id it has got. */
    add: (question: FormQuestion): string => {
      const { id, questions: next } = withQuestion(questions, question);
      set({ questions: next });
      return id;
    },
    takeBack: () => {
      onKeep(null);
      setProblem(null);
    },
    store: async (change: FormChange) => {
      try {
        await onStore(change, version);
        setProblem(null);
      } catch (error) {
        setProblem(problemOf(error));
      }
    },
  };
}
