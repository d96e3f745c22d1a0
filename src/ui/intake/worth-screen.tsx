"use client";
import { Button } from "@/ui/kit/button";
import { Select } from "@/ui/kit/select";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { movesBetween, orderBy, SCORE_ORDERS, type ScoreOrder } from "@/core/intake/scoring";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { useReadAgain } from "@/ui/kit/use-read-again";
import { ModelEditor } from "./model-editor";
import { v7 as newId } from "uuid";
import type { WorthView, WorthRow } from "@/core/intake/worth-view";
import { intakeContract } from "@/core/intake/contract";
import type { WorthRequest } from "@/core/intake/request";
import { queryOf, keyOf, ask } from "@/ui/kit/request";
import { WorthMoves } from "@/ui/intake/worth-moves";
import { WorthCompare } from "@/ui/intake/worth-compare";
import { WorthHead, WorthLine } from "@/ui/intake/worth-line";

const ORDER_WORDS: Record<ScoreOrder, string> = {
  score: "score",
  "cost of delay": "cost of delay",
  "delay by duration": "value lost per week by size",
  votes: "votes",
};

/** What stands above the table. */
type Part = "table" | "model" | "moves";

/**
 * Requests by what they are worth, with the parts of each figure; the backlog can be put into that
 * order, seen before it is done.
 */
export function WorthScreen({ initial }: { initial: WorthView }) {
  const client = useQueryClient();
  const { key } = initial.project;
  const { data: view } = useQuery({
    ...queryOf(intakeContract.worth, { params: { key } }),
    initialData: initial,
  });
  const readAgain = () =>
    client.invalidateQueries({ queryKey: keyOf(intakeContract.worth, { params: { key } }) });
  useReadAgain((message) => message.kind !== "database", readAgain);
  const [order, setOrder] = useState<ScoreOrder>("score");
  const [compared, setCompared] = useState<string[]>([]);
  const [part, setPart] = useState<Part>("table");
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
    const request = (from: string[], to: string[]): WorthRequest => ({
      kind: "reorder",
      commandId: newId(),
      seen: from,
      wanted: to,
    });
    const done = `The backlog is in the order of ${ORDER_WORDS[order]}.`;
    const back = () => send(request(wanted, seen));
    if (await send(request(seen, wanted), done, back)) setPart("table");
  };
  const score = (row: WorthRow, criterionId: string, value: string) => {
    const { [criterionId]: _, ...others } = row.request.scores;
    void send({
      kind: "score",
      itemId: row.itemId,
      scores: value === "" ? others : { ...others, [criterionId]: Number(value) },
    });
  };
  /** Two at most: a third takes the place of the first. */
  const compare = (id: string, on: boolean) =>
    setCompared((all) => (on ? [...all, id].slice(-2) : all.filter((other) => other !== id)));
  const pair = compared
    .map((id) => view.rows.find((r) => r.itemId === id))
    .filter((r) => r !== undefined);
  return (
    <div className="flex h-full flex-col">
      <WorthTools
        view={view}
        order={order}
        onOrder={setOrder}
        part={part}
        onPart={setPart}
        moves={moves.length}
      />
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
          <WorthMoves
            moves={moves}
            rows={view.rows}
            onReorder={() => void reorder()}
            onLeave={() => setPart("table")}
          />
        )}
        {pair.length === 2 && (
          <WorthCompare pair={pair} model={view.model} onClose={() => setCompared([])} />
        )}
        {view.rows.length === 0 && (
          <p className="py-10 text-center text-ink-soft">
            The backlog is empty. What is accepted in Intake stands here with what it is worth.
          </p>
        )}
        {view.rows.length > 0 && (
          <table className="w-full text-[13px]">
            <WorthHead criteria={view.model.criteria} />
            <tbody>
              {rows.map((row) => (
                <WorthLine
                  key={row.itemId}
                  row={row}
                  criteria={view.model.criteria}
                  locked={!view.mayScore}
                  compared={compared.includes(row.itemId)}
                  onScore={(criterionId, value) => score(row, criterionId, value)}
                  votesAgainst={view.model.votesAgainst === true}
                  onVoted={readAgain}
                  onCompare={(on) => compare(row.itemId, on)}
                />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </div>
  );
}

/** By what the requests are ordered, and what can be done with that order. */
function WorthTools({
  view,
  order,
  onOrder,
  part,
  onPart,
  moves,
}: {
  view: WorthView;
  order: ScoreOrder;
  onOrder: (order: ScoreOrder) => void;
  part: Part;
  onPart: (part: Part) => void;
  moves: number;
}) {
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2.5">
      <h1 className="text-[18px]">What the backlog of {view.project.name} is worth</h1>
      <label className="flex items-center gap-1.5 text-[13.5px] text-ink-soft">
        by
        <Select
          className="!w-auto font-semibold"
          value={order}
          options={SCORE_ORDERS.map((o) => ({ value: o, label: ORDER_WORDS[o] }))}
          onChange={(next) => onOrder(next as ScoreOrder)}
        />
      </label>
      <span className="flex-1" />
      {view.maySetModel && (
        <Button
          small
          aria-pressed={part === "model"}
          onClick={() => onPart(part === "model" ? "table" : "model")}
        >
          The model
        </Button>
      )}
      {view.mayScore && (
        <Button
          disabled={moves === 0}
          aria-pressed={part === "moves"}
          onClick={() => onPart(part === "moves" ? "table" : "moves")}
        >
          Reorder the backlog by this
        </Button>
      )}
    </div>
  );
}
