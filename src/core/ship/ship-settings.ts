import { z } from "zod";
import { branchPatternSchema } from "./branch-name";
import { FAILURES, type FailureKind } from "./delivery-figures";
import { closingWordsSchema } from "./closing-words";

/** How a project's work goes through its code hosts. */
export interface ShipSettings {
  /** How branches for its items are named. */
  branchPattern: string;
  /** The words after which a commit on main says that items are done. */
  closingWords: string[];
  /** After how many days an open branch is old. */
  branchDays: number;
  /** What names a deployment as a failure, in the figures of delivery. */
  failures: FailureKind[];
}

export const shipSettingsBody = z
  .object({
    branchPattern: branchPatternSchema,
    closingWords: closingWordsSchema,
    branchDays: z
      .number()
      .int("Whole days, please.")
      .min(1, "A branch is expected to live for a day at least.")
      .max(365, "A year at most."),
    failures: z.array(z.enum(FAILURES)).max(FAILURES.length),
  })
  .partial();
