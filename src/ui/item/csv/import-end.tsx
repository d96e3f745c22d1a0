"use client";
import { counted } from "@/core/formats/counted";
import { Button, ButtonLink } from "@/ui/kit/button";
import type { ImportStage, LeftRow } from "./use-import";

/** How far it is. */
export function ImportRunning({
  stage: { done, of },
  onStop,
}: {
  stage: Extract<ImportStage, { kind: "running" }>;
  onStop: () => void;
}) {
  return (
    <section aria-label="Making items" className="mt-4 flex items-center gap-4">
      <progress value={done} max={of} className="w-72 accent-(--accent)" aria-label="Made" />
      <span role="status">
        {done} of {of}
      </span>
      <Button small onClick={onStop}>
        Stop
      </Button>
    </section>
  );
}

/** What was made, and the way to take it back. */
export function ImportEnd({
  stage,
  projectKey,
  onTakeBack,
  onAgain,
}: {
  stage: Extract<ImportStage, { kind: "done" | "taken back" }>;
  projectKey: string;
  onTakeBack: () => void;
  onAgain: () => void;
}) {
  return (
    <section aria-label="Made" className="mt-4 flex flex-col gap-2" role="status">
      {stage.kind === "done" ? (
        <p>
          <b>{counted(stage.made, "item")}</b> made
          {stage.stopped && "; it was stopped before the others"}.
        </p>
      ) : (
        <p>
          <b>{stage.gone}</b> of {counted(stage.made, "item")} taken back.
        </p>
      )}
      {stage.left.length > 0 && <Left rows={stage.left} />}
      <div className="flex gap-2">
        <ButtonLink href={`/p/${projectKey}/plan`}>To the backlog</ButtonLink>
        {stage.kind === "done" && stage.made > 0 && (
          <Button look="quiet" onClick={onTakeBack}>
            Take all of it back
          </Button>
        )}
        <Button look="quiet" onClick={onAgain}>
          Another file
        </Button>
      </div>
    </section>
  );
}

/** Rows that did not go as they stand there. */
const Left = ({ rows }: { rows: readonly LeftRow[] }) => (
  <ul
    aria-label="What did not go"
    className="max-h-48 overflow-y-auto border-l-[3px] border-alarm pl-3 text-[13px]"
  >
    {rows.map(({ row, sentence }, i) => (
      <li key={`${row} ${i}`}>
        Line {row}: {sentence}
      </li>
    ))}
  </ul>
);
