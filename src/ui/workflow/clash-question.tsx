"use client";
import { differences } from "@/core/workflow/difference";
import { takeMine } from "@/core/workflow/merge";
import type { CheckSurroundings } from "@/core/workflow/finding";
import { Button } from "@/ui/kit/button";
import type { Designer } from "./use-designer";

/** What two people changed differently at once: whose it is to be is asked, one after the other. */
export function ClashQuestion({
  designer: { draft, clashes, answerClash, select },
  around,
}: {
  designer: Designer;
  around: CheckSurroundings;
}) {
  const open = clashes.at(0);
  if (!open) return null;
  const { clash, mine, by } = open;
  const withMine = differences(draft, takeMine(draft, clash, mine), around.vocabulary);
  const place = clash.about === "state" ? "state" : "transition";
  return (
    <section
      aria-label="Both of you changed it"
      role="alert"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-signal-soft px-4 py-2 text-[13px]"
    >
      <p className="min-w-0 flex-1 basis-80">
        <b>
          {by} and you both changed {clash.words}.
        </b>{" "}
        Theirs stands.{" "}
        {withMine.length > 0 && <>With yours: {withMine.map((d) => d.sentence).join(" ")}</>}
        {clashes.length > 1 && ` (${clashes.length - 1} more to answer)`}
      </p>
      {clash.about !== "workflow" && clash.field !== null && (
        <Button small look="quiet" onClick={() => select({ kind: place, id: clash.id })}>
          Show
        </Button>
      )}
      <Button small onClick={() => answerClash(open, "theirs")}>
        Keep theirs
      </Button>
      <Button small look="strong" onClick={() => answerClash(open, "mine")}>
        Take mine
      </Button>
    </section>
  );
}
