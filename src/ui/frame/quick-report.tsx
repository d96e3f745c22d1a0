"use client";
import { MessageSquarePlus } from "lucide-react";
import { Popover } from "radix-ui";
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
      const typing = (event.target as HTMLElement).closest?.(
        "input,textarea,select,[role=dialog],[contenteditable=true]",
      );
      if (typing || event.ctrlKey || event.metaKey || event.altKey || event.key !== "r") return;
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
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        className="inline-flex h-8 w-8 items-center justify-center rounded-[3px] text-ink-soft hover:text-ink"
        aria-label="Report something"
        title="Report something (r)"
      >
        <MessageSquarePlus size={17} aria-hidden="true" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="popover w-[360px]"
          aria-label="Report something"
        >
          <form onSubmit={(e) => void send(e)} className="flex flex-col gap-2">
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              What is wrong, in a few words?
              <input
                className="field"
                autoFocus
                required
                maxLength={200}
                value={title}
                onChange={(e) => setTitle(e.target.value)}
              />
            </label>
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              What happened?
              <textarea
                className="field !font-normal"
                rows={3}
                maxLength={10_000}
                value={happened}
                onChange={(e) => setHappened(e.target.value)}
              />
            </label>
            {itemKey && (
              <label className="flex items-center gap-1.5 text-[13px]">
                <input
                  type="checkbox"
                  className="accent-(--accent)"
                  checked={withItem}
                  onChange={(e) => setWithItem(e.target.checked)}
                />
                seen at {itemKey}
              </label>
            )}
            {problem && (
              <p role="alert" className="text-[13px] text-alarm">
                <b>{problem.sentence}</b> {problem.help}
              </p>
            )}
            <button type="submit" className="button button-small button-accent self-end">
              Put it in the queue
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
