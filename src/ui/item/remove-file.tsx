"use client";
import { useState } from "react";
import { v7 as newId } from "uuid";
import { itemContract } from "@/core/item/contract";
import { Field, TextInput } from "@/ui/kit/field";
import { FormFooter } from "@/ui/kit/form-footer";
import { tellDone } from "@/ui/kit/notice";
import { ask, problemOf } from "@/ui/kit/request";
import { Sheet } from "@/ui/kit/sheet";
import type { ItemHandle } from "./use-item";

/** Asks a lead why a file is removed for good, and removes it. */
export function RemoveFile({
  handle: { view, reload },
  file,
  onDone,
}: {
  handle: ItemHandle;
  /** Null while none is. */
  file: { id: string; name: string } | null;
  onDone: () => void;
}) {
  const [why, setWhy] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const leave = () => {
    setWhy("");
    setProblem(null);
    onDone();
  };
  const remove = async () => {
    if (file === null) return;
    if (why.trim() === "") return setProblem("Say why it goes.");
    try {
      await ask(itemContract.emptyFile, {
        params: { key: view.key, file: file.id },
        body: { commandId: newId(), why },
      });
    } catch (error) {
      const { sentence, help } = problemOf(error);
      return setProblem(`${sentence} ${help}`);
    }
    await reload();
    tellDone("The file is gone for good.");
    leave();
  };
  return (
    <Sheet open={file !== null} onClose={leave} title={`Remove ${file?.name ?? ""} for good`}>
      <form
        aria-label="Remove for good"
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void remove();
        }}
      >
        <p className="text-[13px] text-ink-soft">
          What it holds and what it is called is removed, from the history too, and cannot be
          brought back. That it was there, and why it went, stays.
        </p>
        <Field label="Why it goes">
          <TextInput
            autoFocus
            maxLength={500}
            value={why}
            onChange={(event) => setWhy(event.target.value)}
          />
        </Field>
        <FormFooter send="Remove it for good" problem={problem} onLeave={leave} />
      </form>
    </Sheet>
  );
}
