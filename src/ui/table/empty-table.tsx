"use client";
import { isFiltering } from "@/core/view/filter";
import { Button } from "@/ui/kit/button";
import type { LookHandle } from "@/ui/view/use-look";

/** What stands where nothing is: why, and the way on. */
export function EmptyTable({ handle: { look, showAll } }: { handle: LookHandle }) {
  const filtering = isFiltering(look.filter);
  return (
    <div className="absolute inset-x-0 top-16 flex flex-col items-center gap-3 text-ink-soft">
      <p>
        {filtering
          ? "No item is like this. What is narrowed down stands above."
          : "There is no item here yet. What comes in by Intake or the backlog will stand here."}
      </p>
      {filtering && <Button onClick={showAll}>Show all again</Button>}
    </div>
  );
}
