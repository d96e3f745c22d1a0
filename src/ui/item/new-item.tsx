"use client";
import { Popover } from "radix-ui";
import { Plus } from "lucide-react";
import { useState, type FormEvent } from "react";
import type { Card } from "@/core/board/card";
import { tellDone } from "@/ui/kit/notice";
import { problemOf, request, type Problem } from "@/ui/kit/request";

/** A new item at the end of the backlog; everything but its title can wait. */
export function NewItem({ projectKey, types, open, onOpenChange, onCreated }: {
  projectKey: string;
  types: { id: string; name: string; level: number }[];
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onCreated: (card: Card) => void;
}) {
  const [title, setTitle] = useState("");
  const [typeId, setTypeId] = useState("story");
  const [commandId, setCommandId] = useState(() => crypto.randomUUID());
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const create = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const { card } = await request<{ card: Card }>("/api/items", { body: { commandId, projectKey, fields: { title, typeId } } });
      onCreated(card);
      tellDone(`${card.key} is at the end of the backlog.`);
      setTitle("");
      setProblem(null);
      onOpenChange(false);
      setCommandId(crypto.randomUUID());
    } catch (error) {
      setProblem(problemOf(error));
    }
    setBusy(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={onOpenChange}>
      <Popover.Trigger className="button">
        <Plus size={14} aria-hidden="true" /> New item
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className="popover w-[380px]" aria-label="New item">
          <form onSubmit={(e) => void create(e)} className="flex flex-col gap-2">
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              What is to be done?
              <input className="field" autoFocus required maxLength={300} value={title} onChange={(e) => setTitle(e.target.value)} />
            </label>
            <label className="flex flex-col gap-1 text-[12.5px] font-semibold">
              Type
              <select className="field" value={typeId} onChange={(e) => setTypeId(e.target.value)}>
                {types.filter((t) => t.level >= 1).map((t) => (
                  <option key={t.id} value={t.id}>
                    {t.name}
                  </option>
                ))}
              </select>
            </label>
            {problem && (
              <p role="alert" className="text-[13px] text-alarm">
                {problem.sentence} {problem.help}
              </p>
            )}
            <button type="submit" disabled={busy} className="button button-accent self-end">
              Add to the backlog
            </button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
