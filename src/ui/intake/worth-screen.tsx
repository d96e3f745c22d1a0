"use client";
import { TextInput } from "@/ui/kit/field";
import { Check } from "@/ui/kit/check";
import { Button, TextButton } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { counted } from "@/core/formats/counted";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { ThumbsUp } from "lucide-react";
import { useState } from "react";
import {
  movesBetween,
  orderBy,
  SCORE_ORDERS,
  type ScoreOrder,
  type ScoringModel,
} from "@/core/intake/scoring";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { useLive } from "@/ui/kit/use-live";
import { ModelEditor } from "./model-editor";
import { v7 as newId } from "uuid";
import type { WorthView, WorthRow } from "@/core/intake/worth-view";
import { intakeContract } from "@/core/intake/contract";
import type { WorthRequest } from "@/core/intake/request";
import { queryOf, keyOf, ask } from "@/ui/kit/request";

const ORDER_WORDS: Record<ScoreOrder, string> = {
  score: "score",
  "cost of delay": "cost of delay",
  "delay by duration": "value lost per week by size",
  votes: "votes",
};

/**
 * Requests by what they are worth, with the parts of each figure; the backlog can be put into that
 * order, seen before it is done.
 */
export function WorthScreen({ initial }: { initial: WorthView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { openItem } = usePanel();
  const { data: view } = useQuery({
    ...queryOf(intakeContract.worth, { params: { key } }),
    initialData: initial,
  });
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(intakeContract.worth, { params: { key } }) });
  useLive((message) => {
    if (message.kind !== "database") void readAgain();
  });
  const [order, setOrder] = useState<ScoreOrder>("score");
  const [compared, setCompared] = useState<string[]>([]);
  const [part, setPart] = useState<"table" | "model" | "moves">("table");
  const rows = orderBy(view.rows, order);
  const wanted = rows.map((r) => r.itemId);
  const seen = view.rows.map((r) => r.itemId);
  const moves = movesBetween(seen, wanted);
  const send = async (
    body: WorthRequest,
    done?: string,
    undo?: () => Promise<unknown>,
  ): Promise<boolean> => {
    try {
      await ask(intakeContract.changeWorth, { params: { key }, body });
      if (done) tellDone(done, undo);
      return true;
    } catch (error) {
      tellProblem(error);
      return false;
    } finally {
      await readAgain();
    }
  };
  const reorder = async () => {
    const back = () =>
      ask(intakeContract.changeWorth, {
        params: { key },
        body: { kind: "reorder", commandId: newId(), seen: wanted, wanted: seen },
      }).then(readAgain);
    if (
      await send(
        { kind: "reorder", commandId: newId(), seen, wanted },
        `The backlog is in the order of ${ORDER_WORDS[order]}.`,
        back,
      )
    )
      setPart("table");
  };
  const score = (row: WorthRow, criterionId: string, value: string) => {
    const { [criterionId]: _, ...others } = row.request.scores;
    void send({
      kind: "score",
      itemId: row.itemId,
      scores: value === "" ? others : { ...others, [criterionId]: Number(value) },
    });
  };
  const judged = view.model.criteria.filter((c) => c.source === "judged");
  const number = (n: number | null, digits = 0) =>
    n === null ? (
      <span className="text-ink-soft">–</span>
    ) : (
      n.toLocaleString("en", { maximumFractionDigits: digits })
    );
  const pair = compared
    .map((id) => view.rows.find((r) => r.itemId === id))
    .filter((r) => r !== undefined);
  return (
    <div className="flex h-full flex-col">
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
        <h1 className="text-[18px]">What the backlog of {view.project.name} is worth</h1>
        <label className="flex items-center gap-1.5 text-[13.5px] text-ink-soft">
          by
          <Select
            className="!w-auto font-semibold"
            value={order}
            options={SCORE_ORDERS.map((o) => ({ value: o, label: ORDER_WORDS[o] }))}
            onChange={(next) => setOrder(next as ScoreOrder)}
          />
        </label>
        <span className="flex-1" />
        {view.maySetModel && (
          <Button
            small
            aria-pressed={part === "model"}
            onClick={() => setPart(part === "model" ? "table" : "model")}
          >
            The model
          </Button>
        )}
        {view.mayScore && (
          <Button
            disabled={moves.length === 0}
            aria-pressed={part === "moves"}
            onClick={() => setPart(part === "moves" ? "table" : "moves")}
          >
            Reorder the backlog by this
          </Button>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto px-4 py-2">
        {part === "model" && (
          <ModelEditor
            model={view.model}
            version={view.version}
            numbers={view.numbers}
            projectKey={key}
            onDone={() => (setPart("table"), void readAgain())}
          />
        )}
        {part === "moves" && (
          <section aria-label="What would move" className="mb-4 max-w-[720px] bg-sheet p-3">
            <h2 className="text-[15px]">
              {moves.length} of {counted(seen.length, "item")} would change{" "}
              {moves.length === 1 ? "its" : "their"} place
            </h2>
            <ol className="max-h-[300px] overflow-y-auto">
              {moves.map((m) => {
                const row = view.rows.find((r) => r.itemId === m.id)!;
                return (
                  <li key={m.id} className="flex gap-3 border-t border-line py-0.5 text-[13px]">
                    <span className="w-24 text-right tabular-nums">
                      {m.from}{" "}
                      <span aria-label={m.to < m.from ? "up to" : "down to"}>
                        {m.to < m.from ? "↑" : "↓"}
                      </span>{" "}
                      <b>{m.to}</b>
                    </span>
                    <span className="key w-20">{row.key}</span>
                    <span className="min-w-0 flex-1 truncate">{row.title}</span>
                  </li>
                );
              })}
            </ol>
            <div className="mt-2 flex gap-2">
              <Button look="accent" small onClick={() => void reorder()}>
                Put the backlog into this order
              </Button>
              <Button look="quiet" small onClick={() => setPart("table")}>
                Leave it as it is
              </Button>
            </div>
          </section>
        )}
        {pair.length === 2 && (
          <Compare pair={pair} model={view.model} onClose={() => setCompared([])} />
        )}
        {view.rows.length === 0 && (
          <p className="py-10 text-center text-ink-soft">
            The backlog is empty. What is accepted in Intake stands here with what it is worth.
          </p>
        )}
        {view.rows.length > 0 && (
          <table className="w-full text-[13px]">
            <thead className="sticky top-0 bg-paper text-left text-[12px] text-ink-soft">
              <tr>
                <th className="py-1 font-normal">Place</th>
                <th className="font-normal">Request</th>
                {view.model.criteria.map((c) => (
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
            <tbody>
              {rows.map((row) => (
                <tr key={row.itemId} className="border-t border-line" data-worth={row.key}>
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
                  {view.model.criteria.map((c) => (
                    <td key={c.id} className="px-1">
                      {c.source === "judged" ? (
                        <ScoreInput
                          label={`${c.name} of ${row.key}`}
                          scale={c.scale}
                          value={row.request.scores[c.id] ?? null}
                          locked={!view.mayScore}
                          onStore={(value) => score(row, c.id, value)}
                        />
                      ) : c.source === "votes" ? (
                        <Button
                          look="quiet"
                          small
                          className={row.voted ? "!px-1 text-accent" : "!px-1"}
                          aria-pressed={row.voted}
                          aria-label={`Vote for ${row.key}, ${row.request.votes} so far`}
                          disabled={!view.mayScore}
                          onClick={() =>
                            void send({ kind: "vote", itemId: row.itemId, on: !row.voted })
                          }
                        >
                          <ThumbsUp size={13} aria-hidden="true" /> {row.request.votes}
                        </Button>
                      ) : (
                        number(row.request.estimate)
                      )}
                    </td>
                  ))}
                  <td className="text-right font-display text-[15px] font-semibold tabular-nums">
                    {row.parts.score === null ? (
                      <span className="text-[12px] font-normal text-ink-soft">
                        {judged.filter((c) => row.request.scores[c.id] === undefined).length} to
                        judge
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
                      <Check
                        aria-label={`Compare ${row.key}`}
                        checked={compared.includes(row.itemId)}
                        onChange={(on) =>
                          setCompared((all) =>
                            on
                              ? [...all, row.itemId].slice(-2)
                              : all.filter((id) => id !== row.itemId),
                          )
                        }
                      />
                    </label>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </div>
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

/** Two requests beside each other, part by part. */
function Compare({
  pair,
  model,
  onClose,
}: {
  pair: WorthRow[];
  model: ScoringModel;
  onClose: () => void;
}) {
  const figure = (row: WorthRow, points: number | null | undefined) => (
    <td key={row.itemId} className="px-3 text-right tabular-nums">
      {points === null || points === undefined ? "–" : Math.round(points * 10) / 10}
    </td>
  );
  return (
    <section aria-label="Compared" className="mb-4 max-w-[860px] bg-sheet p-3">
      <table className="w-full text-[13px]">
        <thead>
          <tr>
            <th className="text-left font-normal text-ink-soft">points of 100</th>
            {pair.map((r) => (
              <th key={r.itemId} className="px-3 text-right">
                {r.key} {r.title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {model.criteria.map((c) => (
            <tr key={c.id} className="border-t border-line">
              <td>{c.name}</td>
              {pair.map((r) =>
                figure(r, r.parts.parts.find((p) => p.criterionId === c.id)?.points),
              )}
            </tr>
          ))}
          {(["score", "costOfDelay", "delayByDuration"] as const).map((what) => (
            <tr key={what} className="border-t border-line font-semibold">
              <td>
                {what === "score"
                  ? "Score"
                  : what === "costOfDelay"
                    ? "Cost of delay"
                    : "Lost a week by size"}
              </td>
              {pair.map((r) => figure(r, r.parts[what]))}
            </tr>
          ))}
        </tbody>
      </table>
      <Button look="quiet" small className="mt-1" onClick={onClose}>
        Close the comparison
      </Button>
    </section>
  );
}
