import { toast } from "sonner";
import { problemOf } from "./request";

/** Says that something was done, with a way to take it back. */
export function tellDone(text: string, undo?: () => Promise<unknown>): void {
  toast(text, {
    duration: undo ? 8_000 : 4_000,
    action: undo && {
      label: "Undo",
      onClick: () => {
        undo().then(
          () => tellDone("Undone."),
          (error) => tellProblem(error),
        );
      },
    },
  });
}

/** Says what went wrong, that nothing was lost, and what to do. */
export function tellProblem(error: unknown): void {
  const { sentence, help } = problemOf(error);
  toast.error(sentence, { description: help, duration: 10_000 });
}
