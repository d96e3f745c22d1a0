"use client";
import { Pin as PinIcon } from "lucide-react";
import Link from "next/link";
import { useState } from "react";
import { projectKeyOf } from "@/core/item/key";
import type { Pin } from "@/core/item/pins/pin";
import { usePins } from "@/ui/item/use-pins";
import { ListEditor } from "@/ui/kit/list-editor";
import { Popover } from "@/ui/kit/popover";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";

/** My private list of items, at hand on every page. */
export function Pins({ projectKey }: { projectKey: string }) {
  const { pins, turn, order, readAgain } = usePins();
  const [open, setOpen] = useState(false);
  const count = pins.length;
  return (
    <Popover
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        // What became of them since is told when somebody looks.
        if (next) void readAgain();
      }}
      label="My pins"
      align="end"
      className="max-h-[70vh] w-[400px] overflow-y-auto"
      trigger={
        <button
          type="button"
          className="inline-flex h-8 min-w-8 items-center justify-center gap-1 rounded-[3px] text-ink-soft hover:text-ink"
          aria-label={count > 0 ? `My pins, ${count}` : "My pins"}
        >
          <PinIcon size={16} aria-hidden="true" />
          {count > 0 && (
            <span className="font-display text-[12px] font-bold" aria-hidden="true">
              {count}
            </span>
          )}
        </button>
      }
    >
      <h2 className="mb-1 text-[15px]">My pins</h2>
      <ListEditor
        label="My pins"
        items={pins}
        keyOf={({ id }) => id}
        nameOf={({ key }) => key}
        empty="Nothing yet. p on a card, a row or an open item pins it here, for you alone."
        row={(pin) => (
          <PinRow
            pin={pin}
            here={projectKeyOf(pin.key) === projectKey}
            onGo={() => setOpen(false)}
          />
        )}
        onRemove={(at) => turn(pins[at])}
        onMove={(from, to) => order(pins.toSpliced(from, 1).toSpliced(to, 0, pins[from]))}
      />
    </Popover>
  );
}

/** An item of this project opens beside the page, one of another project on its own. */
function PinRow({ pin, here, onGo }: { pin: Pin; here: boolean; onGo: () => void }) {
  const { openItem } = usePanel();
  const { key, title, typeId, stateName, stateKind } = pin;
  const className = "flex min-w-0 flex-1 items-center gap-1.5 text-left text-[13px]";
  const words = (
    <>
      <TypeGlyph typeId={typeId} size={13} />
      <span className="key shrink-0">{key}</span>
      <span className={`truncate ${stateKind === "finished" ? "line-through" : ""}`}>{title}</span>
      <span className="ml-auto shrink-0 text-[12px] text-ink-soft">{stateName}</span>
    </>
  );
  if (!here)
    return (
      <Link href={`/p/${projectKeyOf(key)}/items/${key}`} className={className} onClick={onGo}>
        {words}
      </Link>
    );
  return (
    <button
      type="button"
      className={className}
      onClick={() => {
        onGo();
        openItem(key);
      }}
    >
      {words}
    </button>
  );
}
