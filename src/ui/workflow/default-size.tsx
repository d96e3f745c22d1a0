"use client";
import type { DesignView } from "@/core/workflow/design-view";
import { CommitNumber } from "@/ui/kit/commit-input";
import type { DesignRequest } from "./use-design-request";

/** What items without a size count for, said where a limit adds up sizes. */
export function DefaultSize({ view, send }: { view: DesignView; send: DesignRequest }) {
  const bySize = view.limits.filter((limit) => limit.unit === "size");
  if (bySize.length === 0) return null;
  const unsized = bySize.reduce((sum, limit) => sum + limit.unsized, 0);
  return (
    <label className="mt-2 flex items-center gap-2 text-[13px]">
      Where sizes are added up, an item without one counts as
      <span className="w-16">
        <CommitNumber
          value={view.defaultSize}
          disabled={!view.mayEdit}
          step="any"
          onCommit={(size) =>
            size !== null && size > 0 && void send("boards", { kind: "default size", size })
          }
        />
      </span>
      <span className="text-ink-soft">now {unsized} of those that count</span>
    </label>
  );
}
