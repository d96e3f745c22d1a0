"use client";
import { ArrowRightLeft, Copy, CornerLeftUp, Ellipsis, Undo2, X } from "lucide-react";
import { useState } from "react";
import { Button } from "@/ui/kit/button";
import { Menu, MenuItem } from "@/ui/kit/menu";
import { Sheet } from "@/ui/kit/sheet";
import { CopyForm } from "./copy-form";
import type { ItemHandle } from "./use-item";
import { mayStandUnder, ParentSheet } from "./item-parent";
import { ProjectChangeForm } from "./project-change-form";
import { WithdrawForm } from "./withdraw-form";
import { useBringBack } from "./withdrawn-note";

/** What is done to an item as a whole: a copy of it, taking it out, bringing it back. */
export function ItemMenu({ handle }: { handle: ItemHandle }) {
  const { view } = handle;
  const [open, setOpen] = useState<"copy" | "parent" | "elsewhere" | "withdraw" | null>(null);
  const bringBack = useBringBack(handle);
  const { withdrawn, rights } = view;
  const close = () => setOpen(null);
  if (!rights.create && !rights.withdraw) return null;
  return (
    <>
      <Menu
        align="end"
        trigger={
          <Button small look="quiet" aria-label={`More for ${view.key}`} title="More">
            <Ellipsis size={16} aria-hidden="true" />
          </Button>
        }
      >
        {rights.create && (
          <MenuItem sign={<Copy size={14} aria-hidden="true" />} onSelect={() => setOpen("copy")}>
            Make a copy …
          </MenuItem>
        )}
        {mayStandUnder(view) && !view.parent && (
          <MenuItem
            sign={<CornerLeftUp size={14} aria-hidden="true" />}
            onSelect={() => setOpen("parent")}
          >
            Put it under another item …
          </MenuItem>
        )}
        {rights.edit && !withdrawn && (
          <MenuItem
            sign={<ArrowRightLeft size={14} aria-hidden="true" />}
            onSelect={() => setOpen("elsewhere")}
          >
            Move to another project …
          </MenuItem>
        )}
        {rights.withdraw && !withdrawn && (
          <MenuItem sign={<X size={14} aria-hidden="true" />} onSelect={() => setOpen("withdraw")}>
            Withdraw it …
          </MenuItem>
        )}
        {withdrawn?.mayBringBack && (
          <MenuItem sign={<Undo2 size={14} aria-hidden="true" />} onSelect={bringBack}>
            Bring it back
          </MenuItem>
        )}
      </Menu>
      <Sheet open={open === "copy"} onClose={close} title={`A copy of ${view.key}`}>
        <CopyForm view={view} onDone={close} />
      </Sheet>
      <ParentSheet handle={handle} open={open === "parent"} onClose={close} />
      <Sheet
        open={open === "elsewhere"}
        onClose={close}
        title={`${view.key} moves to another project`}
      >
        <ProjectChangeForm view={view} onDone={close} />
      </Sheet>
      <Sheet open={open === "withdraw"} onClose={close} title={`Withdraw ${view.key}`}>
        <WithdrawForm handle={handle} onDone={close} />
      </Sheet>
    </>
  );
}
