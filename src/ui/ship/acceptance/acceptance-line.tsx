"use client";
import type { AcceptanceRow } from "@/core/ship/acceptance/acceptance-rows";
import { TextButton } from "@/ui/kit/button";
import { Check } from "@/ui/kit/check";
import { usePanel } from "@/ui/kit/panel-context";
import { TypeGlyph } from "@/ui/kit/type-glyph";
import { ShownToSeal } from "./shown-to-seal";
import type { AcceptanceHandle } from "./use-acceptance";

/** What waits longer than this to be accepted is said loudly. */
const OLD_DAYS = 7;

/** An item with everybody whom it was shown to, and the last word of who misses something. */
export function AcceptanceLine({
  row,
  handle,
  chosen,
  onChoose,
  onShow,
}: {
  row: AcceptanceRow;
  handle: AcceptanceHandle;
  chosen: boolean;
  onChoose: (on: boolean) => void;
  onShow: () => void;
}) {
  const { openItem } = usePanel();
  const { key, title, typeId, stateName, days, to } = row;
  const missed = to.find(({ answered }) => answered === "missing")?.said[0];
  return (
    <li className="acceptance-row" data-part={row.part} data-key={key}>
      {handle.view.rights.edit ? (
        <Check aria-label={`Choose ${key}`} checked={chosen} onChange={onChoose} />
      ) : (
        <span />
      )}
      <div className="min-w-0">
        <button
          type="button"
          className="flex min-h-6 max-w-full min-w-0 items-center gap-1.5 text-left hover:underline"
          onClick={() => openItem(key)}
        >
          <TypeGlyph typeId={typeId} />
          <span className="key shrink-0">{key}</span>
          <span className="truncate font-semibold">{title}</span>
        </button>
        <p className="text-[12.5px] text-ink-soft">
          {stateName}
          {days !== null && (
            <span className={days > OLD_DAYS ? "font-semibold text-signal-ink" : ""}>
              , day {days}
            </span>
          )}
        </p>
        {missed && (
          <p className="mt-0.5 line-clamp-2 max-w-[72ch] text-[13px]">
            <b className="text-alarm">{missed.name}:</b> {missed.words}
          </p>
        )}
      </div>
      {to.length === 0 && handle.view.rights.edit ? (
        <TextButton className="justify-self-end text-[13px]" onClick={onShow}>
          Show it to somebody …
        </TextButton>
      ) : (
        <ul className="flex flex-wrap justify-end gap-1.5" aria-label={`Who was shown ${key}`}>
          {to.map((one) => (
            <ShownToSeal key={one.showing.id} of={one} itemKey={key} handle={handle} />
          ))}
        </ul>
      )}
    </li>
  );
}
