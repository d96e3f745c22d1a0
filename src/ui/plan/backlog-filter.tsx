"use client";
import { Filter } from "lucide-react";
import { useState } from "react";
import { isRead, type WrittenCondition } from "@/core/condition/condition";
import { writtenSentence } from "@/core/condition/sentence";
import type { Vocabulary } from "@/core/condition/vocabulary";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { Button, TextButton } from "@/ui/kit/button";
import { Popover } from "@/ui/kit/popover";
import type { BacklogFilter } from "./use-backlog-filter";

/** Narrows the backlog to what is like something; the order stays, and its lines with it. */
export function BacklogFilterButton({
  filter: { filter, narrow, narrows, showAll },
  vocabulary,
}: {
  filter: BacklogFilter;
  vocabulary: Vocabulary;
}) {
  const [written, setWritten] = useState<WrittenCondition | null>(null);
  return (
    <span className="flex min-w-0 items-center gap-2">
      <Popover
        label="Narrow the backlog"
        align="end"
        className="max-h-[70vh] w-[min(620px,94vw)] overflow-y-auto"
        onOpenChange={() => setWritten(null)}
        trigger={
          <Button small look="quiet">
            <Filter size={14} aria-hidden="true" />
            Narrow
          </Button>
        }
      >
        <ConditionEditor
          condition={written ?? filter}
          vocabulary={vocabulary}
          onChange={(next) => {
            setWritten(next);
            if (isRead(next)) narrow(next);
          }}
        />
      </Popover>
      {narrows && (
        <span className="flex min-w-0 items-center gap-2 text-[13px]">
          <b className="max-w-[190px] truncate" title={writtenSentence(filter, vocabulary)}>
            {writtenSentence(filter, vocabulary)}
          </b>
          <TextButton onClick={showAll}>Show all</TextButton>
        </span>
      )}
    </span>
  );
}
