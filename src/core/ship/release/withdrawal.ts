import { z } from "zod";
import { stateOf, transitionsFrom, type Workflow } from "@/core/workflow/workflow";
import type { StateId } from "@/core/workflow/state";

/** What becomes of a finished item when the release that it went out with is taken back. */
export const TAKEN_BACK = ["is reopened", "goes out again", "stays as it is"] as const;
export type TakenBack = (typeof TAKEN_BACK)[number];

const MOST_WHY = 500;

/** Takes a release back that was out, or says that it is out after all. */
export const withdrawBody = z
  .object({
    withdrawn: z.boolean(),
    /** Told to whoever reported something of it. */
    why: z.string().trim().max(MOST_WHY, `Use at most ${MOST_WHY} characters.`).default(""),
    /** Of all that is finished in it. */
    finished: z.enum(TAKEN_BACK).default("stays as it is"),
    /** Of some another one, by their ids. */
    except: z.record(z.uuid(), z.enum(TAKEN_BACK)).default({}),
  })
  .refine(({ withdrawn, why }) => !withdrawn || why !== "", {
    message: "Say why it is taken back: those who wait for it read it.",
    path: ["why"],
  });
export type WithdrawBody = z.output<typeof withdrawBody>;

/**
 * What whoever reported something reads when the release that it went out with is taken back.
 * @example "Crossing 20, which what you reported was part of, was taken back: prices were wrong."
 */
export const withdrawnWords = (release: string, why: string): string => {
  const ends = /[.!?]$/.test(why.trim()) ? "" : ".";
  return `${release}, which what you reported was part of, was taken back: ${why.trim()}${ends} You will hear once it is out again.`;
};

/** Where a finished item comes to when it is taken up again; null where no move leads out of its end. */
export function reopeningMove(workflow: Workflow, from: StateId): StateId | null {
  const found = transitionsFrom(workflow, from).find(
    ({ to }) => stateOf(workflow, to).kind !== "finished",
  );
  return found?.to ?? null;
}
