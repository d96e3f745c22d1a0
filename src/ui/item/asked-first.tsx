"use client";
import { useSyncExternalStore } from "react";
import { Sheet } from "@/ui/kit/sheet";
import { askedNow, hearAsked } from "./answered-first";
import { AskForm } from "./ask-form";

/** What a change still needs, asked for over whatever page it was made on. */
export function AskedFirstSheet() {
  const asked = useSyncExternalStore(hearAsked, askedNow, () => null);
  if (!asked) return null;
  const { problem, names, answer } = asked;
  const beyond = problem.asks.every(({ field }) => field === "overrideReason");
  return (
    <Sheet open title={problem.sentence} onClose={() => answer(null)}>
      <p className="mb-3 text-[13px] text-ink-soft">{problem.help}</p>
      <AskForm
        key={problem.sentence}
        asks={problem.asks}
        names={names}
        verb={beyond ? "Go beyond it" : "Store it so"}
        leave="Leave it as it was"
        onCancel={() => answer(null)}
        onAnswer={answer}
      />
    </Sheet>
  );
}
