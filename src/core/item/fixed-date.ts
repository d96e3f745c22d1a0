import { refuse, type Refusal } from "@/core/workflow/refusal";
import { ITEM_FIELDS, type ItemSnapshot } from "./fields";

type Dated = Pick<ItemSnapshot, "classOfService" | "dueOn">;

const lacksItsDate = ({ classOfService, dueOn }: Dated): boolean =>
  classOfService === "fixed date" && dueOn === null;

/**
 * Whether a change would leave an item of the class "fixed date" without one: then it is a promise
 * of nothing. What was so before is left alone.
 * @param before null where the item is made
 * @returns the refusal, which asks for the date; null where all is well
 */
export function refuseWithoutDate(before: Dated | null, after: Dated): Refusal | null {
  if (!lacksItsDate(after) || (before && lacksItsDate(before))) return null;
  return refuse(
    "field missing",
    "What has a fixed date needs that date.",
    "Say when it is due, or choose another class of service.",
    [{ field: "dueOn", label: ITEM_FIELDS.dueOn.label }],
  );
}
