"use client";
import { Button } from "@/ui/kit/button";
import { useIsAlone } from "./use-alone";

/** Lets a board stand alone on the screen, and says how large it is there. */
export function AloneButton() {
  const alone = useIsAlone();
  if (!alone) return null;
  return (
    <>
      {alone.on && (
        <span className="flex items-center gap-1" role="group" aria-label="How large">
          <Button
            small
            disabled={!alone.smaller}
            aria-label="Smaller"
            title="Smaller (-)"
            onClick={() => alone.smaller?.()}
          >
            −
          </Button>
          <span
            className="figures text-[12.5px] whitespace-nowrap text-ink-soft"
            aria-live="polite"
          >
            {Math.round(alone.size * 100)} %
          </span>
          <Button
            small
            disabled={!alone.larger}
            aria-label="Larger"
            title="Larger (+)"
            onClick={() => alone.larger?.()}
          >
            +
          </Button>
        </span>
      )}
      <Button aria-pressed={alone.on} onClick={alone.turn} title="The board alone (v)">
        Alone <kbd>v</kbd>
      </Button>
    </>
  );
}
