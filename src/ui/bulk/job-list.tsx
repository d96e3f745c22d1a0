"use client";
import { useState } from "react";
import { isGoingOn, leftOutCount, type BulkJob } from "@/core/item/bulk/job";
import { counted } from "@/core/formats/counted";
import { Button, TextButton } from "@/ui/kit/button";
import { usePanel } from "@/ui/kit/panel-context";
import { Popover } from "@/ui/kit/popover";
import type { Bulk } from "./use-bulk";
import { endWords } from "./use-bulk";

/** What a person did to several items lately: how it ended, what was left out, and the way back. */
export function JobList({ bulk }: { bulk: Bulk }) {
  const [open, setOpen] = useState(false);
  const ended = bulk.jobs.filter((job) => !isGoingOn(job));
  if (ended.length === 0) return null;
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label="What was done to several items"
      side="top"
      align="end"
      className="max-h-[60vh] w-[420px] overflow-y-auto"
      trigger={
        <Button small look="quiet">
          Done lately
        </Button>
      }
    >
      <ul className="flex flex-col gap-2">
        {ended.map((job) => (
          <li key={job.id} className="border-b border-line pb-2 text-[13px]">
            <p>{endWords(job)}</p>
            <LeftOutOf job={job} />
            {job.done > 0 && !job.undoes && !job.undone && (
              <TextButton onClick={() => void bulk.undo(job.id)}>take it back</TextButton>
            )}
            {job.undone && <span className="text-ink-soft">taken back</span>}
          </li>
        ))}
      </ul>
    </Popover>
  );
}

function LeftOutOf({ job: { leftOut } }: { job: BulkJob }) {
  const { openItem } = usePanel();
  if (leftOutCount(leftOut) === 0) return null;
  return leftOut.map(({ sentence, count, keys }) => (
    <p key={sentence} className="text-ink-soft">
      {counted(count, "item")}: {sentence}{" "}
      {keys.map((key) => (
        <TextButton key={key} className="key mr-1.5" onClick={() => openItem(key)}>
          {key}
        </TextButton>
      ))}
    </p>
  ));
}
