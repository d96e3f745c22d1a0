import type { ReactNode } from "react";
import { Button } from "./button";
import { FormProblem } from "./note";

/** The end of a form: what is wrong, what sends it, the way out, and what ends the thing itself. */
export function FormFooter({
  send,
  busy = false,
  disabled = false,
  problem,
  onSend,
  onLeave,
  onRemove,
  className = "",
}: {
  /** The verb on the button. */
  send: ReactNode;
  busy?: boolean;
  disabled?: boolean;
  problem?: ReactNode;
  /** Without it the button sends the form around it. */
  onSend?: () => void;
  onLeave?: () => void;
  /** Takes out what the form is about. */
  onRemove?: () => void;
  className?: string;
}) {
  return (
    <div className={`flex flex-col gap-2 ${className}`}>
      <FormProblem>{problem}</FormProblem>
      <div className="flex flex-wrap items-center gap-2">
        <Button
          look="accent"
          small
          type={onSend ? "button" : "submit"}
          disabled={busy || disabled}
          aria-busy={busy || undefined}
          onClick={onSend}
        >
          {send}
        </Button>
        {onLeave && (
          <Button look="quiet" small onClick={onLeave}>
            Leave it
          </Button>
        )}
        {onRemove && (
          <Button look="danger" small className="ml-auto" onClick={onRemove}>
            Take it out
          </Button>
        )}
      </div>
    </div>
  );
}
