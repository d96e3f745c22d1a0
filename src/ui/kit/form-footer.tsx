import type { ReactNode } from "react";
import { Button } from "./button";
import { FormProblem } from "./note";

/** The end of a form: what is wrong, what sends it, and the way out. */
export function FormFooter({
  send,
  busy = false,
  disabled = false,
  problem,
  leave = "Leave it",
  onSend,
  onLeave,
  className = "",
  children,
}: {
  /** The verb on the button. */
  send: string;
  busy?: boolean;
  disabled?: boolean;
  problem?: ReactNode;
  leave?: string;
  /** Without it the button sends the form around it. */
  onSend?: () => void;
  onLeave?: () => void;
  className?: string;
  children?: ReactNode;
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
            {leave}
          </Button>
        )}
        {children}
      </div>
    </div>
  );
}
