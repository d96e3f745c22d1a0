import type { ItemChange } from "@/core/item/event";
import type { ItemSnapshot } from "@/core/item/fields";
import { refuse, type Refusal } from "@/core/workflow/refusal";
import type { TimeEntry } from "./entry";

/** Recording time, changing what was recorded, or removing it. */
export interface TimeCommand {
  kind: "record time";
  was: TimeEntry | null;
  becomes: TimeEntry | null;
  /** What is left of the item then, in hours; left out where it stays as it is. */
  left?: number | null;
}

/** What a command on recorded time changes: only whoever recorded it changes or removes it. */
export function decideTime(
  item: Pick<ItemSnapshot, "remainingHours">,
  { was, becomes, left }: TimeCommand,
  actorId: string | null,
): ItemChange[] | Refusal {
  if ([was, becomes].some((entry) => entry !== null && entry.personId !== actorId))
    return refuse(
      "not allowed",
      "Only whoever recorded this time changes it.",
      "Ask them to change it.",
    );
  const changes: ItemChange[] = [{ kind: "time recorded", old: was, new: becomes }];
  if (left !== undefined && left !== item.remainingHours)
    changes.push({
      kind: "changed",
      field: "remainingHours",
      old: item.remainingHours,
      new: left,
    });
  return changes;
}
