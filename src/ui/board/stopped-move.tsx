"use client";
import { AskForm, withMore, type Answers } from "@/ui/item/ask-form";
import { Beside } from "@/ui/kit/beside";
import { cardAt } from "./at-card";
import type { Stopped } from "./use-moves";

/** Why a move was not made, beside the card, with a form for what is still missing. */
export function StoppedMove({
  stopped,
  names,
  onAnswer,
  onClose,
}: {
  stopped: Stopped;
  names: Parameters<typeof AskForm>[0]["names"];
  onAnswer: (answers: Answers) => void;
  onClose: () => void;
}) {
  const { problem, given, verb } = stopped;
  return (
    <Beside at={cardAt(stopped.cardId)} label={problem.sentence} onClose={onClose}>
      <div
        role="alert"
        className={`border-l-[3px] pl-3 ${problem.asks.length > 0 ? "border-accent" : "border-alarm"}`}
      >
        <p className="font-semibold">{problem.sentence}</p>
        <p className="mb-2 text-[13px] text-ink-soft">{problem.help}</p>
      </div>
      {problem.asks.length > 0 && (
        <AskForm
          key={problem.sentence}
          asks={problem.asks}
          names={names}
          verb={verb}
          onCancel={onClose}
          onAnswer={(more) => onAnswer(withMore(given, more))}
        />
      )}
    </Beside>
  );
}
