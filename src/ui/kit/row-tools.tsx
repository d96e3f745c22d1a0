import { ArrowDown, ArrowUp } from "lucide-react";
import { Button } from "./button";

/**
 * The end of a row in a list that has an order: further up, further down, and what opens the row to
 * be changed.
 */
export function RowTools({
  name,
  open,
  onOpen,
  onUp,
  onDown,
}: {
  /** How the row is called by its buttons. */
  name: string;
  open: boolean;
  onOpen: () => void;
  /** Null at the upper end of the list; left out where the row has no place yet. */
  onUp?: (() => void) | null;
  onDown?: (() => void) | null;
}) {
  return (
    <>
      {onUp !== undefined && (
        <Step label={`${name} further up`} onStep={onUp}>
          <ArrowUp size={14} aria-hidden="true" />
        </Step>
      )}
      {onDown !== undefined && (
        <Step label={`${name} further down`} onStep={onDown}>
          <ArrowDown size={14} aria-hidden="true" />
        </Step>
      )}
      <Button small aria-expanded={open} onClick={onOpen}>
        {open ? "Close" : "Change"}
      </Button>
    </>
  );
}

function Step({
  label,
  onStep,
  children,
}: {
  label: string;
  onStep: (() => void) | null;
  children: React.ReactNode;
}) {
  return (
    <Button
      look="quiet"
      small
      className="!px-1"
      aria-label={label}
      title={label}
      disabled={onStep === null}
      onClick={() => onStep?.()}
    >
      {children}
    </Button>
  );
}
