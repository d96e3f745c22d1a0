"use client";
import { takesKeys } from "@/ui/kit/takes-keys";
import { FormProblem } from "@/ui/kit/note";
import { Button } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { Field, TextInput, TextArea } from "@/ui/kit/field";
import { MessageSquarePlus } from "lucide-react";
import { Popover } from "@/ui/kit/popover";
import { useEffect, useState, type FormEvent } from "react";
import { tellDone } from "@/ui/kit/notice";
import { usePanel } from "@/ui/kit/panel-context";
import { ask, problemOf, type Problem } from "@/ui/kit/request";
import { intakeContract } from "@/core/intake/contract";

/** Something to report, from wherever one is, by one key; the item in view goes with it. */
export function QuickReport({ projectKey }: { projectKey: string }) {
  const { itemKey } = usePanel();
  const [open, setOpen] = useState(false);
  const [title, setTitle] = useState("");
  const [happened, setHappened] = useState("");
  const [withItem, setWithItem] = useState(true);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        takesKeys(event.target) ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        event.key !== "r"
      )
        return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  const send = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const { reference } = await ask(
        intakeContract.quick,
        {
          params: { key: projectKey },
          body: { title, happened, itemKey: withItem ? itemKey : null },
        },
        { retry: false },
      );
      tellDone(`${reference} is in the queue of Intake.`);
      setTitle("");
      setHappened("");
      setProblem(null);
      setOpen(false);
    } catch (error) {
      setProblem(problemOf(error));
    }
  };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="Report something"
      align="end"
      className="w-[360px]"
      trigger={
        <button
          type="button"
          className="inline-flex h-8 w-8 items-center justify-center rounded-[3px] text-ink-soft hover:text-ink"
          aria-label="Report something"
          title="Report something (r)"
        >
          <MessageSquarePlus size={17} aria-hidden="true" />
        </button>
      }
    >
      <form onSubmit={(e) => void send(e)} className="flex flex-col gap-2">
        <Field label="What is wrong, in a few words?">
          <TextInput
            autoFocus
            required
            maxLength={200}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
          />
        </Field>
        <Field label="What happened?">
          <TextArea
            className="!font-normal"
            rows={3}
            maxLength={10_000}
            value={happened}
            onChange={(e) => setHappened(e.target.value)}
          />
        </Field>
        {itemKey && (
          <Check checked={withItem} onChange={setWithItem} className="text-[13px]">
            seen at {itemKey}
          </Check>
        )}
        {problem && (
          <FormProblem>
            <b>{problem.sentence}</b> {problem.help}
          </FormProblem>
        )}
        <Button type="submit" look="accent" small className="self-end">
          Put it in the queue
        </Button>
      </form>
    </Popover>
  );
}
