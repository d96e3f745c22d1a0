"use client";
import { Pencil } from "lucide-react";
import { useState } from "react";
import type { DesignView } from "@/core/workflow/design-view";
import { listWords } from "@/core/formats/list-words";
import { Button } from "@/ui/kit/button";
import { CommitText } from "@/ui/kit/commit-input";
import { Field } from "@/ui/kit/field";
import { Popover } from "@/ui/kit/popover";
import { useDesignRequest } from "./use-design-request";
import type { Designer } from "./use-designer";

/** The workflow as a whole: its name, a change of the draft like every other, and its end. */
export function WorkflowTools({
  designer: { draft, edit, running },
  view,
  onChoose,
}: {
  designer: Designer;
  view: DesignView;
  onChoose: (workflowId: string) => void;
}) {
  const send = useDesignRequest(view.project.key);
  const [open, setOpen] = useState(false);
  const { typeNames } = view.workflows.find((w) => w.id === running.id)!;
  const next = view.workflows.find((w) => w.id !== running.id);
  const bringBack = async () => {
    if (await send("workflows", { kind: "bring back", id: running.id })) onChoose(running.id);
  };
  const takeOut = async () => {
    const words = `“${running.name}” is taken out; its versions are kept.`;
    if (!(await send("workflows", { kind: "take out", id: running.id }, words, bringBack))) return;
    setOpen(false);
    onChoose(next!.id);
  };
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="This workflow"
      align="start"
      className="flex w-[300px] flex-col gap-3"
      trigger={
        <Button
          small
          look="quiet"
          aria-label="Rename or take out the workflow"
          title="Rename or take out"
        >
          <Pencil size={14} aria-hidden="true" />
        </Button>
      }
    >
      <Field label="Name of the workflow">
        <CommitText
          value={draft.name}
          required
          max={80}
          disabled={false}
          onCommit={(name) => edit((w) => ({ ...w, name }))}
        />
      </Field>
      <div className="border-t border-line pt-2 text-[13px]">
        {typeNames.length > 0 ? (
          <p className="text-ink-soft">
            {listWords(typeNames, "and")} {typeNames.length === 1 ? "follows" : "follow"} it, so it
            stays. What follows which is said in Types and fields.
          </p>
        ) : next ? (
          <>
            <p className="mb-1 text-ink-soft">
              Nothing follows it. Its versions are kept, and it can be brought back.
            </p>
            <Button small look="danger" onClick={() => void takeOut()}>
              Take the workflow out
            </Button>
          </>
        ) : (
          <p className="text-ink-soft">It is the only workflow of this project.</p>
        )}
      </div>
    </Popover>
  );
}
