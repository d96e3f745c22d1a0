"use client";
import { useState } from "react";
import { isRead, type WrittenCondition } from "@/core/condition/condition";
import { factLabel, factsOffered } from "@/core/condition/vocabulary";
import { ConditionEditor } from "@/ui/condition/condition-editor";
import { Button, TextButton } from "@/ui/kit/button";
import { Popover } from "@/ui/kit/popover";
import { KnownWords } from "./known-words";
import { NameCondition } from "./name-condition";
import type { LookHandle } from "./use-look";

/** The whole filter at once: by choosing or as text, with all words that it knows beside it. */
export function FilterWhole({ handle }: { handle: LookHandle }) {
  const [open, setOpen] = useState(false);
  const [written, setWritten] = useState<WrittenCondition | null>(null);
  const { look, change, views } = handle;
  const shown = written ?? look.filter;
  return (
    <Popover
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setWritten(null);
      }}
      label="The whole filter"
      className="max-h-[70vh] w-[min(860px,94vw)] overflow-y-auto"
      trigger={<TextButton>whole filter</TextButton>}
    >
      <div className="flex gap-4">
        <div className="flex min-w-0 flex-1 flex-col gap-3">
          <ConditionEditor
            condition={shown}
            vocabulary={views.vocabulary}
            onChange={(next) => {
              setWritten(next);
              if (isRead(next)) change({ filter: next });
            }}
          />
          {!isRead(shown) && (
            <p className="text-[12.5px] text-ink-soft">
              Until the text can be read, what was filtered before stays.
            </p>
          )}
          <NameCondition handle={handle} />
          <Button
            className="self-start"
            onClick={() => {
              change({
                scope: { kind: "all", of: [look.scope, look.filter] },
                filter: { kind: "all", of: [] },
              });
              setOpen(false);
            }}
          >
            Make it what this is about
          </Button>
        </div>
        <KnownWords
          words={factsOffered(views.vocabulary).map((fact) => ({
            fact,
            label: factLabel(fact, views.vocabulary),
          }))}
          vocabulary={views.vocabulary}
        />
      </div>
    </Popover>
  );
}
