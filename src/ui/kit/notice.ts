import { toast } from "sonner";
import { problemOf } from "./request";

/**
 * Says that something was done, with a way to take it back.
 * @param undo may answer with what it did, in a sentence
 */
export function tellDone(text: string, undo?: () => Promise<unknown>): void {
  toast(text, {
    duration: undo ? 8_000 : 4_000,
    action: undo && {
      label: "Undo",
      onClick: () => {
        undo().then(
          (said) => tellDone(typeof said === "string" ? said : "Undone."),
          (error) => tellProblem(error),
        );
      },
    },
  });
}

/**
 * Says what went wrong, that nothing was lost, and what to do, unless that was read already.
 * @param way leads to where it can be mended
 */
export function tellProblem(error: unknown, way?: { label: string; onClick: () => void }): void {
  const { sentence, help, wasRead } = problemOf(error);
  if (wasRead) return;
  toast.error(sentence, { description: help, duration: 10_000, action: way });
}
