"use client";
import { MoreHorizontal } from "lucide-react";
import { useParams } from "next/navigation";
import { columnWords, type Column } from "@/core/board/column";
import { useState } from "react";
import { Menu, MenuItem, MenuSection } from "@/ui/kit/menu";
import { ReleaseOfColumn } from "./release-of-column";
import type { FoldsHandle } from "./use-folds";

/** What can be done with a column where it stands: fold it, hide it, put it elsewhere. */
export function ColumnMenu({
  column,
  columns,
  folds,
  onOrder,
}: {
  column: Column;
  /** All that are shown, in their order. */
  columns: readonly Column[];
  folds: FoldsHandle;
  /** Puts its stage where another is; null where the order is not this person's. */
  onOrder: ((columnId: string, onto: string) => void) | null;
}) {
  // Above the projects there is none that a release would be of.
  const { key: projectKey } = useParams<{ key?: string }>();
  const [sending, setSending] = useState(false);
  const at = columns.indexOf(column);
  const stage = (one: Column) => one.stage === column.stage;
  const before = columns.slice(0, at).findLast((one) => !stage(one));
  const after = columns.slice(at + 1).find((one) => !stage(one));
  return (
    <span className="column-menu" onPointerDown={(event) => event.stopPropagation()}>
      <Menu
        align="end"
        trigger={
          <button type="button" aria-label={`More for ${columnWords(column)}`}>
            <MoreHorizontal size={14} aria-hidden="true" />
          </button>
        }
      >
        <MenuItem onSelect={() => folds.turnColumn(column.id)}>Fold to a strip</MenuItem>
        <MenuItem
          disabled={columns.length - folds.folds.columns.length < 2}
          onSelect={() => folds.hideColumn(column.id)}
        >
          Hide here, for me
        </MenuItem>
        {column.part === "finished" && projectKey !== undefined && (
          <MenuItem onSelect={() => setSending(true)}>Send out what is here …</MenuItem>
        )}
        {onOrder && (
          <MenuSection>
            <MenuItem disabled={!before} onSelect={() => before && onOrder(column.id, before.id)}>
              One to the left, for everybody
            </MenuItem>
            <MenuItem disabled={!after} onSelect={() => after && onOrder(column.id, after.id)}>
              One to the right, for everybody
            </MenuItem>
          </MenuSection>
        )}
      </Menu>
      {sending && projectKey !== undefined && (
        <ReleaseOfColumn
          projectKey={projectKey}
          column={column}
          onLeave={() => setSending(false)}
        />
      )}
    </span>
  );
}
