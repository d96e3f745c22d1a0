import { z } from "zod";
import { conditionSchema, type Condition } from "@/core/condition/condition";

/** Longer than this no filter in an address is. */
const LONGEST = 8_000;

/** What a backlog is narrowed to, as it stands in an address. */
export const backlogFilter = z
  .string()
  .max(LONGEST, "This filter is too long for an address.")
  .transform((text, context): unknown => {
    try {
      return JSON.parse(text);
    } catch {
      context.addIssue({ code: "custom", message: "This is no filter." });
      return z.NEVER;
    }
  })
  .pipe(conditionSchema)
  .optional();

/** Whether anything is asked of items. */
export const asksNothing = (filter: Condition): boolean =>
  filter.kind === "all" && filter.of.length === 0;

/** A filter as it stands in an address; nothing where it asks nothing. */
export const filterText = (filter: Condition): string | undefined =>
  asksNothing(filter) ? undefined : JSON.stringify(filter);
