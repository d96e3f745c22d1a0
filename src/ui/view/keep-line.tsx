"use client";
import { useState } from "react";
import { Button } from "@/ui/kit/button";
import { Popover } from "@/ui/kit/popover";
import { KeepAs } from "./keep-as";
import type { LookHandle } from "./use-look";

/** What differs from the view, in words, and the ways to keep it or to let it go. */
export function KeepLine({ handle }: { handle: LookHandle }) {
  const { view, differs, keep, drop, views } = handle;
  const [naming, setNaming] = useState(false);
  if (differs.length === 0) return null;
  const words = differs.join(", ");
  return (
    <div role="group" aria-label="What differs" className="flex shrink-0 items-center gap-1.5 pt-1">
      <span className="min-w-0 max-w-[300px] truncate text-[13px] text-signal-ink" title={words}>
        {words}
      </span>
      {view?.mayChange && (
        <Button small onClick={() => void keep()}>
          Keep
        </Button>
      )}
      {views.rights.keep && (
        <Popover
          open={naming}
          onOpenChange={setNaming}
          label="Keep as another view"
          align="end"
          className="w-[300px]"
          trigger={<Button small>{view ? "Keep as another" : "Keep as a view"}</Button>}
        >
          <KeepAs handle={handle} onDone={() => setNaming(false)} />
        </Popover>
      )}
      <Button small look="quiet" onClick={drop}>
        Drop
      </Button>
    </div>
  );
}
