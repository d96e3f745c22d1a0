"use client";
import { useState } from "react";
import { counted } from "@/core/formats/counted";
import { Check } from "@/ui/kit/check";
import { Field, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone, tellProblem } from "@/ui/kit/notice";
import { problemOf } from "@/ui/kit/request";
import { sendCommand } from "./send-command";
import type { ItemHandle } from "./use-item";

/** Withdraws an item with a reason: it leaves every list, and can be brought back. */
export function WithdrawForm({ handle, onDone }: { handle: ItemHandle; onDone: () => void }) {
  const { view, send, reload } = handle;
  const open = view.children.filter(({ finished }) => !finished).length;
  const [why, setWhy] = useState("");
  const [below, setBelow] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const withdraw = async () => {
    if (why.trim() === "") return setProblem("Say why it goes.");
    try {
      await send({ kind: "withdraw", why, below });
    } catch (error) {
      const { sentence, help } = problemOf(error);
      return setProblem(`${sentence} ${help}`);
    }
    tellDone(`${view.key} is withdrawn.`, async () => {
      await sendCommand(view.item.id, { kind: "bring back" }).catch(tellProblem);
      await reload();
    });
    onDone();
  };
  return (
    <form
      aria-label="Withdraw"
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void withdraw();
      }}
    >
      <p className="text-[13px] text-ink-soft">
        It leaves every list as if it had never been accepted. Its key, its history and its talk
        stay, and it can be brought back.
      </p>
      <Field label="Why it goes">
        <TextInput
          autoFocus
          maxLength={500}
          value={why}
          onChange={(event) => setWhy(event.target.value)}
        />
      </Field>
      {open > 0 && (
        <Check checked={below} onChange={setBelow}>
          with {counted(open, "item")} under it {open === 1 ? "that is" : "that are"} not finished
        </Check>
      )}
      <FormFooter send="Withdraw it" problem={problem} onLeave={onDone} />
    </form>
  );
}
