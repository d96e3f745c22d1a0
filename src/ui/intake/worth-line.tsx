"use client";

import type { ScoringModel } from "@/core/intake/scoring";
import type { WorthRow } from "@/core/intake/worth-view";
import { TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { TextInput } from "@/ui/kit/field";
import { usePanel } from "@/ui/kit/panel-context";
import { VoteButtons } from "@/ui/item/vote-buttons";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useState } from "react";

const number = (n: number | null) =>
  n === null ? (
    <span className="text-ink-soft">–</span>
  ) : (
    n.toLocaleString("en", { maximumFractionDigits: 0 })
  );

/** The heads of the table: the criteria of the model, and what comes of them. */
export function WorthHead({ criteria }: { criteria: ScoringModel["criteria"] }) {
  return (
    <thead className="sticky top-0 bg-paper text-left text-[12px] text-ink-soft">
      <tr>
        <th className="py-1 font-normal">Place</th>
        <th className="font-normal">Request</th>
        {criteria.map((c) => (
          <th
            key={c.id}
            className="max-w-[92px] px-1 font-normal"
            title={`${c.name}, 0 to ${c.scale}, weight ${c.weight}`}
          >
            <span className="line-clamp-2">{c.name}</span>
          </th>
        ))}
        <th className="text-right font-normal">Score</th>
        <th className="text-right font-normal">Cost of delay</th>
        <th className="text-right font-normal">Lost a week by size</th>
        <th className="text-right font-normal">Compare</th>
      </tr>
    </thead>
  );
}

/** One request with the parts of what it is worth. */
export function WorthLine({
  row,
  criteria,
  locked,
  compared,
  onScore,
  votesAgainst,
  onVoted,
  onCompare,
}: {
  row: WorthRow;
  criteria: ScoringModel["criteria"];
  locked: boolean;
  compared: boolean;
  /** An empty value takes the score back. */
  onScore: (criterionId: string, value: string) => void;
  votesAgainst: boolean;
  onVoted: () => Promise<unknown>;
  onCompare: (on: boolean) => void;
}) {
  const { openItem } = usePanel();
  const judged = criteria.filter((c) => c.source === "judged");
  return (
    <tr className="border-t border-line" data-worth={row.key}>
      <td className="w-10 text-right tabular-nums text-ink-soft">{row.place}</td>
      <td className="min-w-[240px] max-w-[380px] py-0.5 pl-2">
        <span className="flex items-center gap-2">
          <TypeGlyph typeId={row.typeId} />
          <TextButton className="key !text-accent" onClick={() => openItem(row.key)}>
            {row.key}
          </TextButton>
          <span className="min-w-0 flex-1 truncate">{row.title}</span>
        </span>
      </td>
      {criteria.map((c) => (
        <td key={c.id} className="px-1">
          {c.source === "judged" ? (
            <ScoreInput
              label={`${c.name} of ${row.key}`}
              scale={c.scale}
              value={row.request.scores[c.id] ?? null}
              locked={locked}
              onStore={(value) => onScore(c.id, value)}
            />
          ) : c.source === "votes" ? (
            <VoteButtons
              itemKey={row.key}
              votes={row.votes}
              against={votesAgainst}
              locked={locked}
              onVoted={onVoted}
            />
          ) : (
            number(row.request.estimate)
          )}
        </td>
      ))}
      <td className="text-right font-display text-[15px] font-semibold tabular-nums">
        {row.parts.score === null ? (
          <span className="text-[12px] font-normal text-ink-soft">
            {judged.filter((c) => row.request.scores[c.id] === undefined).length} to judge
          </span>
        ) : (
          Math.round(row.parts.score)
        )}
      </td>
      <td
        className="text-right tabular-nums"
        title={
          row.request.valuePerWeek === null
            ? undefined
            : `${row.request.valuePerWeek} a week × ${row.request.weeks ?? "?"} weeks`
        }
      >
        {number(row.parts.costOfDelay)}
      </td>
      <td
        className="text-right tabular-nums"
        title={
          row.request.estimate === null
            ? "not estimated"
            : `${row.request.valuePerWeek ?? "?"} a week ÷ ${row.request.estimate}`
        }
      >
        {number(row.parts.delayByDuration)}
      </td>
      <td className="text-right">
        <label className="inline-flex items-center justify-end">
          <Check aria-label={`Compare ${row.key}`} checked={compared} onChange={onCompare} />
        </label>
      </td>
    </tr>
  );
}

function ScoreInput({
  label,
  scale,
  value,
  locked,
  onStore,
}: {
  label: string;
  scale: number;
  value: number | null;
  locked: boolean;
  onStore: (value: string) => void;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const shown = draft ?? (value === null ? "" : String(value));
  return (
    <TextInput
      plain
      className="!w-14 text-center"
      type="number"
      min={0}
      max={scale}
      aria-label={label}
      placeholder={`–/${scale}`}
      disabled={locked}
      value={shown}
      onChange={(e) => setDraft(e.target.value)}
      onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      onBlur={() => {
        if (draft !== null && draft !== String(value ?? "")) onStore(draft);
        setDraft(null);
      }}
    />
  );
}
