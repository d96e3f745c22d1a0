"use client";
import { X } from "lucide-react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { recipientWords, type Recipient } from "@/core/workflow/follow-ups/tell";
import { AddMenu } from "@/ui/kit/add-menu";

/** Who can be told. */
function tellable(vocabulary: Vocabulary) {
  const everybody: Recipient[] = [
    { kind: "assignee" },
    { kind: "reviewer" },
    { kind: "creator" },
    { kind: "requester" },
    { kind: "leads" },
    ...vocabulary.teams.map((t): Recipient => ({ kind: "team", teamId: t.id })),
    ...vocabulary.people.map((p): Recipient => ({ kind: "person", personId: p.id })),
  ];
  return everybody.map((told) => ({
    value: JSON.stringify(told),
    label: recipientWords(told, vocabulary),
  }));
}

/** Who is told; the last of them stays. */
export function RecipientList({
  whom,
  vocabulary,
  onChange,
}: {
  whom: readonly Recipient[];
  vocabulary: Vocabulary;
  onChange: (whom: Recipient[]) => void;
}) {
  return (
    <div className="flex flex-wrap items-center gap-1">
      {whom.map((told, i) => (
        <button
          key={i}
          type="button"
          className="inline-flex items-center gap-1 rounded-[3px] border border-line px-1.5 text-[12.5px]"
          aria-label={`Do not tell ${recipientWords(told, vocabulary)}`}
          disabled={whom.length === 1}
          onClick={() => onChange(whom.filter((_, j) => j !== i))}
        >
          {recipientWords(told, vocabulary)} {whom.length > 1 && <X size={12} aria-hidden="true" />}
        </button>
      ))}
      <AddMenu
        label="and…"
        options={tellable(vocabulary)}
        onAdd={(value) => onChange([...whom, JSON.parse(value) as Recipient])}
      />
    </div>
  );
}
