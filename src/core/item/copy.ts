import { z } from "zod";
import { ITEM_FIELDS, type ItemSnapshot } from "./fields";
import { NEW_ITEM, type NewItem } from "./new-item";

/** What of an item a copy of it takes along, in the order in which it is offered. */
export const COPY_PARTS = {
  texts: "description, criteria and how to test",
  facts: "its fields: class, priority, size, parts, labels and the project's own",
  people: "assignee, reviewer and team",
  plan: "sprint, release and due date",
  parent: "what it stands under",
  children: "what stands under it, as it would be new",
  link: "a link to the original",
} as const;
export type CopyPart = keyof typeof COPY_PARTS;
export const COPY_PART_NAMES = Object.keys(COPY_PARTS) as CopyPart[];

/** What a copy takes along unless somebody says otherwise. */
export const USUAL_PARTS: readonly CopyPart[] = ["texts", "facts", "parent", "link"];

/** So many items under one are copied with it at most. */
export const MOST_COPIED = 100;

export const copyBody = z.object({
  commandId: z.uuid(),
  title: ITEM_FIELDS.title.schema,
  parts: z.array(z.enum(COPY_PART_NAMES as [CopyPart, ...CopyPart[]])).max(10),
});
export type CopyRequest = z.output<typeof copyBody>;

/**
 * What a copy of an item is made with. It begins as something new: without a history, nobody has
 * begun it, and what happened outside is not its own. Who sees it stays as it is; what it stands
 * under is for whoever makes it.
 */
export function copiedFields(of: ItemSnapshot, title: string, parts: readonly CopyPart[]): NewItem {
  const has = (part: CopyPart) => parts.includes(part);
  const { typeId, restricted, origin } = of;
  return {
    ...NEW_ITEM,
    title,
    typeId,
    restricted,
    origin,
    ...(has("texts") && {
      description: of.description,
      criteria: of.criteria,
      howToTest: of.howToTest,
    }),
    ...(has("facts") && factsOf(of, has("plan"))),
    ...(has("people") && {
      assigneeId: of.assigneeId,
      reviewerId: of.reviewerId,
      teamId: of.teamId,
    }),
    ...(has("plan") && { sprintId: of.sprintId, releaseId: of.releaseId, dueOn: of.dueOn }),
  };
}

/** A fixed date needs the day: without the plan the copy is of the standard class. */
function factsOf(of: ItemSnapshot, withPlan: boolean): Partial<NewItem> {
  const { severity, priority, estimate, place, parts, labels, own, classOfService } = of;
  const dated = classOfService === "fixed date" && !(withPlan && of.dueOn !== null);
  return {
    severity,
    priority,
    estimate,
    place,
    parts,
    labels,
    own,
    classOfService: dated ? "standard" : classOfService,
  };
}
