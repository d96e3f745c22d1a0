"use client";
import { TextButton, ButtonLink, Button } from "@/ui/kit/button";
import { Maximize2, X } from "lucide-react";
import { useState, type PointerEvent } from "react";
import { projectKeyOf } from "@/core/item/key";
import { problemOf } from "@/ui/kit/request";
import { usePanel } from "@/ui/kit/panel-context";
import { ItemBody } from "./item-body";
import { FollowButton } from "./follow-button";
import { ItemVotes } from "./vote-buttons";
import { ItemMenu } from "./item-menu";
import { PinButton } from "./pin-button";
import { useItem } from "./use-item";

const NARROWEST = 380;
const WIDEST = 760;
const USUAL = 440;

/** The item docked at the right of every screen; its left edge can be dragged. */
export function ItemPanel({ itemKey }: { itemKey: string }) {
  const { close, behind } = usePanel();
  const { handle, error } = useItem(itemKey);
  const [width, setWidth] = useState(USUAL);
  const resize = (event: PointerEvent<HTMLDivElement>) => {
    const start = event.clientX;
    const from = width;
    const move = (e: globalThis.PointerEvent) =>
      setWidth(Math.min(WIDEST, Math.max(NARROWEST, from + start - e.clientX)));
    const stop = () => {
      window.removeEventListener("pointermove", move);
      window.removeEventListener("pointerup", stop);
    };
    window.addEventListener("pointermove", move);
    window.addEventListener("pointerup", stop);
  };
  return (
    <aside
      aria-label={`Item ${itemKey}`}
      data-item={itemKey}
      data-item-open=""
      className="relative flex shrink-0 flex-col border-l border-line-strong bg-sheet"
      style={{ width }}
    >
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the panel"
        aria-valuenow={width}
        aria-valuemin={NARROWEST}
        aria-valuemax={WIDEST}
        tabIndex={0}
        onPointerDown={resize}
        onKeyDown={(e) => {
          if (e.key === "ArrowLeft") setWidth((w) => Math.min(WIDEST, w + 20));
          if (e.key === "ArrowRight") setWidth((w) => Math.max(NARROWEST, w - 20));
        }}
        className="absolute inset-y-0 -left-1 w-2 cursor-col-resize hover:bg-accent-soft"
      />
      <div className="flex h-10 shrink-0 items-center gap-2 border-b border-line px-4">
        <span className="key !text-[14px] !text-ink">{itemKey}</span>
        {behind && (
          <TextButton className="text-[12.5px]" onClick={close}>
            back to “{behind.title}”
          </TextButton>
        )}
        <span className="flex-1" />
        {handle && <ItemVotes handle={handle} />}
        {handle && <FollowButton handle={handle} />}
        {handle && <ItemMenu handle={handle} />}
        {handle && <PinButton id={handle.view.item.id} itemKey={itemKey} />}
        <ButtonLink
          href={`/p/${projectKeyOf(itemKey)}/items/${itemKey}`}
          look="quiet"
          small
          aria-label="Open as a full page"
          title="Open as a full page"
        >
          <Maximize2 size={14} aria-hidden="true" />
        </ButtonLink>
        <Button look="quiet" small aria-label="Close the panel" title="Close (Esc)" onClick={close}>
          <X size={16} aria-hidden="true" />
        </Button>
      </div>
      <div className="flex-1 overflow-y-auto px-4 py-3">
        {handle ? (
          <ItemBody key={itemKey} handle={handle} wide={false} />
        ) : error ? (
          <div role="alert">
            <p className="font-semibold">{problemOf(error).sentence}</p>
            <p className="text-ink-soft">{problemOf(error).help}</p>
          </div>
        ) : (
          <p className="text-ink-soft">Opening {itemKey}…</p>
        )}
      </div>
    </aside>
  );
}
