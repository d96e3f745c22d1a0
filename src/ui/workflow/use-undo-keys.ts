import { isWriting } from "@/ui/kit/takes-keys";
import { useEffect } from "react";

type Step = (() => void) | null | undefined;

/** Ctrl or Cmd with Z takes back, with Shift and Z or with Y does again; not while a text is written. */
export function useUndoKeys(undo: Step, redo: Step): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey)) return;
      if (isWriting(event.target)) return;
      const letter = event.key.toLowerCase();
      const again = letter === "y" || (letter === "z" && event.shiftKey);
      const step = again ? redo : letter === "z" ? undo : null;
      if (!step) return;
      event.preventDefault();
      step();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [undo, redo]);
}
