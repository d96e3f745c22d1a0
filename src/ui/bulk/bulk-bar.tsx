"use client";
import { readAcrossKey } from "@/core/across/place";
import { X } from "lucide-react";
import { useState, type ReactNode } from "react";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { counted } from "@/core/formats/counted";
import type { BulkItems } from "@/core/item/bulk/contract";
import { isGoingOn } from "@/core/item/bulk/job";
import { Button } from "@/ui/kit/button";
import { SEVERAL, useOfferedActs } from "@/ui/kit/offered-acts";
import { Popover } from "@/ui/kit/popover";
import { BlockForm, TermForm, MoveForm, RankForm, SetForm, UnderForm } from "./act-forms";
import type { Given } from "./bulk-form";
import { PointOutForm } from "./point-out-form";
import { JobList } from "./job-list";
import { useBulk } from "./use-bulk";

type Form = (props: { given: Given }) => ReactNode;

const FORMS: { name: string; needs: "move" | "edit"; Form: Form }[] = [
  { name: "Move", needs: "move", Form: MoveForm },
  {
    name: "Give to",
    needs: "edit",
    Form: ({ given }) => <SetForm given={given} only="assigneeId" />,
  },
  { name: "Sprint", needs: "edit", Form: ({ given }) => <SetForm given={given} only="sprintId" /> },
  {
    name: "Release",
    needs: "edit",
    Form: ({ given }) => <SetForm given={given} only="releaseId" />,
  },
  { name: "Change", needs: "edit", Form: SetForm },
  { name: "Label", needs: "edit", Form: ({ given }) => <TermForm given={given} kind="label" /> },
  { name: "Part", needs: "edit", Form: ({ given }) => <TermForm given={given} kind="part" /> },
  { name: "Rank", needs: "edit", Form: RankForm },
  { name: "Block", needs: "edit", Form: BlockForm },
  { name: "Put under", needs: "edit", Form: UnderForm },
  { name: "Point out", needs: "edit", Form: PointOutForm },
];

/** What is chosen, what it comes to, and what can be done to all of it at once. */
export function BulkBar({
  handle,
  count,
  sum,
  items,
  children,
  onDrop,
}: {
  handle: {
    projectKey: string;
    views: { rights: Record<"move" | "edit", boolean>; vocabulary: Vocabulary };
  };
  count: number;
  /** What the chosen ones come to, in words. */
  sum: string | null;
  items: BulkItems;
  /** What else can be done with them here. */
  children?: ReactNode;
  onDrop: () => void;
}) {
  const bulk = useBulk(handle.projectKey);
  const [open, setOpen] = useState<string | null>(null);
  const going = bulk.jobs.filter(isGoingOn);
  const { rights, vocabulary } = handle.views;
  const apart = readAcrossKey(handle.projectKey) === null;
  const forms = count > 0 && apart ? FORMS.filter(({ needs }) => rights[needs]) : [];
  useOfferedActs(
    SEVERAL,
    forms.map(({ name }) => ({
      id: `several-${name}`,
      words: name,
      more: `${counted(count, "item")} chosen`,
      act: () => setOpen(name),
    })),
  );
  if (count === 0 && going.length === 0) return null;
  if (!apart)
    return (
      <div role="region" aria-label="Several at once" className="chosen-bar">
        <span>{counted(count, "item")} chosen. Several at once are changed within a project.</span>
        {children}
        <Button small look="quiet" onClick={onDrop}>
          Let go
        </Button>
      </div>
    );
  const given: Given = {
    projectKey: handle.projectKey,
    items,
    vocabulary,
    start: bulk.start,
    onDone: () => setOpen(null),
  };
  return (
    <div role="region" aria-label="Several at once" className="chosen-bar">
      {going.map((job) => (
        <span key={job.id} role="status" className="flex items-center gap-2">
          <b className="figures">
            {job.looked} of {job.total}
          </b>
          {job.words}
          <Button small onClick={() => void bulk.cancel(job.id)}>
            Stop
          </Button>
        </span>
      ))}
      {count > 0 && (
        <>
          <b>{counted(count, "item")} chosen</b>
          {sum && <span className="text-ink-soft">{sum}</span>}
          {forms.map(({ name, Form }) => (
            <Popover
              key={name}
              open={open === name}
              onOpenChange={(next) => setOpen(next ? name : null)}
              label={`${name}: ${counted(count, "item")}`}
              side="top"
              className="max-h-[60vh] w-[340px] overflow-y-auto"
              trigger={<Button small>{name}</Button>}
            >
              <Form given={given} />
            </Popover>
          ))}
          {children}
        </>
      )}
      <span className="flex-1" />
      <JobList bulk={bulk} />
      {count > 0 && (
        <Button look="quiet" small aria-label="Choose none" onClick={onDrop}>
          <X size={14} aria-hidden="true" />
        </Button>
      )}
    </div>
  );
}
