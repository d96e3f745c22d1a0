import type { ItemCommand } from "@/core/item/command";
import type { ItemChange } from "@/core/item/event";
import { refuse, type Refusal } from "@/core/workflow/refusal";

type TalkCommand = Extract<
  ItemCommand,
  { kind: "comment" | "edit comment" | "take back comment" | "close talk" }
>;

/**
 * What is said about an item, changed and taken back. What went to people outside by mail stays as
 * it was sent.
 */
export function decideTalk(command: TalkCommand, actorId: string | null): ItemChange[] | Refusal {
  switch (command.kind) {
    case "comment":
      return comment(command);
    case "edit comment": {
      const { was, named } = command;
      const body = command.body.trim();
      const refused = ownRefusal(was, actorId, "change");
      if (refused) return refused;
      if (!body) return refuse("invalid", "The comment is empty.", "Take it back instead.");
      if (body === was.body) return [];
      const { commentId } = was;
      return [{ kind: "comment edited", old: { body: was.body }, new: { commentId, body, named } }];
    }
    case "take back comment": {
      const { was, byLead } = command;
      const why = command.why.trim();
      const ofOthers = was.authorId !== actorId || actorId === null;
      if (!(ofOthers && byLead)) {
        const refused = ownRefusal(was, actorId, "take back");
        if (refused) return refused;
      }
      if (was.gone) return [];
      if (was.sentOut) return SENT;
      if (ofOthers && why === "")
        return refuse("invalid", "Taking back what others wrote needs a reason.", "Say why.");
      return [{ kind: "comment taken back", new: { commentId: was.commentId }, note: why || null }];
    }
    case "close talk":
      return command.was === command.closing
        ? []
        : [{ kind: "talk closed", old: command.was, new: command.closing }];
  }
}

function comment({
  kind: _,
  closed,
  fromOutside,
  ...said
}: Extract<TalkCommand, { kind: "comment" }>): ItemChange[] | Refusal {
  const body = said.body.trim();
  if (!body) return refuse("invalid", "The comment is empty.", "Write something first.");
  if (closed === "nobody")
    return refuse(
      "talk closed",
      "The talk about this item is closed.",
      "A lead can open it again.",
    );
  if (closed === "members" && (fromOutside || said.audience === "reporters"))
    return refuse(
      "talk closed",
      "The talk about this item is closed to everybody outside the project.",
      fromOutside ? "Send a new report." : "A lead can open it again.",
    );
  return [{ kind: "commented", new: { ...said, body } }];
}

const SENT = refuse(
  "invalid",
  "This went out by mail and stays as it was sent.",
  "Write once more what is different.",
);

function ownRefusal(
  { authorId, gone, sentOut }: { authorId: string | null; gone: boolean; sentOut: boolean },
  actorId: string | null,
  what: "change" | "take back",
): Refusal | null {
  if (authorId === null || authorId !== actorId)
    return refuse(
      "not for you",
      `Only whoever wrote a comment can ${what} it.`,
      what === "change" ? "Answer it instead." : "Ask a lead.",
    );
  if (gone && what === "change")
    return refuse("invalid", "This comment was taken back.", "Write a new one.");
  return sentOut ? SENT : null;
}
