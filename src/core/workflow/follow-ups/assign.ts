import { z } from "zod";
import type { Vocabulary } from "@/core/condition/vocabulary";
import type { ItemSnapshot } from "@/core/item/fields";
import { named } from "../named";
import { ID } from "../parameter";
import { followUpKind, type FollowUpContext } from "./kind";

const newAssigneeSchema = z.discriminatedUnion("kind", [
  z.object({ kind: z.literal("person"), personId: ID }),
  z.object({ kind: z.literal("nobody") }),
  z.object({ kind: z.literal("mover") }),
  z.object({ kind: z.literal("creator") }),
  z.object({ kind: z.literal("reviewer") }),
  z.object({ kind: z.literal("previous assignee") }),
  z.object({ kind: z.literal("least loaded"), teamId: ID }),
  z.object({ kind: z.literal("in turn"), teamId: ID }),
]);

/** Whom a follow-up gives the item to. */
export type NewAssignee = z.output<typeof newAssigneeSchema>;

function assigneeWords(to: NewAssignee, vocabulary: Vocabulary): string {
  switch (to.kind) {
    case "person":
      return `gives it to ${named(vocabulary.people, to.personId)}`;
    case "nobody":
      return "takes the assignee off";
    case "mover":
      return "gives it to whoever moves it";
    case "creator":
      return "gives it to its creator";
    case "reviewer":
      return "gives it to the reviewer";
    case "previous assignee":
      return "gives it back to who had it before";
    case "least loaded":
      return `gives it to whoever of ${named(vocabulary.teams, to.teamId)} has least in progress`;
    case "in turn":
      return `gives it to the next in turn of ${named(vocabulary.teams, to.teamId)}`;
  }
}

/** Whom an item goes to; undefined where there is nobody to give it to. */
function newAssignee(
  to: NewAssignee,
  item: ItemSnapshot,
  context: FollowUpContext,
): string | null | undefined {
  switch (to.kind) {
    case "person":
      return to.personId;
    case "nobody":
      return null;
    case "mover":
      return context.actorId ?? undefined;
    case "creator":
      return item.createdBy ?? undefined;
    case "reviewer":
      return item.reviewerId ?? undefined;
    case "previous assignee":
      return context.previousAssigneeId ?? undefined;
    case "least loaded":
      return context.leastLoaded[to.teamId] ?? undefined;
    case "in turn":
      return context.nextInTurn[to.teamId] ?? undefined;
  }
}

export const assign = followUpKind({
  title: "give it to somebody",
  parameters: { to: newAssigneeSchema },
  begins: ({ teams }) => ({
    to: teams[0] ? { kind: "least loaded", teamId: teams[0].id } : { kind: "mover" },
  }),
  editors: { to: { kind: "new assignee" } },
  words: ({ to }, vocabulary) => assigneeWords(to, vocabulary),
  change: ({ to }, item, context) => {
    const assignee = newAssignee(to, item.now, context);
    // Without anybody to give it to it stays with whoever has it.
    if (assignee !== undefined) item.set("assigneeId", assignee);
  },
});
